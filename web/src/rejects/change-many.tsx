import { useMutation, useQuery } from "@tanstack/react-query";
import { useState } from "react";
import { toast } from "sonner";
import { api, ask } from "../api/client";
import { Button, TextBox, Trouble } from "../ui/basics";
import { Dialog } from "../ui/dialog";
import { useSettled } from "../ui/use-settled";
import { count, plural, visible } from "../ui/words";
import { nameOf, type RejectKey } from "./use-rejects";

type Props = { keys: RejectKey[]; onClose: () => void; onDone: () => void };

/** Changes the same thing in many rejects; what it comes to is shown before it is kept. */
export function ChangeMany({ keys, onClose, onDone }: Props) {
  const [field, setField] = useState("");
  const [find, setFind] = useState("");
  const [replace, setReplace] = useState("");
  const wanted = { field: field || undefined, find, replace };
  const settled = useSettled(JSON.stringify(wanted), 250);
  const fields = useQuery({
    queryKey: ["rejects", "fields", keys[0] && nameOf(keys[0])],
    queryFn: () => {
      const { run, leg, record } = keys[0] as RejectKey;
      return ask(
        api.POST("/api/v1/rejects/{run}/{leg}/{record}/check", {
          params: { path: { run, leg, record } },
          body: { texts: {} },
        }),
      );
    },
  });
  const known = [...new Set(fields.data?.flatMap((c) => c.cells.map((x) => x.field)) ?? [])];
  const ready = !!find || (!!field && !!replace);
  const effect = useQuery({
    queryKey: ["rejects", "effect", keys.map(nameOf).join(), settled],
    enabled: ready && settled === JSON.stringify(wanted),
    retry: false,
    placeholderData: (before) => before,
    queryFn: () =>
      ask(api.POST("/api/v1/rejects/change", { body: { keys, wanted: JSON.parse(settled), apply: false } })),
  });
  const apply = useMutation({
    mutationFn: () => ask(api.POST("/api/v1/rejects/change", { body: { keys, wanted, apply: true } })),
    onSuccess: (made) => {
      toast.success(`${plural(made.changed, "record")} changed.`);
      onDone();
    },
  });
  const e = ready ? effect.data : undefined;
  return (
    <Dialog
      open
      wide
      onClose={onClose}
      title={`Change the same thing in ${plural(keys.length, "reject")}`}
      actions={
        <>
          <Button onClick={onClose}>Close</Button>
          <Button look="main" disabled={!e?.changed || apply.isPending} onClick={() => apply.mutate()}>
            {e?.changed ? `Change ${plural(e.changed, "record")}` : "Change"}
          </Button>
        </>
      }
    >
      <div className="grid grid-cols-3 gap-3">
        <div>
          <TextBox
            label="In the field"
            value={field}
            onChange={setField}
            list="reject-fields"
            data
            hint="empty: anywhere"
          />
          <datalist id="reject-fields">
            {known.map((f) => (
              <option key={f} value={f} />
            ))}
          </datalist>
        </div>
        <TextBox label="Replace" value={find} onChange={setFind} data hint="empty: the whole field" />
        <TextBox label="With" value={replace} onChange={setReplace} data />
      </div>
      {known.length > 0 && (
        <p className="mt-2 flex flex-wrap gap-1.5">
          {known.map((f) => (
            <button
              type="button"
              key={f}
              aria-pressed={f === field}
              onClick={() => setField(f === field ? "" : f)}
              className={`data rounded border px-2 text-sm ${f === field ? "border-pine bg-pine-wash text-pine" : "border-line hover:border-pine"}`}
            >
              {f}
            </button>
          ))}
        </p>
      )}
      <div className="mt-4">
        {(effect.isError || apply.isError) && <Trouble error={apply.error ?? effect.error} />}
        {e && (
          <>
            <p role="status" className="mb-2">
              {plural(e.changed, "record")} would change. Of all records of their documents{" "}
              <strong className="text-moss">{count(e.good)} would be delivered</strong>
              {e.bad > 0 && <strong className="text-brick">, {count(e.bad)} still refused</strong>}.
            </p>
            <ul className="data max-h-72 overflow-auto text-sm" tabIndex={0} aria-label="Effect">
              {e.effects.map((x) => (
                <li key={`${x.run} ${x.record}`} className="border-t border-line py-1">
                  <del className="block truncate text-brick no-underline">− {visible(x.before)}</del>
                  <ins className="block truncate text-moss no-underline">+ {visible(x.after)}</ins>
                </li>
              ))}
            </ul>
          </>
        )}
        {!ready && <p className="text-faint">The effect is shown here before anything is kept.</p>}
      </div>
    </Dialog>
  );
}
