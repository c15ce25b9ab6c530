import type { Field } from "../definitions";

/** The start of a sample, only to offer a first layout; what counts is read by the server. */
export function decodeStart(bytes: Uint8Array, charset: string): string {
  return new TextDecoder(charset).decode(bytes).replace(/^\ufeff/, "");
}

export function guessDelimiter(start: string): string {
  const line = start.split(/\r\n|\r|\n/, 1)[0];
  const counts = [";", ",", "\t", "|"].map((d) => [d, line.split(d).length] as const);
  return counts.sort((a, b) => b[1] - a[1])[0][0];
}

export function fieldsFromHeader(start: string, delimiter: string): Field[] {
  const line = start.split(/\r\n|\r|\n/, 1)[0];
  const names = line.split(delimiter).map((n) =>
    n
      .trim()
      .replace(/^"(.*)"$/, "$1")
      .replaceAll('""', '"'),
  );
  const seen = new Set<string>();
  return names
    .filter((n) => n && !seen.has(n) && seen.add(n))
    .map((n) => ({ name: n, header: n, type: { is: "text", length: 255 } }));
}
