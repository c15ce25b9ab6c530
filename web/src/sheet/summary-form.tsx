import { Plus } from "lucide-react";
import type { Summary, Total } from "../definitions";
import { Button, Select, TextBox, Tick } from "../ui/basics";
import { Fold } from "../ui/fold";
import { RemoveButton } from "../ui/remove-button";
import { FormulaBox } from "./formula-box";
import type { Rules } from "./use-rules";

const takes = [
  { value: "sum", label: "the total of" },
  { value: "count", label: "the number of" },
  { value: "avg", label: "the average of" },
  { value: "min", label: "the smallest of" },
  { value: "max", label: "the largest of" },
] as const satisfies { value: Total["take"]; label: string }[];

type Props = {
  summary: Summary;
  /** The record type whose records are grouped. */
  of: string;
  /** The names by which formulas may take fields. */
  fields: string[];
  put: (summary: Summary) => void;
  rules: Rules;
};

function sentence({ by = [], totals = [] }: Summary, of: string): string {
  const key = by.map((b) => b.is).join(" and ");
  const reckoned = totals.map((t) =>
    t.of ? `${takes.find((x) => x.value === t.take)?.label} ${t.of}` : `the number of ${of} records`,
  );
  return `${key ? `For each ${key}` : "For all records"}: ${reckoned.join(", ") || "one row"}.`;
}

const plain = (formula: string) => formula.replace(/^.*\./, "").replaceAll('"', "");

/** By what records are grouped, and what is reckoned for each group. */
export function SummaryForm({ summary, of, fields, put, rules }: Props) {
  const by = summary.by ?? [];
  const totals = summary.totals ?? [];
  const names = [...by, ...totals].map((x) => x.name);
  const free = (wanted: string) => {
    let name = wanted || "value";
    for (let n = 2; names.includes(name); n++) name = `${wanted}_${n}`;
    return name;
  };
  const unused = fields.find((f) => !by.some((b) => b.is === f)) ?? fields[0] ?? "";
  const putBy = (list: typeof by) => put({ ...summary, by: list.length ? list : undefined });
  const putTotals = (list: Total[]) => put({ ...summary, totals: list.length ? list : undefined });
  const last = by.length + totals.length === 1;
  const box = (label: string, formula: string, change: (f: string) => void) => {
    const said = rules.condition({ of, formula, any: true });
    return (
      <FormulaBox
        label={label}
        formula={formula}
        change={(f) => change(f || "NULL")}
        said={said?.said}
        names={said?.names ?? []}
        record={rules.record}
      />
    );
  };
  return (
    <Fold title="Groups" sentence={sentence(summary, of)} open>
      <div className="flex flex-col gap-2">
        {by.map((b, i) => {
          const set = (part: Partial<typeof b>) => putBy(by.map((x, k) => (k === i ? { ...x, ...part } : x)));
          return (
            <div key={`b${i}`} className="grid grid-cols-[minmax(0,1fr)_104px_auto] items-start gap-2">
              <div>
                <p className="mb-0.5 text-xs text-faint">{i === 0 ? "For each" : "and each"}</p>
                {box(`Grouped by, ${i + 1}`, b.is, (is) =>
                  set(b.name === plain(b.is) ? { is, name: free(plain(is).replace(/\W+/g, "_")) } : { is }),
                )}
              </div>
              <TextBox label="named" value={b.name} data onChange={(name) => name.trim() && set({ name })} />
              <RemoveButton
                label={`Group by ${b.name} no more`}
                remove={() => putBy(by.filter((_, k) => k !== i))}
                className={last ? "invisible" : "mt-6"}
              />
            </div>
          );
        })}
        {totals.map((t, i) => {
          const set = (next: Total) => putTotals(totals.map((x, k) => (k === i ? next : x)));
          return (
            <div
              key={`t${i}`}
              className="grid grid-cols-[minmax(0,1fr)_104px_auto] items-start gap-2 border-t border-line pt-2"
            >
              <div className="flex flex-col gap-1">
                <div className="flex flex-wrap gap-2">
                  <Select
                    label="gives"
                    className="min-w-32 flex-1"
                    value={t.take}
                    onChange={(take) =>
                      set({ ...t, take, of: take === "count" ? t.of : (t.of ?? fields[0]), distinct: undefined })
                    }
                    options={takes}
                  />
                  {t.take === "count" && (
                    <Select
                      label="counts"
                      className="min-w-28 flex-1"
                      value={!t.of ? "records" : t.distinct ? "distinct" : "values"}
                      onChange={(v) =>
                        set({
                          ...t,
                          of: v === "records" ? undefined : (t.of ?? fields[0]),
                          distinct: v === "distinct" || undefined,
                        })
                      }
                      options={[
                        { value: "records", label: "records" },
                        { value: "values", label: "values" },
                        { value: "distinct", label: "different values" },
                      ]}
                    />
                  )}
                </div>
                {t.of !== undefined && box(`What ${t.name} is of`, t.of, (f) => set({ ...t, of: f }))}
                {t.of !== undefined && (t.take === "sum" || t.take === "avg") && (
                  <Tick
                    label="each value once"
                    checked={!!t.distinct}
                    onChange={(on) => set({ ...t, distinct: on || undefined })}
                  />
                )}
              </div>
              <TextBox label="named" value={t.name} data onChange={(name) => name.trim() && set({ ...t, name })} />
              <RemoveButton
                label={`Reckon ${t.name} no more`}
                remove={() => putTotals(totals.filter((_, k) => k !== i))}
                className={last ? "invisible" : "mt-6"}
              />
            </div>
          );
        })}
        <div className="flex gap-2">
          <Button
            look="quiet"
            className="px-2"
            onClick={() => putBy([...by, { name: free(plain(unused)), is: unused }])}
          >
            <Plus size={14} aria-hidden /> Group by
          </Button>
          <Button
            look="quiet"
            className="px-2"
            onClick={() => putTotals([...totals, { name: free("records"), take: "count" }])}
          >
            <Plus size={14} aria-hidden /> A total
          </Button>
        </div>
        <p className="text-xs text-faint">
          Only records that are delivered count. The rows are delivered together with the last of the file.
        </p>
      </div>
    </Fold>
  );
}
