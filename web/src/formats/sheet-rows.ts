/** The text that workbooks are read as: a row a line, `"sheet",row,flags,cells`. */

/** A cell of a row: where it stands in the line, and what it shows. */
export type SheetCell = {
  /** From 1, as A is the first one. */
  column: number;
  from: number;
  to: number;
  text: string;
  /** Whether it holds a text; else it is a number, a date, a truth value or an error. */
  isText: boolean;
  /** Whether it only has the value of another one that it is merged with. */
  covered: boolean;
};

export type SheetRow = { sheet: string; row: number; hidden: boolean; cells: SheetCell[] };

/** What the text says of a sheet. */
export type SheetHead = { name: string; state: string; line: number; lastRow: number };

/** A line as a row; nothing where it says something else of the workbook. */
export function sheetRow(line: string): SheetRow | undefined {
  if (!line.startsWith('"')) return undefined;
  const [sheet, row, flags, ...cells] = split(line, 0);
  if (!sheet || !row) return undefined;
  return {
    sheet: sheet.text,
    row: Number(row.text) || 0,
    hidden: flags?.text === "hidden",
    cells: placed(cells),
  };
}

/** A line as what it says of a sheet. */
export function sheetHead(line: string): SheetHead | undefined {
  if (!line.startsWith("@sheet ")) return undefined;
  const [name, state, , at, lastRow] = split(line, "@sheet ".length);
  return { name: name.text, state: state.text, line: Number(at.text), lastRow: Number(lastRow.text) };
}

/** The letters of a column, counted from 1. */
export function letters(column: number): string {
  const rest = Math.floor((column - 1) / 26);
  return (rest > 0 ? letters(rest) : "") + String.fromCharCode(65 + ((column - 1) % 26));
}

type Part = Omit<SheetCell, "column">;

/** Gives cells their columns; one that begins with @ says that of the next. */
function placed(parts: Part[]): SheetCell[] {
  const cells: SheetCell[] = [];
  let column = 0;
  for (const part of parts) {
    column++;
    const jump = part.isText ? undefined : /^@([A-Z]{1,3})$/.exec(part.text);
    if (jump) column = number(jump[1]) - 1;
    else cells.push({ ...part, column });
  }
  return cells;
}

function number(name: string): number {
  return [...name].reduce((n, c) => n * 26 + c.charCodeAt(0) - 64, 0);
}

function split(line: string, start: number): Part[] {
  const parts: Part[] = [];
  let at = start;
  while (at <= line.length) {
    const covered = line[at] === "^";
    const from = covered ? at + 1 : at;
    if (line[from] === '"') {
      let to = from + 1;
      while (to < line.length && line[to] !== '"') to += line[to] === "\\" ? 2 : 1;
      parts.push({ from: from + 1, to, text: unescaped(line.slice(from + 1, to)), isText: true, covered });
      at = to + 2;
    } else {
      const comma = line.indexOf(",", from);
      const end = comma < 0 ? line.length : comma;
      const shown = line.slice(from, end).indexOf("{");
      const to = shown < 0 ? end : from + shown;
      parts.push({ from, to, text: line.slice(from, to), isText: false, covered });
      at = end + 1;
    }
  }
  return parts;
}

const plain: Record<string, string> = { n: "\n", r: "\r", t: "\t" };

function unescaped(text: string): string {
  return text.replace(/\\(?:u([0-9a-fA-F]{4})|(.))/g, (_, code, c) =>
    code ? String.fromCharCode(Number.parseInt(code, 16)) : (plain[c] ?? c),
  );
}
