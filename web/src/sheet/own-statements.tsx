import { Plus } from "lucide-react";
import type { OwnStatement } from "../definitions";
import { Button, Labelled, Select, Tick } from "../ui/basics";
import { RemoveButton } from "../ui/remove-button";
import type { SectionProps } from "./section-props";

/** Statements of the job's own, before its rows and after them. */
export function OwnStatements({ sheet, change }: Pick<SectionProps, "sheet" | "change">) {
  const { job } = sheet;
  const all = job.statements ?? [];
  const databases = [
    ...new Set((job.deliveries ?? []).flatMap((d) => (d.to && d.to.kind === undefined ? [d.to.connection] : []))),
  ];
  if (databases.length === 0 && all.length === 0) return null;
  const put = (statements: OwnStatement[]) =>
    change({ ...sheet, job: { ...job, statements: statements.length ? statements : undefined } });
  const set = (at: number, part: Partial<OwnStatement>) => put(all.map((s, i) => (i === at ? { ...s, ...part } : s)));
  return (
    <section aria-label="Own statements" className="flex flex-col gap-3 border-t border-line pt-3">
      {all.map((s, i) => (
        <div key={i} className="flex flex-col gap-2">
          <div className="flex items-end gap-2">
            <Select
              label={`Statement ${i + 1} runs`}
              className="flex-1"
              value={s.when}
              onChange={(when) => set(i, { when: when })}
              options={[
                { value: "before", label: "before the first row" },
                { value: "after", label: "after the last row" },
              ]}
            />
            {(databases.length > 1 || s.connection !== databases[0]) && (
              <Select
                label="In"
                className="flex-1"
                value={s.connection}
                onChange={(connection) => set(i, { connection })}
                options={[...new Set([s.connection, ...databases])].map((c) => ({ value: c, label: c || "choose" }))}
              />
            )}
            <RemoveButton label={`Remove statement ${i + 1}`} remove={() => put(all.filter((_, k) => k !== i))} />
          </div>
          <Labelled label={`Statement ${i + 1}`} hint=":today :run :file, site values and what is asked at start">
            {(control) => (
              <textarea
                {...control}
                rows={3}
                spellCheck={false}
                className="data w-full rounded border border-line bg-card px-2 py-1.5 text-sm"
                value={s.sql}
                onChange={(e) => set(i, { sql: e.target.value, writtenBy: undefined })}
              />
            )}
          </Labelled>
          {s.writtenBy && <p className="text-xs text-faint">Written by {s.writtenBy}.</p>}
          <Tick
            label="A transaction of its own"
            checked={s.alone ?? false}
            onChange={(on) => set(i, { alone: on || undefined })}
          />
        </div>
      ))}
      {databases.length > 0 && (
        <Button
          look="quiet"
          className="self-start px-2"
          onClick={() => put([...all, { connection: databases[0], when: "before", sql: "" }])}
        >
          <Plus size={14} aria-hidden /> A statement before or after the rows
        </Button>
      )}
      {all.length > 0 && (
        <p className="text-xs text-faint">
          Each runs once for a run, however often that is restarted: with the first rows, or with the last ones and
          their mark, or as a transaction of its own.
        </p>
      )}
    </section>
  );
}
