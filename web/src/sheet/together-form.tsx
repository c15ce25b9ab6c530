import { targetPlace } from "../definitions";
import { Select, Tick } from "../ui/basics";
import type { SectionProps } from "./section-props";

/** How deliveries to several places go together. */
export function TogetherForm({ sheet, change }: Pick<SectionProps, "sheet" | "change">) {
  const { job } = sheet;
  const places = new Set((job.deliveries ?? []).map((d) => targetPlace(d.to)).filter((p) => p !== ""));
  if (places.size < 2) return null;
  const together = job.together ?? {};
  const put = (next: typeof together) => {
    const usual = !next.sideBySide && (next.whenOneFails ?? "stop") === "stop";
    change({ ...sheet, job: { ...job, together: usual ? undefined : next } });
  };
  return (
    <section aria-label="Several places" className="flex flex-col gap-2 border-t border-line pt-3">
      <p className="font-semibold">{places.size} places, each with its own mark and account</p>
      <Tick
        label="At the same time, not one after another"
        checked={together.sideBySide ?? false}
        onChange={(on) => put({ ...together, sideBySide: on })}
      />
      <Select
        label="When one of them fails"
        value={together.whenOneFails ?? "stop"}
        onChange={(v) => put({ ...together, whenOneFails: v })}
        options={[
          { value: "stop", label: "the others stop" },
          { value: "go-on", label: "the others go on; it is restarted alone" },
        ]}
      />
    </section>
  );
}
