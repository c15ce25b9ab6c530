import type { Limits } from "../definitions";
import { NumberBox } from "../ui/number-box";

/** How many rejects and notes a run may have before it halts. */
export function LimitsForm({ limits, put }: { limits: Limits; put: (limits: Limits | undefined) => void }) {
  const set = (part: Partial<Limits>) => {
    const next = { ...limits, ...part };
    put(Object.values(next).some((v) => v !== undefined) ? next : undefined);
  };
  return (
    <section aria-label="Limits" className="grid grid-cols-2 gap-3 border-t border-line pt-3">
      <NumberBox
        label="Halt after more rejects than"
        value={limits.rejects}
        placeholder="any number"
        onChange={(v) => set({ rejects: v })}
        hint={limits.rejects === 0 ? "halts at the first reject" : undefined}
      />
      <NumberBox
        label="Halt after more notes than"
        value={limits.notes}
        placeholder="any number"
        onChange={(v) => set({ notes: v })}
      />
      <NumberBox
        label="Halt above this share of rejects (%)"
        value={limits.percent}
        placeholder="any share"
        onChange={(v) => set({ percent: v })}
      />
      <NumberBox
        label="Ask the share from this record on"
        value={limits.percentFrom}
        placeholder="100"
        onChange={(v) => set({ percentFrom: v })}
        disabled={limits.percent === undefined}
      />
    </section>
  );
}
