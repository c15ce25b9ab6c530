/** Widths of columns in characters of the data font, from what stands in them: 6 at least, 34 at most. */
export function widths(heads: string[], rows: (string | null)[][]): string[] {
  const most = heads.map((h) => h.length);
  for (const row of rows) {
    for (let i = 0; i < most.length; i++) most[i] = Math.max(most[i], row[i]?.length ?? 4);
  }
  return most.map((n) => `calc(${Math.min(34, Math.max(6, n))}ch + 18px)`);
}
