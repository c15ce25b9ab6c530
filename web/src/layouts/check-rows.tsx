import { Plus } from "lucide-react";
import { useState } from "react";
import { checkWords } from "../definition-words";
import type { Check } from "../definitions";
import { Button, ListBox, Select, TextBox } from "../ui/basics";
import { NumberBox } from "../ui/number-box";
import { RemoveButton } from "../ui/remove-button";
import { Weight } from "../ui/state";

const fresh: Record<Check["rule"], Check> = {
  required: { rule: "required", severity: "reject" },
  present: { rule: "present", severity: "reject" },
  type: { rule: "type", severity: "note" },
  length: { rule: "length", max: 10, severity: "reject" },
  range: { rule: "range", min: "0", severity: "reject" },
  pattern: { rule: "pattern", pattern: "[A-Z]+", severity: "reject" },
  "one-of": { rule: "one-of", values: ["A", "B"], severity: "reject" },
  unique: { rule: "unique", with: [], severity: "reject" },
};
const rules = [
  { value: "required", label: "must have a value" },
  { value: "present", label: "must be there" },
  { value: "type", label: "must fit its type" },
  { value: "length", label: "length" },
  { value: "range", label: "range" },
  { value: "pattern", label: "pattern" },
  { value: "one-of", label: "one of a list" },
  { value: "unique", label: "once in the file" },
] as const satisfies { value: Check["rule"]; label: string }[];
const severities = (["note", "reject", "halt"] as const).map((s) => ({ value: s, label: s }));

export type FieldCheck = { field: string; check: Check };

type RowsProps = {
  names: string[];
  checks: FieldCheck[];
  put: (checks: FieldCheck[]) => void;
  /** Whether checks stand in the order of the fields, so that one moves when its field changes. */
  byField?: boolean;
};

/** Checks of fields: a sentence each, which opens into a form. */
export function CheckRows({ names, checks, put, byField }: RowsProps) {
  const [open, setOpen] = useState<number>();
  const set = (i: number, part: Partial<FieldCheck>) => put(checks.map((c, k) => (k === i ? { ...c, ...part } : c)));
  return (
    <>
      <ul className="flex flex-col text-sm">
        {checks.map(({ field, check }, i) => (
          <li key={i} className="border-b border-line py-1">
            <div className="flex items-center gap-2">
              <button
                type="button"
                aria-expanded={open === i}
                onClick={() => setOpen(open === i ? undefined : i)}
                className="flex min-w-0 flex-1 items-baseline gap-2 text-left hover:text-pine"
              >
                <Weight severity={check.severity} />
                <span className="min-w-0 flex-1">
                  <strong>{field}</strong> {checkWords(check)}
                </span>
              </button>
              <RemoveButton
                label={`Remove the check ${field} ${checkWords(check)}`}
                remove={() => {
                  setOpen(undefined);
                  put(checks.filter((_, k) => k !== i));
                }}
              />
            </div>
            {open === i && (
              <div className="grid grid-cols-[1fr_1fr_84px] items-end gap-2 py-2">
                <Select
                  label="Field"
                  value={field}
                  onChange={(v) => {
                    if (byField) setOpen(undefined);
                    set(i, { field: v });
                  }}
                  options={names.map((f) => ({ value: f, label: f }))}
                />
                <Select label="Rule" value={check.rule} onChange={(v) => set(i, { check: fresh[v] })} options={rules} />
                <Select
                  label="Is a"
                  value={check.severity}
                  onChange={(v) => set(i, { check: { ...check, severity: v } })}
                  options={severities}
                />
                <CheckForm check={check} put={(c) => set(i, { check: c })} />
              </div>
            )}
          </li>
        ))}
        {checks.length === 0 && <li className="text-faint">None.</li>}
      </ul>
      <Button
        look="quiet"
        className="self-start"
        disabled={names.length === 0}
        onClick={() => {
          setOpen(checks.length);
          put([...checks, { field: names[byField ? names.length - 1 : 0], check: fresh.required }]);
        }}
      >
        <Plus size={15} aria-hidden /> Add a check
      </Button>
    </>
  );
}

export function whole(text: string): number | undefined {
  const n = Number.parseInt(text, 10);
  return Number.isNaN(n) ? undefined : Math.max(0, n);
}

function CheckForm({ check, put }: { check: Check; put: (check: Check) => void }) {
  switch (check.rule) {
    case "length":
      return (
        <div className="col-span-3 grid grid-cols-2 gap-2">
          <NumberBox label="At least" value={check.min} onChange={(v) => put({ ...check, min: v })} />
          <NumberBox label="At most" value={check.max} onChange={(v) => put({ ...check, max: v })} />
        </div>
      );
    case "range":
      return (
        <div className="col-span-3 grid grid-cols-2 gap-2">
          <TextBox label="From" value={check.min ?? ""} onChange={(v) => put({ ...check, min: v || undefined })} data />
          <TextBox label="To" value={check.max ?? ""} onChange={(v) => put({ ...check, max: v || undefined })} data />
        </div>
      );
    case "pattern":
      return (
        <TextBox
          className="col-span-3"
          label="Regular expression"
          value={check.pattern}
          onChange={(pattern) => put({ ...check, pattern })}
          data
        />
      );
    case "one-of":
      return (
        <ListBox
          className="col-span-3"
          label="Values, apart by commas"
          values={check.values}
          onChange={(values) => put({ ...check, values })}
        />
      );
    case "unique":
      return (
        <ListBox
          className="col-span-3"
          label="Together with the fields"
          values={check.with ?? []}
          onChange={(together) => put({ ...check, with: together })}
        />
      );
    default:
      return null;
  }
}
