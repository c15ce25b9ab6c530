import { useMemo } from "react";
import { fieldsOfOrigin, type Job, type Layout, placeInFile, shapedLayout } from "../definitions";
import { Empty } from "../ui/basics";
import { Chips } from "../ui/chips";
import { useSearchIndex } from "../ui/use-search-value";
import { count, visible } from "../ui/words";
import type { Light } from "./light";
import type { Preview } from "./preview";
import { moved, useLines } from "./use-lines";
import { widths } from "./widths";

type Props = { preview: Preview; layout: Layout; job: Job; light: Light; setLight: (light: Light) => void };

/** The rows as they would be delivered, under the target's columns. */
export function RowsView({ preview, layout, job, light, setLight }: Props) {
  const [asked, choose] = useSearchIndex("delivery");
  const at = Math.min(asked, Math.max(0, preview.deliveries.length - 1));
  const made = preview.deliveries[at];
  const rules = job.deliveries?.[at]?.shaping ?? [];
  const type = shapedLayout({ layout, job }).recordTypes.findIndex((t) => t.name === made?.of);
  const placed = (target: string) => {
    const take = rules.find((r) => r.target === target)?.take;
    const field = take && fieldsOfOrigin(take)[0];
    return field === undefined ? { type: -1, field: -1 } : placeInFile({ layout, job }, type, field);
  };
  const rows = useMemo(() => preview.rows.filter((r) => r.delivery === at), [preview, at]);
  const lit = rows.findIndex((r) => r.record === light.record);
  const { scroll, lines } = useLines(rows.length, lit, light.field);
  const targets = (made?.targets ?? []).map((name) => ({ name, ...placed(name) }));
  const columns = useMemo(
    () =>
      widths(
        made?.targets ?? [],
        rows.map((r) => r.values),
      ),
    [made, rows],
  );
  const numeric = useMemo(
    () => (made?.targets ?? []).map((_, i) => rows.every((r) => /^-?\d+(\.\d+)?$/.test(r.values[i] ?? "0"))),
    [made, rows],
  );
  const isLitField = (t: { type: number; field: number }) =>
    t.field >= 0 && t.field === light.field && t.type === (light.type ?? 0);
  const grid = { gridTemplateColumns: `64px ${columns.join(" ")}` };
  if (targets.length === 0) {
    return <Empty title="No rows yet">Section 4 says where the value of each target field comes from.</Empty>;
  }
  const table = (
    <div
      ref={scroll}
      role="table"
      aria-label="Rows"
      aria-rowcount={rows.length}
      tabIndex={0}
      className="data min-h-0 flex-1 overflow-auto"
      onKeyDown={(e) => {
        const next = moved(e.key, lit, rows.length);
        if (next !== undefined) {
          e.preventDefault();
          setLight({ ...light, record: rows[next]?.record });
        }
      }}
    >
      <div className="min-w-max">
        <div role="row" className="sticky top-0 z-10 grid border-b border-line bg-sunk" style={grid}>
          <span role="columnheader" className="px-2 py-1 text-xs text-faint">
            record
          </span>
          {targets.map((t, i) => (
            <span
              role="columnheader"
              key={t.name}
              className={`truncate px-2 py-1 ${numeric[i] ? "text-right" : ""} ${isLitField(t) ? "bg-pine-wash text-pine" : ""}`}
            >
              {t.name}
            </span>
          ))}
        </div>
        <div role="rowgroup" className="relative" style={{ height: lines.getTotalSize() }}>
          {lines.getVirtualItems().map((v) => {
            const row = rows[v.index];
            return (
              <div
                role="row"
                key={v.key}
                className={`absolute left-0 grid h-6 w-full items-center border-b border-line ${v.index === lit ? "bg-pine-wash" : ""}`}
                style={{ ...grid, top: v.start }}
              >
                <span role="cell" className="px-2 text-right text-faint">
                  {row.record || ""}
                </span>
                {targets.map((t, i) => {
                  const isLit = v.index === lit && isLitField(t);
                  return (
                    // biome-ignore lint/a11y/useKeyWithClickEvents: the arrow keys of the list around it do the same
                    <span
                      role="cell"
                      key={t.name}
                      title={row.values[i] ?? "NULL"}
                      onClick={() =>
                        row.record &&
                        setLight(
                          t.field >= 0 ? { record: row.record, type: t.type, field: t.field } : { record: row.record },
                        )
                      }
                      data-lit={isLit || undefined}
                      className={`h-full truncate px-2 leading-6 ${numeric[i] ? "text-right" : ""} ${isLit ? "bg-pine text-on-pine" : ""}`}
                    >
                      {row.values[i] === null ? (
                        <span className={isLit ? "" : "text-faint"}>NULL</span>
                      ) : (
                        visible(row.values[i] ?? "")
                      )}
                    </span>
                  );
                })}
              </div>
            );
          })}
        </div>
      </div>
    </div>
  );
  return (
    <div className="flex h-full flex-col">
      {preview.deliveries.length > 1 && (
        <div className="border-b border-line px-3 py-1.5">
          <Chips
            label="Deliveries of the sample"
            value={at}
            onChange={choose}
            chips={preview.deliveries.map((d, i) => ({
              value: i,
              label: `${d.lane ? `${d.lane}: ` : ""}${d.table ?? d.of}`,
              note: count(d.rows),
            }))}
          />
        </div>
      )}
      {table}
    </div>
  );
}
