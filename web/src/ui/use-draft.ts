import { useQuery, useQueryClient } from "@tanstack/react-query";
import { useCallback, useEffect, useRef, useState } from "react";
import { toast } from "sonner";
import { Problem, type Schemas } from "../api/client";
import type { Conflict } from "./conflict-dialog";
import { typing } from "./keys";
import type { Keeping } from "./standing";

export type SaveState = "saved" | "saving" | "unsaved" | "problem" | "conflict";

function keepingOf(state: SaveState, trouble?: string): Keeping {
  if (state === "saved") return "kept";
  if (state === "saving" || state === "unsaved") return "keeping";
  return { trouble: state === "conflict" ? "it was changed meanwhile" : (trouble ?? "Ninepin does not answer") };
}

type Saved = { revision: number; updatedBy: string; updatedAt: string };

type Source<View extends Saved, Draft> = {
  key: readonly unknown[];
  load: () => Promise<View>;
  draftOf: (view: View) => Draft;
  save: (draft: Draft, revision: number) => Promise<View>;
  /** How a draft differs from the one that is saved. */
  difference: (draft: Draft, revision: number) => Promise<Schemas["Change"][]>;
  /** What else is no longer true when the draft has been saved. */
  saved: () => void;
};

/** What is being saved of a page that was left; whoever comes back waits for it. */
const leaving = new Map<string, Promise<unknown>>();

/** A draft in an editor: saves itself, undoes and redoes, and says how it stands. */
export function useDraft<View extends Saved, Draft>(source: Source<View, Draft>) {
  const queries = useQueryClient();
  const view = useQuery({
    queryKey: source.key,
    queryFn: async () => {
      await leaving.get(JSON.stringify(source.key));
      return source.load();
    },
    refetchOnWindowFocus: false,
    staleTime: Infinity,
  });
  const [draft, setDraft] = useState<Draft>();
  const [state, setState] = useState<SaveState>("saved");
  const [trouble, setTrouble] = useState<string>();
  const [theirs, setTheirs] = useState<View>();
  const past = useRef<Draft[]>([]);
  const future = useRef<Draft[]>([]);
  const lastChange = useRef(0);
  const revision = useRef(0);
  const saving = useRef<Promise<unknown>>(Promise.resolve());
  const wanted = useRef<Draft>(undefined);
  /** Whether something was sent to be saved, and not answered yet. */
  const sent = useRef(false);
  const how = useRef(source);
  how.current = source;

  useEffect(() => {
    if (view.data && draft === undefined) {
      revision.current = view.data.revision;
      setDraft(how.current.draftOf(view.data));
    }
  }, [view.data, draft]);

  const save = useCallback(() => {
    saving.current = saving.current.then(async () => {
      const body = wanted.current;
      if (body === undefined) return;
      wanted.current = undefined;
      sent.current = true;
      setState("saving");
      try {
        const saved = await how.current.save(body, revision.current);
        revision.current = saved.revision;
        queries.setQueryData(how.current.key, saved);
        how.current.saved();
        setTrouble(undefined);
        setState(wanted.current === undefined ? "saved" : "unsaved");
      } catch (e) {
        wanted.current ??= body;
        if (e instanceof Problem && e.status === 409) {
          const now = await how.current.load().catch(() => undefined);
          if (now) {
            setTheirs(now);
            setTrouble(undefined);
            setState("conflict");
            return;
          }
        }
        setTrouble((e as Error).message);
        setState("problem");
      } finally {
        sent.current = false;
      }
    });
    return saving.current;
  }, [queries]);

  useEffect(() => {
    if (state !== "unsaved") return;
    const timer = setTimeout(save, 500);
    return () => clearTimeout(timer);
  }, [state, save, draft]);

  useEffect(() => {
    const leave = (e: BeforeUnloadEvent) => {
      if (wanted.current !== undefined || sent.current) e.preventDefault();
    };
    window.addEventListener("beforeunload", leave);
    return () => {
      window.removeEventListener("beforeunload", leave);
      if (wanted.current === undefined) return;
      const { key } = how.current;
      const name = JSON.stringify(key);
      queries.removeQueries({ queryKey: key, exact: true });
      const saved = save().finally(() => {
        leaving.delete(name);
        if (wanted.current !== undefined) toast.error(`What was changed last at ${key.at(-1)} could not be saved.`);
      });
      leaving.set(name, saved);
    };
  }, [save, queries]);

  // What could not be saved because the session had ended, or Ninepin was away, is tried again.
  useEffect(() => {
    const again = () => {
      if (wanted.current !== undefined && theirs === undefined) save();
    };
    window.addEventListener("signed-in", again);
    window.addEventListener("online", again);
    return () => {
      window.removeEventListener("signed-in", again);
      window.removeEventListener("online", again);
    };
  }, [save, theirs]);

  const put = (next: Draft) => {
    wanted.current = next;
    setDraft(next);
    setState("unsaved");
  };

  const change = (next: Draft) => {
    if (draft === undefined) return;
    // Letters typed in one go are one step back.
    if (Date.now() - lastChange.current > 800) past.current.push(draft);
    lastChange.current = Date.now();
    future.current = [];
    put(next);
  };

  const step = (from: Draft[], to: Draft[]) => {
    const target = from.pop();
    if (target === undefined || draft === undefined) return;
    to.push(draft);
    lastChange.current = 0;
    put(target);
  };

  /** Takes what the server now holds, without a change of one's own. */
  const take = (saved: View) => {
    revision.current = saved.revision;
    wanted.current = undefined;
    queries.setQueryData(how.current.key, saved);
    setDraft(how.current.draftOf(saved));
    setTheirs(undefined);
    setTrouble(undefined);
    setState("saved");
  };

  const conflict: Conflict | undefined = theirs &&
    draft && {
      by: theirs.updatedBy,
      at: theirs.updatedAt,
      difference: () => how.current.difference(draft, theirs.revision),
      takeMine: () => {
        revision.current = theirs.revision;
        setTheirs(undefined);
        put(draft);
      },
      takeTheirs: () => {
        past.current.push(draft);
        take(theirs);
      },
    };

  return {
    view,
    draft,
    state,
    keeping: keepingOf(state, trouble),
    conflict,
    change,
    take,
    undo: () => step(past.current, future.current),
    redo: () => step(future.current, past.current),
    flush: save,
  };
}

/** Ctrl Z and Ctrl Shift Z outside of boxes that undo for themselves. */
export function useUndoKeys(editor: { undo: () => void; redo: () => void }) {
  useEffect(() => {
    const onKey = (e: KeyboardEvent) => {
      if ((e.ctrlKey || e.metaKey) && e.key.toLowerCase() === "z" && !typing(e)) {
        e.preventDefault();
        if (e.shiftKey) editor.redo();
        else editor.undo();
      }
    };
    window.addEventListener("keydown", onKey);
    return () => window.removeEventListener("keydown", onKey);
  });
}
