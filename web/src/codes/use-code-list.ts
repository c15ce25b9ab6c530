import { useQuery } from "@tanstack/react-query";
import { useEffect, useRef, useState } from "react";
import { api, ask } from "../api/client";
import type { CodeList } from "../definitions";
import { typing } from "../ui/keys";

/** A code list that is being edited: what is saved, what has changed since, and a way back. */
export function useCodeList(name: string) {
  const view = useQuery({
    queryKey: ["code-list", name],
    refetchOnWindowFocus: false,
    queryFn: () => ask(api.GET("/api/code-lists/{name}", { params: { path: { name } } })),
  });
  const saved = view.data?.list as unknown as CodeList | undefined;
  const [edited, setEdited] = useState<CodeList>();
  const past = useRef<CodeList[]>([]);
  const basedOn = useRef(0);
  const list = edited ?? saved;
  const change = (next: CodeList) => {
    if (!list) return;
    if (!edited) basedOn.current = view.data?.version ?? 0;
    past.current = [...past.current.slice(-200), list];
    setEdited(next);
  };
  const undo = () => {
    const before = past.current.pop();
    if (before) setEdited(before === saved ? undefined : before);
  };
  const reset = () => {
    past.current = [];
    setEdited(undefined);
  };
  useEffect(() => {
    const onKey = (e: KeyboardEvent) => {
      if ((e.ctrlKey || e.metaKey) && e.key === "z" && !typing(e)) {
        e.preventDefault();
        undo();
      }
    };
    const onLeave = (e: BeforeUnloadEvent) => edited && e.preventDefault();
    window.addEventListener("keydown", onKey);
    window.addEventListener("beforeunload", onLeave);
    return () => {
      window.removeEventListener("keydown", onKey);
      window.removeEventListener("beforeunload", onLeave);
    };
  });
  return {
    view,
    list,
    changed: edited !== undefined,
    basedOn: edited ? basedOn.current : (view.data?.version ?? 0),
    change,
    undo: past.current.length > 0 ? undo : undefined,
    reset,
  };
}

/** Texts as a spreadsheet copies them: rows on lines, cells apart by tabs, quotes around what holds either. */
export function cellsOf(text: string): string[][] {
  const rows: string[][] = [[]];
  let cell = "";
  let quoted = false;
  for (let i = 0; i < text.length; i++) {
    const c = text[i];
    if (quoted) {
      if (c !== '"') cell += c;
      else if (text[i + 1] === '"') {
        cell += c;
        i++;
      } else quoted = false;
    } else if (c === '"' && cell === "") quoted = true;
    else if (c === "\t" || c === "\n") {
      rows[rows.length - 1].push(cell);
      cell = "";
      if (c === "\n") rows.push([]);
    } else if (c !== "\r") cell += c;
  }
  rows[rows.length - 1].push(cell);
  const last = rows[rows.length - 1];
  return last.length === 1 && last[0] === "" ? rows.slice(0, -1) : rows;
}
