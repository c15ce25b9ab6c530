import { useMemo } from "react";
import { fieldsOf, type Sheet } from "../definitions";
import type { Light } from "../sheet/job-page";
import { Empty } from "../ui/basics";
import { visible } from "../ui/words";
import type { Preview } from "./bench";
import { moved, useLines } from "./use-lines";
import { widths } from "./widths";

type Props = { preview: Preview; sheet: Sheet; light: Light; setLight: (light: Light) => void };

/** The rows as they would be delivered, under the target's columns. */
export function RowsView({ preview, sheet, light, setLight }: Props) {
  const fields = fieldsOf(sheet.layout).map((f) => f.name);
  const rules = sheet.job.shaping ?? [];
  const fieldOf = (target: string) => {
    const take = rules.find((r) => r.target === target)?.take;
    return take?.from === "field" ? fields.indexOf(take.field) : -1;
  };
  const lit = preview.rows.findIndex((r) => r.record === light.record);
  const { scroll, lines } = useLines(preview.rows.length, lit, light.field);
  const targets = preview.targets.map((name) => ({ name, field: fieldOf(name) }));
  const columns = useMemo(
    () =>
      widths(
        preview.targets,
        preview.rows.map((r) => r.values),
      ),
    [preview],
  );
  const grid = { gridTemplateColumns: `64px ${columns.join(" ")}` };
  if (targets.length === 0) {
    return <Empty title="No rows yet">Section 4 says where the value of each target field comes from.</Empty>;
  }
  return (
    <div
      ref={scroll}
      role="table"
      aria-label="Rows"
      aria-rowcount={preview.rows.length}
      tabIndex={0}
      className="data h-full overflow-auto"
      onKeyDown={(e) => {
        const next = moved(e.key, lit, preview.rows.length);
        if (next !== undefined) {
          e.preventDefault();
          setLight({ ...light, record: preview.rows[next]?.record });
        }
      }}
    >
      <div className="min-w-max">
        <div role="row" className="sticky top-0 z-10 grid border-b border-line bg-sunk" style={grid}>
          <span role="columnheader" className="px-2 py-1 text-xs text-faint">
            record
          </span>
          {targets.map((t) => (
            <span
              role="columnheader"
              key={t.name}
              className={`truncate px-2 py-1 ${t.field >= 0 && t.field === light.field ? "bg-pine-wash text-pine" : ""}`}
            >
              {t.name}
            </span>
          ))}
        </div>
        <div role="rowgroup" className="relative" style={{ height: lines.getTotalSize() }}>
          {lines.getVirtualItems().map((v) => {
            const row = preview.rows[v.index];
            return (
              <div
                role="row"
                key={v.key}
                className={`absolute left-0 grid h-6 w-full items-center border-b border-line ${v.index === lit ? "bg-pine-wash" : ""}`}
                style={{ ...grid, top: v.start }}
              >
                <span role="cell" className="px-2 text-right text-faint">
                  {row.record}
                </span>
                {targets.map((t, i) => {
                  const isLit = v.index === lit && t.field >= 0 && t.field === light.field;
                  return (
                    <span
                      role="cell"
                      key={t.name}
                      title={row.values[i] ?? "NULL"}
                      onClick={() => setLight({ record: row.record, field: t.field >= 0 ? t.field : undefined })}
                      data-lit={isLit || undefined}
                      className={`h-full truncate px-2 leading-6 ${isLit ? "bg-pine text-on-pine" : ""}`}
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
}
