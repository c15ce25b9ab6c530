import { Plus } from "lucide-react";
import { useMemo, useState } from "react";
import { useLines } from "../bench/use-lines";
import type { CodeEntry, CodeList } from "../definitions";
import { Button } from "../ui/basics";
import { RemoveButton } from "../ui/remove-button";
import { plural } from "../ui/words";
import { cellsOf } from "./use-code-list";

type Props = { list: CodeList; change: (list: CodeList) => void; readOnly?: boolean };

const cell = "data h-full w-full min-w-0 bg-transparent px-2 text-sm outline-offset-[-2px] read-only:text-faint";

/** The lines of a code list: typed in, pasted from a spreadsheet, found by what they hold. */
export function CodeGrid({ list, change, readOnly }: Props) {
  const [wanted, setWanted] = useState("");
  const entries = list.entries ?? [];
  const dated = entries.some((e) => e.from || e.to);
  const [dates, setDates] = useState(false);
  const withDates = dated || dates;
  const names = list.columns ?? [];
  const columns = names.length;
  const shown = useMemo(() => {
    const low = wanted.toLowerCase();
    const all = entries.map((_, i) => i);
    return low ? all.filter((i) => entries[i].values.some((v) => v?.toLowerCase().includes(low))) : all;
  }, [entries, wanted]);
  const twice = useMemo(() => {
    const seen = new Map<string, number>();
    for (const e of entries) seen.set(e.values[0] ?? "", (seen.get(e.values[0] ?? "") ?? 0) + 1);
    return seen;
  }, [entries]);
  const rows = readOnly || wanted ? shown.length : shown.length + 1;
  const { scroll, lines } = useLines(rows, -1, undefined, 28);
  const put = (next: CodeEntry[]) => change({ ...list, entries: next });
  const entryAt = (row: number): CodeEntry => entries[shown[row]] ?? { values: [] };
  const setEntry = (row: number, entry: CodeEntry) => {
    const at = shown[row] ?? entries.length;
    put(at < entries.length ? entries.map((e, i) => (i === at ? entry : e)) : [...entries, entry]);
  };
  const withValue = (entry: CodeEntry, column: number, value: string): CodeEntry => {
    const values = Array.from({ length: columns }, (_, c) => entry.values[c] ?? null);
    values[column] = value === "" ? null : value;
    return { ...entry, values };
  };
  /** Fills cells from one on; lines and columns that are missing are made. */
  const paste = (row: number, column: number, cells: string[][]) => {
    const wide = Math.max(columns, column + Math.max(...cells.map((r) => r.length)));
    const wider = [...names];
    while (wider.length < wide) wider.push(`column ${wider.length + 1}`);
    const next = [...entries];
    for (const [i, texts] of cells.entries()) {
      const at = shown[row + i] ?? next.length;
      const values = Array.from({ length: wide }, (_, c) => next[at]?.values[c] ?? null);
      for (const [k, text] of texts.entries()) values[column + k] = text === "" ? null : text.trim();
      next[at] = { ...next[at], values };
    }
    change({ ...list, columns: wider, entries: next.filter((e) => e.values.some((v) => v !== null)) });
  };
  /** Moves to another cell by keys, as tables do. */
  const move = (e: React.KeyboardEvent<HTMLInputElement>, row: number, column: number) => {
    const by = e.key === "ArrowDown" || e.key === "Enter" ? 1 : e.key === "ArrowUp" ? -1 : 0;
    if (by === 0) return;
    e.preventDefault();
    const to = row + by;
    if (to < 0 || to >= rows) return;
    lines.scrollToIndex(to);
    requestAnimationFrame(() =>
      scroll.current?.querySelector<HTMLInputElement>(`[data-cell="${to}-${column}"]`)?.focus(),
    );
  };
  const grid = {
    gridTemplateColumns: `48px repeat(${columns}, minmax(150px, 1fr)) ${withDates ? "116px 116px" : ""} 36px`,
  };
  const rename = (column: number, name: string) =>
    change({ ...list, columns: names.map((c, i) => (i === column ? name : c)) });
  const removeColumn = (column: number) =>
    change({
      ...list,
      columns: names.filter((_, i) => i !== column),
      entries: entries.map((e) => ({ ...e, values: e.values.filter((_, i) => i !== column) })),
    });
  return (
    <div className="flex min-h-0 flex-1 flex-col">
      <div className="flex items-center gap-2 border-b border-line px-4 py-2">
        <input
          aria-label="Find in the list"
          placeholder="Find a value or meaning"
          value={wanted}
          onChange={(e) => setWanted(e.target.value)}
          className="h-8 w-60 rounded border border-line bg-card px-2 text-sm placeholder:text-faint"
        />
        <span className="text-sm text-faint">
          {wanted ? `${shown.length} of ${plural(entries.length, "line")}` : plural(entries.length, "line")}
        </span>
        {!readOnly && (
          <span className="ml-auto flex gap-2">
            {!withDates && (
              <Button look="quiet" className="h-7 px-2" onClick={() => setDates(true)}>
                <Plus size={14} aria-hidden /> Days on which a line holds
              </Button>
            )}
            <Button
              look="quiet"
              className="h-7 px-2"
              onClick={() => change({ ...list, columns: [...names, `column ${columns + 1}`] })}
            >
              <Plus size={14} aria-hidden /> Column
            </Button>
          </span>
        )}
      </div>
      <div ref={scroll} role="table" aria-label="Lines of the list" className="min-h-0 flex-1 overflow-auto bg-card">
        <div className="w-full min-w-max">
          <div role="row" className="sticky top-0 z-10 grid h-8 border-b border-line bg-sunk" style={grid}>
            <span role="columnheader" className="px-2 leading-8 text-xs text-faint">
              line
            </span>
            {names.map((name, c) => (
              <span role="columnheader" key={`c${c}`} className="flex items-center border-l border-line">
                <input
                  size={6}
                  aria-label={`Name of column ${c + 1}`}
                  readOnly={readOnly}
                  className={`${cell} font-semibold`}
                  value={name}
                  onChange={(e) => rename(c, e.target.value)}
                />
                {!readOnly && c > 0 && (
                  <RemoveButton label={`Remove the column ${name}`} remove={() => removeColumn(c)} />
                )}
              </span>
            ))}
            {withDates && (
              <>
                <span role="columnheader" className="border-l border-line px-2 leading-8 text-sm">
                  valid from
                </span>
                <span role="columnheader" className="border-l border-line px-2 leading-8 text-sm">
                  valid to
                </span>
              </>
            )}
            <span role="columnheader">
              <span className="sr-only">remove</span>
            </span>
          </div>
          <div role="rowgroup" className="relative" style={{ height: lines.getTotalSize() }}>
            {lines.getVirtualItems().map((v) => {
              const row = v.index;
              const fresh = row >= shown.length;
              const entry = entryAt(row);
              const again = !fresh && !entry.from && !entry.to && (twice.get(entry.values[0] ?? "") ?? 0) > 1;
              return (
                <div
                  role="row"
                  key={v.key}
                  className="absolute left-0 grid h-7 w-full border-b border-line focus-within:bg-pine-wash"
                  style={{ ...grid, top: v.start }}
                >
                  <span role="cell" className="data px-2 text-right text-xs leading-7 text-faint">
                    {fresh ? "+" : shown[row] + 1}
                  </span>
                  {names.map((name, c) => (
                    <span
                      role="cell"
                      key={`v${c}`}
                      className={`border-l border-line ${again && c === 0 ? "bg-brick-wash" : ""}`}
                      title={again && c === 0 ? "stands more than once" : undefined}
                    >
                      <input
                        size={6}
                        data-cell={`${row}-${c}`}
                        aria-label={fresh ? `New ${name}` : `${name} of line ${shown[row] + 1}`}
                        readOnly={readOnly}
                        className={`${cell} ${c === 0 ? "font-semibold" : ""}`}
                        value={entry.values[c] ?? ""}
                        placeholder={fresh && c === 0 ? "type or paste" : undefined}
                        onChange={(e) => setEntry(row, withValue(entry, c, e.target.value))}
                        onKeyDown={(e) => move(e, row, c)}
                        onPaste={(e) => {
                          const cells = cellsOf(e.clipboardData.getData("text/plain"));
                          if (readOnly || (cells.length === 1 && cells[0].length === 1)) return;
                          e.preventDefault();
                          paste(row, c, cells);
                        }}
                      />
                    </span>
                  ))}
                  {withDates &&
                    (["from", "to"] as const).map((side) => (
                      <span role="cell" key={side} className="border-l border-line">
                        <input
                          placeholder="–"
                          aria-label={`Valid ${side}, line ${row + 1}`}
                          readOnly={readOnly}
                          className={cell}
                          value={entry[side] ?? ""}
                          onChange={(e) => setEntry(row, { ...entry, [side]: e.target.value || undefined })}
                        />
                      </span>
                    ))}
                  <span role="cell">
                    {!readOnly && !fresh && (
                      <RemoveButton
                        label={`Remove line ${shown[row] + 1}`}
                        remove={() => put(entries.filter((_, i) => i !== shown[row]))}
                      />
                    )}
                  </span>
                </div>
              );
            })}
          </div>
        </div>
      </div>
    </div>
  );
}
