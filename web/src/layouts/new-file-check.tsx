import { Plus } from "lucide-react";
import { useState } from "react";
import { fileCheckWords } from "../definition-words";
import type { FileCheck, Layout } from "../definitions";
import { Button, Select, TextBox } from "../ui/basics";

type Rule = FileCheck["rule"];

const rules: { value: Rule; label: string }[] = [
  { value: "count", label: "a field says how many records there are" },
  { value: "total", label: "a field says what another adds up to" },
  { value: "sequence", label: "a field goes up by one" },
  { value: "records", label: "so many records of a type" },
  { value: "same", label: "two fields are the same" },
  { value: "not-older", label: "a date is not older than" },
];

/** Makes a check of the file as a whole. */
export function NewFileCheck({ layout, put }: { layout: Layout; put: (layout: Layout) => void }) {
  const [open, setOpen] = useState(false);
  const fields = layout.recordTypes.flatMap((t) => t.fields.map((f) => `${t.name}.${f.name}`));
  const types = layout.recordTypes.map((t) => t.name);
  const [rule, setRule] = useState<Rule>("count");
  const [field, setField] = useState(fields[fields.length - 1] ?? "");
  const [other, setOther] = useState(fields[0] ?? "");
  const [of, setOf] = useState(types[0]);
  const [number, setNumber] = useState("1");
  const [severity, setSeverity] = useState<"note" | "halt">("halt");
  if (!open) {
    return (
      <Button look="quiet" className="self-start" onClick={() => setOpen(true)}>
        <Plus size={15} aria-hidden /> Add a check of the file as a whole
      </Button>
    );
  }
  const n = Math.max(0, Number.parseInt(number, 10) || 0);
  const made: Record<Rule, FileCheck> = {
    count: { rule: "count", field, of, severity },
    total: { rule: "total", field, of: other, severity },
    sequence: { rule: "sequence", field, severity },
    records: { rule: "records", of, min: n, severity },
    same: { rule: "same", field, as: other, severity },
    "not-older": { rule: "not-older", field, days: n, severity },
  };
  const option = (v: string) => ({ value: v, label: v });
  return (
    <div className="flex flex-col gap-2 rounded border border-line bg-card p-3">
      <div className="grid grid-cols-2 gap-2">
        <Select label="Check that" value={rule} onChange={(v) => setRule(v)} options={rules} />
        {rule !== "records" && <Select label="Field" value={field} onChange={setField} options={fields.map(option)} />}
        {(rule === "total" || rule === "same") && (
          <Select
            label={rule === "total" ? "is the total of" : "is the same as"}
            value={other}
            onChange={setOther}
            options={fields.map(option)}
          />
        )}
        {(rule === "count" || rule === "records") && (
          <Select label="Records of" value={of} onChange={setOf} options={types.map(option)} />
        )}
        {(rule === "records" || rule === "not-older") && (
          <TextBox
            label={rule === "records" ? "at least" : "days before the run"}
            value={number}
            onChange={setNumber}
            inputMode="numeric"
            data
          />
        )}
        <Select
          label="Is a"
          value={severity}
          onChange={(v) => setSeverity(v)}
          options={[
            { value: "halt", label: "halt: nothing is delivered" },
            { value: "note", label: "note" },
          ]}
        />
      </div>
      <div className="flex items-center gap-2">
        <span className="min-w-0 flex-1 text-sm text-faint">{fileCheckWords(made[rule])}</span>
        <Button onClick={() => setOpen(false)}>Cancel</Button>
        <Button
          look="main"
          onClick={() => {
            put({ ...layout, fileChecks: [...(layout.fileChecks ?? []), made[rule]] });
            setOpen(false);
          }}
        >
          Add
        </Button>
      </div>
    </div>
  );
}
