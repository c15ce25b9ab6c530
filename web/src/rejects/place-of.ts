import { count } from "../ui/words";

const ROW = /^(sheet .*?, )(?:cell [A-Z]{1,3}|row )(\d+)/;

/** Where a record stands as people find it: its line, or the row of a sheet, as one of its messages says. */
export function placeOf(line: number, messages: readonly string[]): string {
  const row = messages.map((m) => ROW.exec(m)).find((m) => m);
  return row ? `${row[1]}row ${row[2]}` : `line ${count(line)}`;
}

/** What a message says without the line, where that is said beside it. */
export function withoutLine(message: string): string {
  return message.replace(/^line [^:]*: /, "");
}
