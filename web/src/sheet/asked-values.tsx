import { Plus } from "lucide-react";
import type { Job } from "../definitions";
import { Button, TextBox } from "../ui/basics";
import { RemoveButton } from "../ui/remove-button";

type Asked = NonNullable<Job["asked"]>[number];

/** The values that the person, or the schedule, supplies when a run starts. */
export function AskedValues({ asked, put }: { asked: Asked[]; put: (asked: Asked[]) => void }) {
  const set = (i: number, part: Partial<Asked>) => put(asked.map((a, k) => (k === i ? { ...a, ...part } : a)));
  return (
    <section aria-label="Asked at start" className="flex flex-col gap-2">
      <div className="flex items-center justify-between">
        <h2 className="text-xs font-semibold text-faint">Asked at start</h2>
        <Button look="quiet" className="h-7 px-2" onClick={() => put([...asked, { name: freeName(asked) }])}>
          <Plus size={14} aria-hidden /> Ask for a value
        </Button>
      </div>
      {asked.map((a, i) => (
        // The position is what stays while a name is typed.
        <div key={i} className="grid grid-cols-[1fr_1.4fr_1fr_auto] items-end gap-2">
          <TextBox label="Name in rules" value={a.name} onChange={(name) => set(i, { name })} data />
          <TextBox
            label="Question"
            value={a.prompt ?? ""}
            placeholder={a.name}
            onChange={(prompt) => set(i, { prompt: prompt || undefined })}
          />
          <TextBox
            label="When not given"
            value={a.value ?? ""}
            placeholder="must be given"
            onChange={(value) => set(i, { value: value || undefined })}
            data
          />
          <RemoveButton
            label={`Do not ask for ${a.name}`}
            remove={() => put(asked.filter((_, k) => k !== i))}
            className="mb-2"
          />
        </div>
      ))}
      {asked.length > 0 && (
        <p className="text-xs text-faint">A schedule has nobody to ask: it takes what stands under "When not given".</p>
      )}
    </section>
  );
}

/** A name that no other value has. */
export function freeName(asked: Asked[]): string {
  let n = 1;
  while (asked.some((a) => a.name === `value_${n}`)) n++;
  return `value_${n}`;
}
