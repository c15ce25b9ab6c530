import { Plus } from "lucide-react";
import { type Check, checkWords, fileCheckWords, type Severity, withFields } from "../definitions";
import { Button, ListBox, Select, TextBox } from "../ui/basics";
import { RemoveButton } from "../ui/remove-button";
import { Weight } from "../ui/state";
import { NewFileCheck } from "./new-file-check";
import type { SectionProps } from "./sections";

const fresh: Record<Check["rule"], Check> = {
  required: { rule: "required", severity: "reject" },
  type: { rule: "type", severity: "note" },
  length: { rule: "length", max: 10, severity: "reject" },
  range: { rule: "range", min: "0", severity: "reject" },
  pattern: { rule: "pattern", pattern: "[A-Z]+", severity: "reject" },
  "one-of": { rule: "one-of", values: ["A", "B"], severity: "reject" },
  unique: { rule: "unique", with: [], severity: "reject" },
};
const rules = [
  { value: "required", label: "must have a value" },
  { value: "type", label: "must fit its type" },
  { value: "length", label: "length" },
  { value: "range", label: "range" },
  { value: "pattern", label: "pattern" },
  { value: "one-of", label: "one of a list" },
  { value: "unique", label: "once in the file" },
];
const severities = ["note", "reject", "halt"].map((s) => ({ value: s, label: s }));

export function ChecksSection({ sheet, change }: SectionProps) {
  const { job, layout } = sheet;
  const several = layout.recordTypes.length > 1;
  const names = layout.recordTypes.flatMap((t, i) => t.fields.map((f) => (i === 0 ? f.name : `${t.name}.${f.name}`)));
  const own = (job.checks ?? []).flatMap((c) => c.checks.map((check) => ({ field: c.field, check })));
  const put = (list: { field: string; check: Check }[]) =>
    change({ ...sheet, job: { ...job, checks: list.map(({ field, check }) => ({ field, checks: [check] })) } });
  const set = (i: number, part: { field?: string; check?: Check }) =>
    put(own.map((c, k) => (k === i ? { ...c, ...part } : c)));
  return (
    <>
      <h2 className="text-xs font-semibold text-faint">Of the layout, wherever it is used</h2>
      <ul className="flex flex-col gap-1 text-sm">
        {layout.recordTypes.flatMap((t, n) =>
          t.fields.flatMap((f, i) =>
            (f.checks ?? []).map((c, k) => (
              <CheckLine
                key={`${t.name}.${f.name} ${checkWords(c)}`}
                severity={c.severity}
                subject={several ? `${t.name}.${f.name}` : f.name}
                words={checkWords(c)}
                remove={() => {
                  const next = t.fields.map((x, m) =>
                    m === i ? { ...x, checks: x.checks?.filter((_, at) => at !== k) } : x,
                  );
                  change({ ...sheet, layout: withFields(layout, n, next) });
                }}
              />
            )),
          ),
        )}
        {layout.fileChecks?.map((c, i) => (
          <CheckLine
            key={fileCheckWords(c)}
            severity={c.severity}
            subject="The file:"
            words={fileCheckWords(c)}
            remove={() =>
              change({
                ...sheet,
                layout: { ...layout, fileChecks: layout.fileChecks?.filter((_, k) => k !== i) },
              })
            }
          />
        ))}
        {layout.recordTypes.every((t) => t.fields.every((f) => !f.checks?.length)) && !layout.fileChecks?.length && (
          <li className="text-faint">None.</li>
        )}
      </ul>
      <NewFileCheck layout={layout} put={(next) => change({ ...sheet, layout: next })} />
      <h2 className="text-xs font-semibold text-faint">Of this job alone</h2>
      {own.map(({ field, check }, i) => (
        <div key={i} className="grid grid-cols-[1fr_1fr_84px_auto] items-end gap-2 border-b border-line pb-2">
          <Select
            label="Field"
            value={field}
            onChange={(v) => set(i, { field: v })}
            options={names.map((f) => ({ value: f, label: f }))}
          />
          <Select
            label="Rule"
            value={check.rule}
            onChange={(v) => set(i, { check: fresh[v as Check["rule"]] })}
            options={rules}
          />
          <Select
            label="Is a"
            value={check.severity}
            onChange={(v) => set(i, { check: { ...check, severity: v as Severity } })}
            options={severities}
          />
          <RemoveButton label="Remove this check" remove={() => put(own.filter((_, k) => k !== i))} className="mb-1" />
          <CheckForm check={check} put={(c) => set(i, { check: c })} />
        </div>
      ))}
      <Button
        look="quiet"
        className="self-start"
        disabled={names.length === 0}
        onClick={() => put([...own, { field: names[0], check: fresh.required }])}
      >
        <Plus size={15} aria-hidden /> Add a check
      </Button>
      <div className="grid grid-cols-2 gap-3 border-t border-line pt-3">
        <TextBox
          label="Halt after more rejects than"
          value={job.limits?.rejects ?? ""}
          placeholder="any number"
          onChange={(v) => change({ ...sheet, job: { ...job, limits: { ...job.limits, rejects: whole(v) } } })}
          inputMode="numeric"
          data
        />
        <TextBox
          label="Halt above this share of rejects (%)"
          value={job.limits?.percent ?? ""}
          placeholder="any share"
          onChange={(v) => change({ ...sheet, job: { ...job, limits: { ...job.limits, percent: whole(v) } } })}
          inputMode="numeric"
          hint="from the 100th record on"
          data
        />
      </div>
    </>
  );
}

function CheckLine(props: { severity: Severity; subject: string; words: string; remove: () => void }) {
  return (
    <li className="flex items-baseline gap-2">
      <Weight severity={props.severity} />
      <span className="min-w-0 flex-1">
        <strong>{props.subject}</strong> {props.words}
      </span>
      <RemoveButton label={`Remove the check ${props.subject} ${props.words}`} remove={props.remove} />
    </li>
  );
}

function whole(text: string): number | undefined {
  const n = Number.parseInt(text, 10);
  return Number.isNaN(n) ? undefined : Math.max(0, n);
}

function CheckForm({ check, put }: { check: Check; put: (check: Check) => void }) {
  switch (check.rule) {
    case "length":
      return (
        <div className="col-span-4 grid grid-cols-2 gap-2">
          <TextBox label="At least" value={check.min ?? ""} onChange={(v) => put({ ...check, min: whole(v) })} data />
          <TextBox label="At most" value={check.max ?? ""} onChange={(v) => put({ ...check, max: whole(v) })} data />
        </div>
      );
    case "range":
      return (
        <div className="col-span-4 grid grid-cols-2 gap-2">
          <TextBox label="From" value={check.min ?? ""} onChange={(v) => put({ ...check, min: v || undefined })} data />
          <TextBox label="To" value={check.max ?? ""} onChange={(v) => put({ ...check, max: v || undefined })} data />
        </div>
      );
    case "pattern":
      return (
        <TextBox
          className="col-span-4"
          label="Regular expression"
          value={check.pattern}
          onChange={(pattern) => put({ ...check, pattern })}
          data
        />
      );
    case "one-of":
      return (
        <ListBox
          className="col-span-4"
          label="Values, apart by commas"
          values={check.values}
          onChange={(values) => put({ ...check, values })}
        />
      );
    case "unique":
      return (
        <ListBox
          className="col-span-4"
          label="Together with the fields"
          values={check.with ?? []}
          onChange={(together) => put({ ...check, with: together })}
        />
      );
    default:
      return null;
  }
}
