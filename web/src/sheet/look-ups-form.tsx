import { Plus } from "lucide-react";
import type { Schemas } from "../api/client";
import { type Documents, headType, type Layout, type LookUp } from "../definitions";
import { Button } from "../ui/basics";
import { Fold } from "../ui/fold";
import { LookUpRow } from "./look-up-row";
import type { Rules } from "./use-rules";

type Props = {
  documents: Documents;
  /** The layout of the documents. */
  shaped: Layout;
  put: (documents: Documents) => void;
  rules: Rules;
  /** When what they look into was read. */
  reads: Schemas["Read"][];
};

function place(l: LookUp): string {
  return l.from.in === "table" ? l.from.table || "a table" : l.from.pattern;
}

/** Fields that are added to records by a key, from a table or another file. */
export function LookUpsForm({ documents, shaped, put, rules, reads }: Props) {
  const all = documents.lookUps ?? [];
  const putAll = (list: LookUp[]) => put({ ...documents, lookUps: list.length ? list : undefined });
  const first = shaped.recordTypes[shaped.recordTypes.length > 1 ? shaped.recordTypes.length - 1 : headType(shaped)];
  const free = () => {
    let n = 1;
    while (all.some((l) => l.name === `found${n}`)) n++;
    return `found${n}`;
  };
  const add = () =>
    putAll([
      ...all,
      {
        name: free(),
        of: shaped.recordTypes.length > 1 ? first.name : undefined,
        from: { in: "table", connection: "", table: "" },
        key: [],
      },
    ]);
  return (
    <Fold
      title="Look-ups"
      sentence={
        all.length ? `${all.map((l) => `${l.name} from ${place(l)}`).join("; ")}.` : "Nothing is added from elsewhere."
      }
    >
      <div className="flex flex-col gap-4">
        {all.map((l, i) => (
          <LookUpRow
            key={`l${i}`}
            lookUp={l}
            shaped={shaped}
            put={(next) => putAll(all.map((x, k) => (k === i ? next : x)))}
            remove={() => putAll(all.filter((_, k) => k !== i))}
            rules={rules}
            read={reads.find((r) => r.name === l.name)}
          />
        ))}
        <Button look="quiet" className="self-start px-2" onClick={add}>
          <Plus size={14} aria-hidden /> Fields from a table or another file
        </Button>
      </div>
    </Fold>
  );
}
