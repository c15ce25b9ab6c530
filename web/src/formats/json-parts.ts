import type { TextPart } from "./format-view";

/** A plain object or array that is no longer than this stays on one line. */
const short = 80;

/** A JSON text that stands on one line, broken into the lines that a person would write. */
export function jsonParts(text: string): TextPart[] {
  const ends = endsOf(text);
  const parts: TextPart[] = [];
  let from = 0;
  let depth = 0;
  const breakAt = (to: number, then: number) => {
    while (from < to && text[from] === " ") from++;
    if (from < to) parts.push({ from, to, depth });
    from = to;
    depth = then;
  };
  for (let i = 0; i < text.length; i++) {
    const c = text[i];
    if (c === '"') i = endOfText(text, i);
    else if (c === "{" || c === "[") {
      const plain = ends.get(i);
      if (plain === undefined) breakAt(i + 1, depth + 1);
      else i = plain;
    } else if (c === "}" || c === "]") breakAt(i, Math.max(0, depth - 1));
    else if (c === ",") breakAt(i + 1, depth);
  }
  breakAt(text.length, 0);
  return parts;
}

/** Where each short object or array ends that holds no other one, by where it begins. */
function endsOf(text: string): Map<number, number> {
  const ends = new Map<number, number>();
  let begun = -1;
  for (let i = 0; i < text.length; i++) {
    const c = text[i];
    if (c === '"') i = endOfText(text, i);
    else if (c === "{" || c === "[") begun = i;
    else if (c === "}" || c === "]") {
      if (begun >= 0 && i - begun < short) ends.set(begun, i);
      begun = -1;
    }
  }
  return ends;
}

/** The quote that ends a text, by the one that begins it. */
function endOfText(text: string, begin: number): number {
  let i = begin + 1;
  while (i < text.length && text[i] !== '"') i += text[i] === "\\" ? 2 : 1;
  return i;
}
