import { useMutation } from "@tanstack/react-query";
import { useEffect, useState } from "react";
import { toast } from "sonner";
import { api, ask, type Schemas } from "../api/client";
import { Labelled } from "../ui/basics";
import type { Texts } from "./use-corrections";
import type { RejectKey } from "./use-rejects";

type Props = { at: RejectKey; texts: Texts; checked: Schemas["CheckedReject"][]; put: (texts: Texts) => void };

/** A record, and those inside it, field by field. What is typed is put into the text as the file writes it. */
export function FieldForm({ at, texts, checked, put }: Props) {
  const params = { path: { run: at.run, leg: at.leg, record: at.record } };
  const place = useMutation({
    mutationFn: (body: { record: number; field: string; value: string }) =>
      ask(api.POST("/api/v1/rejects/{run}/{leg}/{record}/field", { params, body: { ...body, texts } })),
    onSuccess: (placed) => put(placed.texts),
    onError: (e) => toast.error(e.message),
  });
  if (checked.every((c) => c.cells.length === 0))
    return <p className="text-sm text-faint">No fields can be told in this text. Correct it as text.</p>;
  return (
    <div className="flex flex-col gap-3 rounded border border-line bg-card p-3">
      {checked.map((c) => (
        <div key={c.record} className="grid grid-cols-[repeat(auto-fill,minmax(150px,1fr))] gap-3">
          {c.cells.map((cell) => (
            <Value
              key={cell.field}
              label={checked.length > 1 ? `${cell.field} (record ${c.record})` : cell.field}
              value={c.text.slice(cell.from, cell.to).trimEnd()}
              problem={c.bad.find((b) => b.from === cell.from && b.to === cell.to)?.message}
              set={(value) => place.mutate({ record: c.record, field: cell.field, value })}
            />
          ))}
        </div>
      ))}
    </div>
  );
}

/** A value that is taken when one has left it, or pressed Enter. */
function Value(props: { label: string; value: string; problem?: string; set: (value: string) => void }) {
  const { label, value, problem, set } = props;
  const [typed, setTyped] = useState(value);
  useEffect(() => setTyped(value), [value]);
  const take = () => typed !== value && set(typed);
  return (
    <Labelled label={label} problem={problem?.replace(/^[^:]*: /, "")}>
      {(control) => (
        <input
          {...control}
          className="data h-8 w-full rounded border border-line bg-card px-2 focus:border-pine"
          value={typed}
          spellCheck={false}
          onChange={(e) => setTyped(e.target.value)}
          onBlur={take}
          onKeyDown={(e) => e.key === "Enter" && take()}
        />
      )}
    </Labelled>
  );
}
