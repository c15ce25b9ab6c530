import { useQueryClient } from "@tanstack/react-query";
import { useCallback, useEffect, useRef, useState } from "react";
import { toast } from "sonner";
import { api, ask } from "../api/client";
import { keyNamed, nameOf, type RejectKey } from "./use-rejects";

/** The texts of a document's records as they are being typed. */
export type Texts = Record<string, string>;

type Standing = { texts: Texts; trouble?: string };

const place = "ninepin.corrections";

/** What is not kept yet outlives the page and a reload, so that one who comes back finds it. */
const pending = new Map<string, Texts>(Object.entries(JSON.parse(sessionStorage.getItem(place) ?? "{}")));
/** What was sent to be kept, and not answered yet. */
const sent = new Map<string, Texts>();

/** Notes in this window all that Ninepin has not said to have. */
function note() {
  const all: Record<string, Texts> = Object.fromEntries(sent);
  for (const [name, texts] of pending) all[name] = { ...all[name], ...texts };
  if (Object.keys(all).length > 0) sessionStorage.setItem(place, JSON.stringify(all));
  else sessionStorage.removeItem(place);
}

/**
 * Corrections that keep themselves a moment after the last key, whichever reject is looked at meanwhile. Before anything is
 * sent again, whatever is not kept yet is kept first.
 */
export function useCorrections(kept: () => void) {
  const queries = useQueryClient();
  const timers = useRef(new Map<string, ReturnType<typeof setTimeout>>());
  const running = useRef(new Map<string, Promise<boolean>>());
  const [standing, setStanding] = useState<Record<string, Standing>>(() =>
    Object.fromEntries([...pending].map(([name, texts]) => [name, { texts, trouble: "it is only in this window" }])),
  );
  const after = useRef(kept);
  after.current = kept;

  const keep = useCallback(
    (name: string): Promise<boolean> => {
      clearTimeout(timers.current.get(name));
      const before = running.current.get(name) ?? Promise.resolve(true);
      const now = before.then(async () => {
        const texts = pending.get(name);
        const at = keyNamed(name);
        if (!texts || !at) return true;
        pending.delete(name);
        sent.set(name, texts);
        try {
          const params = { path: { run: at.run, leg: at.leg, record: at.record } };
          const document = await ask(api.PUT("/api/v1/rejects/{run}/{leg}/{record}", { params, body: { texts } }));
          queries.setQueryData(["rejects", "document", name], document);
          if (!pending.has(name)) setStanding(({ [name]: _, ...rest }) => rest);
          after.current();
          return true;
        } catch (e) {
          // What was typed meanwhile is newer.
          pending.set(name, { ...texts, ...pending.get(name) });
          const trouble = (e as Error).message;
          setStanding((s) => ({ ...s, [name]: { texts: pending.get(name) ?? texts, trouble } }));
          return false;
        } finally {
          sent.delete(name);
          note();
        }
      });
      running.current.set(name, now);
      return now;
    },
    [queries],
  );

  const change = useCallback(
    (at: RejectKey, texts: Texts) => {
      const name = nameOf(at);
      pending.set(name, { ...pending.get(name), ...texts });
      note();
      setStanding((s) => ({ ...s, [name]: { texts: { ...s[name]?.texts, ...texts } } }));
      clearTimeout(timers.current.get(name));
      timers.current.set(
        name,
        setTimeout(() => keep(name), 600),
      );
    },
    [keep],
  );

  /** Keeps all that is not kept yet; whether all of it is. */
  const flush = useCallback(async () => {
    const names = new Set([...pending.keys(), ...running.current.keys()]);
    const all = await Promise.all([...names].map(keep));
    return all.every(Boolean);
  }, [keep]);

  useEffect(() => {
    const leave = (e: BeforeUnloadEvent) => {
      if (pending.size > 0 || sent.size > 0) e.preventDefault();
    };
    const again = () => flush();
    again();
    window.addEventListener("signed-in", again);
    window.addEventListener("beforeunload", leave);
    return () => {
      window.removeEventListener("signed-in", again);
      window.removeEventListener("beforeunload", leave);
      flush().then((all) => {
        if (!all) toast.error("A correction could not be kept. It is still in this window: go back to Rejects.");
      });
    };
  }, [flush]);

  return { standing, change, keep: (at: RejectKey) => keep(nameOf(at)), flush };
}

export type Corrections = ReturnType<typeof useCorrections>;
