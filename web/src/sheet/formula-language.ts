import { type Completion, type CompletionContext, type CompletionResult, snippet } from "@codemirror/autocomplete";
import { HighlightStyle, StreamLanguage, syntaxHighlighting } from "@codemirror/language";
import { tags } from "@lezer/highlight";
import type { Schemas } from "../api/client";

const words = new Set(
  (
    "and or not case when then else end is null in like like_regex between symmetric true false unknown from for as " +
    "escape flag interval date time timestamp year month day hour minute second leading trailing both placing " +
    "format with occurrence varchar char numeric decimal integer boolean"
  ).split(" "),
);

/** The words and signs of ISO SQL expressions, told apart for their colours. */
const language = StreamLanguage.define<{ comment: boolean }>({
  startState: () => ({ comment: false }),
  token(stream, state) {
    if (state.comment || stream.match("/*")) {
      state.comment = !stream.match(/^.*?\*\//);
      if (state.comment) stream.skipToEnd();
      return "comment";
    }
    if (stream.match(/^--.*/)) return "comment";
    if (stream.match(/^'([^']|'')*'?/)) return "string";
    if (stream.match(/^"([^"]|"")*"?/)) return "variableName";
    if (stream.match(/^:[\p{L}_][\p{L}\p{N}_]*/u)) return "atom";
    if (stream.match(/^\d+(\.\d*)?|^\.\d+/)) return "number";
    const word = stream.match(/^[\p{L}_][\p{L}\p{N}_]*/u) as RegExpMatchArray | null;
    if (word) {
      if (words.has(word[0].toLowerCase())) return "keyword";
      return stream.match(/^\s*\(/, false) ? "propertyName" : "variableName";
    }
    stream.next();
    return null;
  },
});

const colours = HighlightStyle.define([
  { tag: tags.keyword, color: "var(--pine)", fontWeight: "600" },
  { tag: tags.propertyName, color: "var(--pine)" },
  { tag: tags.string, color: "var(--ochre)" },
  { tag: tags.number, color: "var(--slate)" },
  { tag: tags.atom, color: "var(--slate)" },
  { tag: tags.comment, color: "var(--faint)", fontStyle: "italic" },
]);

export const formulaLanguage = [language, syntaxHighlighting(colours)];

/** Offers fields with their values in the sample, and functions with how they are written and an example. */
export function complete(
  context: CompletionContext,
  names: Schemas["Named"][],
  functions: Schemas["FunctionGuide"][],
): CompletionResult | null {
  const before = context.matchBefore(/"[^"]*|:?[\p{L}_][\p{L}\p{N}_."]*/u);
  if (!context.explicit && (!before || words.has(before.text.toLowerCase()))) return null;
  return {
    from: before?.from ?? context.pos,
    options: [...names.map((n) => ofField(n, !!before?.text.includes("."))), ...functions.map(ofFunction)],
  };
}

/** A field; it is found by its own name as well as by that with its record type. */
function ofField(field: Schemas["Named"], withType: boolean): Completion {
  const plain = field.name.slice(field.name.indexOf(".") + 1).replaceAll('"', "");
  return {
    label: withType ? field.name : plain,
    displayLabel: field.name,
    apply: field.name,
    type: "field",
    detail: field.value ?? (field.below ? "of each line" : "NULL"),
    info: field.type,
    boost: 90,
  };
}

function ofFunction(guide: Schemas["FunctionGuide"]): Completion {
  const bare = guide.signature === guide.name;
  return {
    label: guide.name,
    type: "function",
    detail: guide.signature,
    info: `Example: ${guide.example}`,
    apply: bare || guide.name === "CASE" ? guide.name : snippet(`${guide.name}(\${})`),
  };
}
