import { useQuery, useQueryClient } from "@tanstack/react-query";
import { useCallback, useEffect, useRef, useState } from "react";
import { api, ask, type Schemas } from "../api/client";
import type { Job, Layout, Sheet } from "../definitions";

export type SaveState = "saved" | "saving" | "unsaved" | "problem";

/** A job's draft in the editor: saves itself, undoes and redoes, and says how it stands. */
export function useSheet(name: string) {
  const queries = useQueryClient();
  const key = ["job", name];
  const view = useQuery({
    queryKey: key,
    queryFn: () => ask(api.GET("/api/jobs/{name}", { params: { path: { name } } })),
    refetchOnWindowFocus: false,
    staleTime: Infinity,
  });
  const [sheet, setSheet] = useState<Sheet>();
  const [state, setState] = useState<SaveState>("saved");
  const [trouble, setTrouble] = useState<string>();
  const past = useRef<Sheet[]>([]);
  const future = useRef<Sheet[]>([]);
  const lastChange = useRef(0);
  const revision = useRef(0);
  const saving = useRef<Promise<unknown>>(Promise.resolve());
  const wanted = useRef<Sheet>(undefined);

  useEffect(() => {
    if (view.data && !sheet) {
      revision.current = view.data.revision;
      setSheet({ job: view.data.job as Job, layout: view.data.layout as Layout });
    }
  }, [view.data, sheet]);

  const save = useCallback(() => {
    saving.current = saving.current.then(async () => {
      const body = wanted.current;
      if (!body) return;
      wanted.current = undefined;
      setState("saving");
      try {
        const saved = await ask(
          api.PUT("/api/jobs/{name}/draft", {
            params: { path: { name } },
            body: { ...body, revision: revision.current } as Schemas["Draft"],
          }),
        );
        revision.current = saved.revision;
        queries.setQueryData(["job", name], saved);
        queries.invalidateQueries({ queryKey: ["job-part", name] });
        setTrouble(undefined);
        setState(wanted.current ? "unsaved" : "saved");
      } catch (e) {
        wanted.current ??= body;
        setTrouble((e as Error).message);
        setState("problem");
      }
    });
    return saving.current;
  }, [name, queries]);

  useEffect(() => {
    if (state !== "unsaved") return;
    const timer = setTimeout(save, 500);
    return () => clearTimeout(timer);
  }, [state, save, sheet]);

  useEffect(() => {
    const leave = (e: BeforeUnloadEvent) => {
      if (wanted.current) e.preventDefault();
    };
    window.addEventListener("beforeunload", leave);
    return () => {
      window.removeEventListener("beforeunload", leave);
      if (wanted.current) save();
    };
  }, [save]);

  const put = (next: Sheet) => {
    wanted.current = next;
    setSheet(next);
    setState("unsaved");
  };

  const change = (next: Sheet) => {
    if (!sheet) return;
    // Letters typed in one go are one step back.
    if (Date.now() - lastChange.current > 800) past.current.push(sheet);
    lastChange.current = Date.now();
    future.current = [];
    put(next);
  };

  const step = (from: Sheet[], to: Sheet[]) => {
    const target = from.pop();
    if (!target || !sheet) return;
    to.push(sheet);
    lastChange.current = 0;
    put(target);
  };

  return {
    view,
    sheet,
    state,
    trouble,
    change,
    undo: () => step(past.current, future.current),
    redo: () => step(future.current, past.current),
    flush: save,
  };
}
