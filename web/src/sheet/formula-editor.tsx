import { acceptCompletion, autocompletion, closeBrackets, completionKeymap } from "@codemirror/autocomplete";
import { defaultKeymap, history, historyKeymap } from "@codemirror/commands";
import { setDiagnostics } from "@codemirror/lint";
import { EditorState } from "@codemirror/state";
import { EditorView, keymap } from "@codemirror/view";
import { useEffect, useRef } from "react";
import type { Schemas } from "../api/client";
import { complete, formulaLanguage } from "./formula-language";

type Props = {
  label: string;
  text: string;
  change: (text: string) => void;
  problem?: { from: number; to: number; message: string };
  names: Schemas["Named"][];
  functions: Schemas["FunctionGuide"][];
};

const look = EditorView.theme({
  "&": { backgroundColor: "var(--card)", color: "var(--ink)", border: "1px solid var(--line)", borderRadius: "4px" },
  "&.cm-focused": { outline: "2px solid var(--pine)", outlineOffset: "-1px" },
  ".cm-content": { fontFamily: "var(--font-mono)", padding: "6px 0", caretColor: "var(--ink)" },
  ".cm-line": { padding: "0 8px" },
  ".cm-cursor": { borderLeftColor: "var(--ink)" },
  ".cm-scroller": { maxHeight: "180px", lineHeight: "1.45" },
  ".cm-tooltip": { backgroundColor: "var(--card)", color: "var(--ink)", border: "1px solid var(--line)" },
  ".cm-tooltip-autocomplete > ul": { fontFamily: "var(--font-mono)", maxHeight: "220px" },
  ".cm-tooltip-autocomplete > ul > li": { padding: "2px 8px" },
  ".cm-tooltip-autocomplete > ul > li[aria-selected]": {
    backgroundColor: "var(--pine-wash) !important",
    color: "var(--ink) !important",
  },
  ".cm-completionDetail": { color: "var(--faint)", fontStyle: "normal", marginLeft: "12px" },
  ".cm-completionInfo": { padding: "4px 8px", fontFamily: "var(--font-mono)", maxWidth: "320px" },
  ".cm-lintRange-error": {
    backgroundImage: "none",
    textDecoration: "underline wavy var(--brick)",
    textUnderlineOffset: "3px",
  },
  ".cm-diagnostic-error": { borderLeft: "3px solid var(--brick)" },
});

/** An editor of a formula: completion, colours, and the place underlined that is wrong. Tab leaves it. */
export function FormulaEditor(props: Props) {
  const { label, text, problem } = props;
  const host = useRef<HTMLDivElement>(null);
  const view = useRef<EditorView | null>(null);
  const latest = useRef(props);
  latest.current = props;
  // The editor is made once; what changes later reaches it through the effects below.
  useEffect(() => {
    if (!host.current) return;
    const made = new EditorView({
      parent: host.current,
      state: EditorState.create({
        doc: text,
        extensions: [
          history(),
          closeBrackets(),
          autocompletion({
            icons: false,
            override: [(context) => complete(context, latest.current.names, latest.current.functions)],
          }),
          keymap.of([{ key: "Tab", run: acceptCompletion }, ...completionKeymap, ...historyKeymap, ...defaultKeymap]),
          EditorView.lineWrapping,
          EditorView.contentAttributes.of({ "aria-label": label, spellcheck: "false" }),
          EditorView.updateListener.of((update) => {
            if (update.docChanged) latest.current.change(update.state.doc.toString());
          }),
          formulaLanguage,
          look,
        ],
      }),
    });
    view.current = made;
    return () => made.destroy();
  }, []);
  useEffect(() => {
    const editor = view.current;
    if (editor && editor.state.doc.toString() !== text) {
      editor.dispatch({ changes: { from: 0, to: editor.state.doc.length, insert: text } });
    }
  }, [text]);
  useEffect(() => {
    const editor = view.current;
    if (!editor) return;
    const end = editor.state.doc.length;
    const from = Math.min(problem?.from ?? 0, Math.max(0, end - 1));
    const to = Math.min(Math.max(problem?.to ?? 0, from + 1), end);
    const marks = problem && end ? [{ from, to, severity: "error" as const, message: problem.message }] : [];
    editor.dispatch(setDiagnostics(editor.state, marks));
  }, [problem?.from, problem?.to, problem?.message, problem]);
  return <div ref={host} className="min-w-0 text-sm" />;
}
