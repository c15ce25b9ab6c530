import { useQuery } from "@tanstack/react-query";
import { useEffect, useRef, useState } from "react";
import { api, ask } from "../api/client";
import type { CodeList } from "../definitions";
import { typing } from "../ui/keys";

/** Edits and the version they began from. */
type Edits = { list: CodeList; basedOn: number };

const keyOf = (name: string) => `code-list ${name}`;

/** The edits that this window has kept; a list holds no secret. */
function keptEdits(name: string): Edits | undefined {
  const kept = sessionStorage.getItem(keyOf(name));
  return kept ? (JSON.parse(kept) as Edits) : undefined;
}

/** Keeps edits in this window, through reloads and other screens; what is in the way, or undefined. */
function keepEdits(name: string, edits: Edits | undefined): string | undefined {
  try {
    if (edits) sessionStorage.setItem(keyOf(name), JSON.stringify(edits));
    else sessionStorage.removeItem(keyOf(name));
    return undefined;
  } catch {
    sessionStorage.removeItem(keyOf(name));
    return "it is too large for this browser to keep. Save a version before you leave";
  }
}

/** A code list that is being edited: what is saved, what has changed since, and a way back. Edits keep themselves. */
export function useCodeList(name: string) {
  const view = useQuery({
    queryKey: ["code-list", name],
    refetchOnWindowFocus: false,
    queryFn: () => ask(api.GET("/api/v1/code-lists/{list}", { params: { path: { list: name } } })),
  });
  const saved = view.data?.list;
  const [edits, setEdits] = useState(() => keptEdits(name));
  const [trouble, setTrouble] = useState<string>();
  const past = useRef<(Edits | undefined)[]>([]);
  const latest = useRef(edits);
  latest.current = edits;
  const list = edits?.list ?? saved;
  const put = (next: Edits | undefined) => {
    setEdits(next);
    setTrouble(keepEdits(name, next));
  };
  const change = (next: CodeList) => {
    if (!list) return;
    past.current = [...past.current.slice(-200), edits];
    put({ list: next, basedOn: edits?.basedOn ?? view.data?.version ?? 0 });
  };
  const undo = () => {
    if (past.current.length > 0) put(past.current.pop());
  };
  const reset = () => {
    past.current = [];
    put(undefined);
  };
  useEffect(() => {
    const onKey = (e: KeyboardEvent) => {
      if ((e.ctrlKey || e.metaKey) && e.key === "z" && !typing(e)) {
        e.preventDefault();
        undo();
      }
    };
    window.addEventListener("keydown", onKey);
    return () => window.removeEventListener("keydown", onKey);
  });
  return {
    view,
    list,
    changed: edits !== undefined,
    trouble,
    basedOn: edits?.basedOn ?? view.data?.version ?? 0,
    change,
    undo: past.current.length > 0 ? undo : undefined,
    reset,
    /** Is through with what was saved as a version; what has changed since it was sent is kept as changes of that. */
    saved: (sent: CodeList, version: number) => {
      const now = latest.current;
      if (now && now.list !== sent) put({ list: now.list, basedOn: version });
      else reset();
    },
    /** Goes on with one's own edits as changes of a newer version. */
    baseOn: (version: number) => edits && put({ list: edits.list, basedOn: version }),
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
