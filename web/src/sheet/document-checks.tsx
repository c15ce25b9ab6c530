import { Plus } from "lucide-react";
import { useState } from "react";
import { documentCheckWords } from "../definition-words";
import { type DocumentCheck, type Documents, dataType, fieldsOf, headType, type Layout } from "../definitions";
import { Button, Select, TextBox } from "../ui/basics";
import { RemoveButton } from "../ui/remove-button";
import { Weight } from "../ui/state";
import { FormulaBox } from "./formula-box";
import type { Rules } from "./use-rules";

type Kind = DocumentCheck["rule"];

const kinds: { value: Kind; label: string }[] = [
  { value: "sum-is-zero", label: "its lines add up to zero" },
  { value: "sum-equals", label: "its lines add up to a field of the head" },
  { value: "count", label: "it has so many lines" },
  { value: "same", label: "a field is the same in all lines" },
  { value: "holds", label: "a condition holds" },
];

type Props = { documents: Documents; shaped: Layout; put: (checks: DocumentCheck[] | undefined) => void; rules: Rules };

/** What has to hold across the records of a document. */
export function DocumentChecks({ documents, shaped, put, rules }: Props) {
  const checks = documents.checks ?? [];
  const below = shaped.recordTypes.filter((t) => t.parent);
  if (below.length === 0 && checks.length === 0) return null;
  const set = (i: number, c: DocumentCheck) => put(checks.map((x, k) => (k === i ? c : x)));
  return (
    <>
      <h2 className="text-xs font-semibold text-faint">Across a document</h2>
      <ul className="flex flex-col gap-1 text-sm">
        {checks.map((c, i) => (
          <li key={`${i} ${c.rule}`} className="flex flex-col gap-1">
            <span className="flex items-center gap-2">
              <Weight severity={c.severity ?? "reject"} />
              <span className="min-w-0 flex-1">{documentCheckWords(c)}</span>
              <RemoveButton
                label={`Remove the check ${documentCheckWords(c)}`}
                remove={() => put(checks.length > 1 ? checks.filter((_, k) => k !== i) : undefined)}
              />
            </span>
            {c.rule === "holds" && (
              <FormulaBox
                label={`Condition of check ${i + 1}`}
                formula={c.holds}
                change={(holds) => set(i, { ...c, holds: holds || "TRUE" })}
                said={rules.condition({ formula: c.holds })?.said}
                names={rules.condition({ formula: c.holds })?.names ?? []}
                record={rules.record}
              />
            )}
          </li>
        ))}
        {checks.length === 0 && <li className="text-faint">None.</li>}
      </ul>
      <NewCheck shaped={shaped} add={(c) => put([...checks, c])} />
    </>
  );
}

function NewCheck({ shaped, add }: { shaped: Layout; add: (check: DocumentCheck) => void }) {
  const [open, setOpen] = useState(false);
  const [rule, setRule] = useState<Kind>("sum-is-zero");
  const below = shaped.recordTypes.filter((t) => t.parent);
  const numbers = below.flatMap((t) =>
    t.fields
      .filter((f) => dataType(f).is === "decimal" || dataType(f).is === "integer")
      .map((f) => `${t.name}.${f.name}`),
  );
  const all = below.flatMap((t) => t.fields.map((f) => `${t.name}.${f.name}`));
  const ofHead = fieldsOf(shaped, headType(shaped)).map((f) => f.name);
  const [number, setNumber] = useState(numbers.at(-1) ?? "");
  const [same, setSame] = useState(all[0] ?? "");
  const [total, setTotal] = useState(ofHead.at(-1) ?? "");
  const [of, setOf] = useState(below[0]?.name ?? "");
  const [min, setMin] = useState("1");
  const [max, setMax] = useState("");
  const [severity, setSeverity] = useState<"note" | "reject">("note");
  if (!open) {
    return (
      <Button look="quiet" className="self-start" onClick={() => setOpen(true)}>
        <Plus size={15} aria-hidden /> Add a check across a document
      </Button>
    );
  }
  const whole = (text: string) => (text.trim() === "" ? undefined : Math.max(0, Number.parseInt(text, 10) || 0));
  const made: Record<Kind, DocumentCheck> = {
    "sum-is-zero": { rule: "sum-is-zero", field: number, severity },
    "sum-equals": { rule: "sum-equals", field: number, total, severity },
    count: {
      rule: "count",
      of,
      min: whole(min) ?? (whole(max) === undefined ? 1 : undefined),
      max: whole(max),
      severity,
    },
    same: { rule: "same", field: same, severity },
    holds: { rule: "holds", holds: "TRUE", severity },
  };
  const option = (v: string) => ({ value: v, label: v });
  return (
    <div className="flex flex-col gap-2 rounded border border-line bg-card p-3">
      <div className="grid grid-cols-2 gap-2">
        <Select label="Of a document" value={rule} onChange={(v) => setRule(v)} options={kinds} />
        {(rule === "sum-is-zero" || rule === "sum-equals") && (
          <Select label="Add up" value={number} onChange={setNumber} options={numbers.map(option)} />
        )}
        {rule === "sum-equals" && (
          <Select label="is the head's" value={total} onChange={setTotal} options={ofHead.map(option)} />
        )}
        {rule === "same" && <Select label="Field" value={same} onChange={setSame} options={all.map(option)} />}
        {rule === "count" && (
          <>
            <Select label="Records of" value={of} onChange={setOf} options={below.map((t) => option(t.name))} />
            <TextBox label="at least" value={min} onChange={setMin} inputMode="numeric" data />
            <TextBox label="at most" value={max} onChange={setMax} inputMode="numeric" placeholder="any number" data />
          </>
        )}
        <Select
          label="Is a"
          value={severity}
          onChange={(v) => setSeverity(v)}
          options={[
            { value: "note", label: "note" },
            { value: "reject", label: "reject: the document is refused" },
          ]}
        />
      </div>
      <div className="flex items-center gap-2">
        <span className="min-w-0 flex-1 text-sm text-faint">{documentCheckWords(made[rule])}</span>
        <Button onClick={() => setOpen(false)}>Cancel</Button>
        <Button
          look="main"
          onClick={() => {
            add(made[rule]);
            setOpen(false);
          }}
        >
          Add
        </Button>
      </div>
    </div>
  );
}
