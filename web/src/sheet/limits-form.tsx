import type { Limits } from "../definitions";
import { whole } from "../layouts/check-rows";
import { TextBox } from "../ui/basics";

/** How many rejects and notes a run may have before it halts. */
export function LimitsForm({ limits, put }: { limits: Limits; put: (limits: Limits | undefined) => void }) {
  const set = (part: Partial<Limits>) => {
    const next = { ...limits, ...part };
    put(Object.values(next).some((v) => v !== undefined) ? next : undefined);
  };
  return (
    <section aria-label="Limits" className="grid grid-cols-2 gap-3 border-t border-line pt-3">
      <TextBox
        label="Halt after more rejects than"
        value={limits.rejects ?? ""}
        placeholder="any number"
        onChange={(v) => set({ rejects: whole(v) })}
        inputMode="numeric"
        hint={limits.rejects === 0 ? "halts at the first reject" : undefined}
        data
      />
      <TextBox
        label="Halt after more notes than"
        value={limits.notes ?? ""}
        placeholder="any number"
        onChange={(v) => set({ notes: whole(v) })}
        inputMode="numeric"
        data
      />
      <TextBox
        label="Halt above this share of rejects (%)"
        value={limits.percent ?? ""}
        placeholder="any share"
        onChange={(v) => set({ percent: whole(v) })}
        inputMode="numeric"
        data
      />
      <TextBox
        label="Ask the share from this record on"
        value={limits.percentFrom ?? ""}
        placeholder="100"
        onChange={(v) => set({ percentFrom: whole(v) })}
        disabled={limits.percent === undefined}
        inputMode="numeric"
        data
      />
    </section>
  );
}
