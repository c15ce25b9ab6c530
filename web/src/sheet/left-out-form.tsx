import { Plus } from "lucide-react";
import type { Schemas } from "../api/client";
import { type Documents, type Duplicates, headType, type Layout, type SetAside } from "../definitions";
import { Button, Select, TextBox } from "../ui/basics";
import { Fold } from "../ui/fold";
import { RemoveButton } from "../ui/remove-button";
import { count, plural } from "../ui/words";
import { FieldTicks } from "./field-ticks";
import { FormulaBox } from "./formula-box";
import type { Rules } from "./use-rules";

type Props = {
  documents: Documents;
  /** The layout of the documents. */
  shaped: Layout;
  put: (documents: Documents) => void;
  rules: Rules;
  summary?: Schemas["Summary"];
};

function sentence(documents: Documents, summary?: Schemas["Summary"]): string {
  const parts = [
    ...(documents.setAside ?? []).map((a) => a.reason ?? a.when),
    ...(documents.duplicates ?? []).map((d) => `second records of one ${d.key.join(", ")}`),
  ];
  if (parts.length === 0) return "Nothing is left out.";
  return `${parts.join("; ")}${summary ? `: ${plural(summary.setAside, "record")}` : ""}.`;
}

/** What is left out on purpose: records of which a condition holds, and second records of one key. */
export function LeftOutForm({ documents, shaped, put, rules, summary }: Props) {
  const aside = documents.setAside ?? [];
  const duplicates = documents.duplicates ?? [];
  const types = shaped.recordTypes.map((t) => t.name);
  const head = types[headType(shaped)];
  const putAside = (list: SetAside[]) => put({ ...documents, setAside: list.length ? list : undefined });
  const putDuplicates = (list: Duplicates[]) => put({ ...documents, duplicates: list.length ? list : undefined });
  const typeChoice = (of: string | undefined, change: (of: string | undefined) => void) =>
    types.length > 1 && (
      <Select
        label="Records of"
        value={of ?? head}
        onChange={(v) => change(v === head ? undefined : v)}
        options={types.map((t) => ({ value: t, label: t }))}
      />
    );
  return (
    <Fold title="Left out" sentence={sentence(documents, summary)}>
      <div className="flex flex-col gap-3">
        {aside.map((a, i) => {
          const set = (next: SetAside) => putAside(aside.map((x, k) => (k === i ? next : x)));
          const said = rules.condition({ of: a.of, formula: a.when });
          const records = summary?.shares?.setAside?.[a.reason ?? a.when];
          return (
            <div key={`a${i}`} className="flex flex-col gap-2 border-b border-line pb-3">
              <div className="flex items-end gap-2">
                {typeChoice(a.of, (of) => set({ ...a, of }))}
                <TextBox
                  label="Set aside as"
                  className="flex-1"
                  placeholder="the condition itself"
                  value={a.reason ?? ""}
                  onChange={(reason) => set({ ...a, reason: reason || undefined })}
                />
                {records !== undefined && <span className="data pb-1.5 text-sm text-faint">{count(records)}</span>}
                <RemoveButton
                  label={`Remove ${a.reason ?? a.when}`}
                  remove={() => putAside(aside.filter((_, k) => k !== i))}
                />
              </div>
              <FormulaBox
                label={`Records are set aside where, ${i + 1}`}
                formula={a.when}
                change={(when) => set({ ...a, when: when || "FALSE" })}
                said={said?.said}
                names={said?.names ?? rules.names}
                record={rules.record}
              />
            </div>
          );
        })}
        {duplicates.map((d, i) => {
          const set = (next: Duplicates) => putDuplicates(duplicates.map((x, k) => (k === i ? next : x)));
          const type = Math.max(0, types.indexOf(d.of ?? head));
          return (
            <div key={`d${i}`} className="flex flex-col gap-2 border-b border-line pb-3">
              <div className="flex items-end gap-2">
                {typeChoice(d.of, (of) =>
                  set({ ...d, of, key: [shaped.recordTypes[types.indexOf(of ?? head)].fields[0].name] }),
                )}
                <Select
                  label="Of records with one key, keep"
                  className="flex-1"
                  value={d.keep ?? "first"}
                  onChange={(v) => set({ ...d, keep: v })}
                  options={[
                    { value: "first", label: "the first" },
                    { value: "last", label: "the last (the file is read twice)" },
                  ]}
                />
                <RemoveButton
                  label={`Remove duplicates by ${d.key.join(", ")}`}
                  remove={() => putDuplicates(duplicates.filter((_, k) => k !== i))}
                />
              </div>
              <FieldTicks
                label="Key"
                fields={shaped.recordTypes[type].fields.map((f) => f.name)}
                chosen={d.key}
                put={(key) => key.length && set({ ...d, key })}
              />
            </div>
          );
        })}
        <div className="flex flex-wrap gap-2">
          <Button
            look="quiet"
            className="px-2"
            onClick={() =>
              putAside([...aside, { of: types.length > 1 ? types[types.length - 1] : undefined, when: "FALSE" }])
            }
          >
            <Plus size={14} aria-hidden /> Records where …
          </Button>
          <Button
            look="quiet"
            className="px-2"
            onClick={() =>
              putDuplicates([...duplicates, { key: [shaped.recordTypes[headType(shaped)].fields[0].name] }])
            }
          >
            <Plus size={14} aria-hidden /> Second records of one key
          </Button>
        </div>
      </div>
    </Fold>
  );
}
