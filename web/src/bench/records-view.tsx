import { useMemo } from "react";
import { typeWords } from "../definition-words";
import { dataType, fieldsOf, type Layout } from "../definitions";
import { Chips } from "../ui/chips";
import { useSearchIndex } from "../ui/use-search-value";
import { count, visible } from "../ui/words";
import { kindOf } from "./inside";
import type { Light } from "./light";
import type { Preview } from "./preview";
import { moved, useLines } from "./use-lines";
import { widths } from "./widths";

type Props = { preview: Preview; layout: Layout; light: Light; setLight: (light: Light) => void };

const right = new Set(["integer", "decimal"]);

/** The records as they were read: typed values under their fields, misfits marked. */
export function RecordsView({ preview, layout, light, setLight }: Props) {
  const [asked, setAsked] = useSearchIndex("type");
  const several = preview.types.length > 1;
  const type = Math.min(
    light.record !== undefined && light.type !== undefined ? light.type : asked,
    preview.types.length - 1,
  );
  const choose = (t: number) => {
    setAsked(t);
    setLight({});
  };
  const fields = fieldsOf(layout, type);
  const records = useMemo(
    () => preview.records.filter((r) => r.number > 0 && (r.type === type || (r.type < 0 && type === 0))),
    [preview, type],
  );
  const lit = records.findIndex((r) => r.number === light.record);
  const { scroll, lines } = useLines(records.length, lit, light.field);
  const kinds = useMemo(
    () =>
      fields.map((f, i) =>
        dataType(f).is === "text" ? kindOf(records.slice(0, 40).map((r) => r.values[i])) : undefined,
      ),
    [fields, records],
  );
  const columns = useMemo(
    () =>
      widths(
        fields.map((f) =>
          typeWords(dataType(f)).length > f.name.length ? typeWords(dataType(f)).slice(0, 18) : f.name,
        ),
        records.map((r) => r.values),
      ),
    [fields, records],
  );
  // Documents are told apart where they have several records.
  const grouped = preview.summary.documents !== preview.summary.read;
  const grid = { gridTemplateColumns: `${grouped ? "72px " : ""}64px 64px ${columns.join(" ")}` };
  const table = (
    <div
      ref={scroll}
      tabIndex={0}
      role="table"
      aria-label="Records"
      aria-rowcount={records.length}
      className="data min-h-0 flex-1 overflow-auto"
      onKeyDown={(e) => {
        const next = moved(e.key, lit, records.length);
        if (next !== undefined) {
          e.preventDefault();
          setLight({ ...light, record: records[next]?.number, type });
        }
      }}
    >
      <div className="min-w-max">
        <div role="row" className="sticky top-0 z-10 grid border-b border-line bg-sunk" style={grid}>
          {grouped && (
            <span role="columnheader" className="px-2 py-1 text-xs text-faint">
              document
            </span>
          )}
          <span role="columnheader" className="px-2 py-1 text-xs text-faint">
            record
          </span>
          <span role="columnheader" className="px-2 py-1 text-xs text-faint">
            line
          </span>
          {fields.map((f, i) => (
            <span
              role="columnheader"
              key={f.name}
              className={`truncate px-2 py-1 ${right.has(dataType(f).is) ? "text-right" : ""} ${light.field === i && (light.type ?? 0) === type ? "bg-pine-wash text-pine" : ""}`}
            >
              {f.name}
              <span className="block truncate text-xs font-normal text-faint">
                {kinds[i] ? <strong className="text-ochre">looks like {kinds[i]}</strong> : typeWords(dataType(f))}
              </span>
            </span>
          ))}
        </div>
        <div role="rowgroup" className="relative" style={{ height: lines.getTotalSize() }}>
          {lines.getVirtualItems().map((v) => {
            const r = records[v.index];
            const whole = r.findings.find((f) => f.field === null && f.severity !== "note");
            const first = grouped && records[v.index - 1]?.document !== r.document;
            return (
              <div
                role="row"
                key={v.key}
                className={`absolute left-0 grid h-6 w-full items-center border-b border-line ${first && v.index > 0 ? "border-t border-t-faint" : ""} ${v.index === lit ? "bg-pine-wash" : grouped && r.document % 2 === 0 ? "bg-sunk" : ""} ${r.fate === "aside" ? "text-faint line-through" : ""}`}
                style={{ ...grid, top: v.start }}
                title={r.aside ? `set aside: ${r.aside}` : undefined}
              >
                {grouped && (
                  <span role="cell" className={`px-2 text-right ${r.fate === "reject" ? "text-brick" : ""}`}>
                    {first ? r.document : ""}
                  </span>
                )}
                <span
                  role="cell"
                  className={`px-2 text-right ${r.fate === "reject" || r.fate === "halt" ? "font-semibold text-brick" : "text-faint"}`}
                >
                  {r.number}
                </span>
                <span role="cell" className="px-2 text-right text-faint">
                  {r.line}
                </span>
                {whole ? (
                  <span
                    role="cell"
                    className="truncate px-2 text-brick"
                    style={{ gridColumn: `span ${fields.length}` }}
                  >
                    {whole.message}
                  </span>
                ) : (
                  fields.map((f, i) => {
                    const finding = r.findings.find((x) => x.field === f.name);
                    const value = r.values[i];
                    const isLit = light.field === i && v.index === lit;
                    return (
                      // biome-ignore lint/a11y/useKeyWithClickEvents: the arrow keys of the list around it do the same
                      <span
                        role="cell"
                        key={f.name}
                        title={finding?.message ?? value ?? "NULL"}
                        onClick={() => setLight({ record: r.number, type, field: i })}
                        data-lit={isLit || undefined}
                        className={`h-full truncate px-2 leading-6 ${right.has(dataType(f).is) ? "text-right" : ""} ${
                          isLit
                            ? "bg-pine text-on-pine"
                            : finding
                              ? (finding.severity === "note" ? "bg-ochre-wash text-ochre" : "bg-brick-wash text-brick")
                              : ""
                        }`}
                      >
                        {value == null ? (
                          finding ? (
                            raw(r, i)
                          ) : (
                            <span className={isLit ? "" : "text-faint"}>NULL</span>
                          )
                        ) : (
                          visible(value)
                        )}
                      </span>
                    );
                  })
                )}
              </div>
            );
          })}
        </div>
      </div>
    </div>
  );
  return (
    <div className="flex h-full flex-col">
      {several && (
        <div className="border-b border-line px-3 py-1.5">
          <Chips
            label="Record types"
            value={type}
            onChange={choose}
            chips={preview.types.map((t, i) => ({ value: i, label: t.name, note: count(t.records) }))}
          />
        </div>
      )}
      {table}
    </div>
  );
}

/** The text of a field as it stands in the file, for a value that does not fit its type. */
function raw(record: Preview["records"][number], field: number): string {
  const cell = record.cells.find((c) => c.field === field && c.record === record.number);
  return (cell && visible(record.text.slice(cell.from, cell.to))) || "∅";
}
