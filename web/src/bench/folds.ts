/** Lines that stand inside others, by how far they are indented, and can be folded away. */

export type Foldable = { text: string; key: string; group: unknown };

/** How many lines stand inside each line, directly or further in; 0 where none does. */
export function insideOf(lines: Foldable[]): number[] {
  const inside = new Array<number>(lines.length).fill(0);
  const around: number[] = [];
  const indents = lines.map((l) => indentOf(l.text));
  const close = (at: number, indent: number) => {
    while (around.length > 0) {
      const last = around[around.length - 1];
      if (lines[last].group === lines[at]?.group && indents[last] < indent) break;
      around.pop();
      inside[last] = at - last - 1;
    }
  };
  lines.forEach((_, i) => {
    close(i, indents[i]);
    around.push(i);
  });
  close(lines.length, -1);
  return inside;
}

/** The lines that are shown: those inside a folded one are not, but where the one that is lit up is among them. */
export function shownLines(lines: Foldable[], inside: number[], folded: Set<string>, lit: number): number[] {
  const shown: number[] = [];
  for (let i = 0; i < lines.length; i++) {
    shown.push(i);
    const hides = folded.has(lines[i].key) && !(lit > i && lit <= i + inside[i]);
    if (hides) i += inside[i];
  }
  return shown;
}

function indentOf(text: string): number {
  return /^\s*/.exec(text)?.[0].length ?? 0;
}
