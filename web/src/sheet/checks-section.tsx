import { checkWords, fileCheckWords } from "../definition-words";
import { orNothing, type Severity, shapedLayout, withFields } from "../definitions";
import { CheckRows, type FieldCheck } from "../layouts/check-rows";
import { NewFileCheck } from "../layouts/new-file-check";
import { RemoveButton } from "../ui/remove-button";
import { Weight } from "../ui/state";
import { DocumentChecks } from "./document-checks";
import { LimitsForm } from "./limits-form";
import type { SectionProps } from "./section-props";
import { useRules } from "./use-rules";

export function ChecksSection({ sheet, change, light }: SectionProps) {
  const { job, layout } = sheet;
  const documents = job.documents ?? {};
  const conditions = (documents.checks ?? []).flatMap((c) => (c.rule === "holds" ? [{ formula: c.holds }] : []));
  const rules = useRules(sheet, 0, light.record ?? 0, conditions);
  const several = layout.recordTypes.length > 1;
  const names = layout.recordTypes.flatMap((t, i) => t.fields.map((f) => (i === 0 ? f.name : `${t.name}.${f.name}`)));
  const own = (job.checks ?? []).flatMap((c) => c.checks.map((check) => ({ field: c.field, check })));
  const put = (list: FieldCheck[]) =>
    change({ ...sheet, job: { ...job, checks: list.map(({ field, check }) => ({ field, checks: [check] })) } });
  return (
    <>
      <h2 className="text-xs font-semibold text-faint">Of the layout, wherever it is used</h2>
      <ul className="flex flex-col gap-1 text-sm">
        {layout.recordTypes.flatMap((t, n) =>
          t.fields.flatMap((f, i) =>
            (f.checks ?? []).map((c, k) => (
              <CheckLine
                key={`${t.name}.${f.name} ${checkWords(c)}`}
                severity={c.severity}
                subject={several ? `${t.name}.${f.name}` : f.name}
                words={checkWords(c)}
                remove={() => {
                  const next = t.fields.map((x, m) =>
                    m === i ? { ...x, checks: x.checks?.filter((_, at) => at !== k) } : x,
                  );
                  change({ ...sheet, layout: withFields(layout, n, next) });
                }}
              />
            )),
          ),
        )}
        {layout.fileChecks?.map((c, i) => (
          <CheckLine
            key={fileCheckWords(c)}
            severity={c.severity ?? "halt"}
            subject="The file:"
            words={fileCheckWords(c)}
            remove={() =>
              change({
                ...sheet,
                layout: { ...layout, fileChecks: layout.fileChecks?.filter((_, k) => k !== i) },
              })
            }
          />
        ))}
        {layout.recordTypes.every((t) => t.fields.every((f) => !f.checks?.length)) && !layout.fileChecks?.length && (
          <li className="text-faint">None.</li>
        )}
      </ul>
      <NewFileCheck layout={layout} put={(next) => change({ ...sheet, layout: next })} />
      <h2 className="text-xs font-semibold text-faint">Of this job alone</h2>
      <CheckRows names={names} checks={own} put={put} />
      <DocumentChecks
        documents={documents}
        shaped={shapedLayout(sheet)}
        rules={rules}
        put={(checks) => change({ ...sheet, job: { ...job, documents: orNothing({ ...documents, checks }) } })}
      />
      <LimitsForm limits={job.limits ?? {}} put={(limits) => change({ ...sheet, job: { ...job, limits } })} />
    </>
  );
}

function CheckLine(props: { severity?: Severity; subject: string; words: string; remove: () => void }) {
  return (
    <li className="flex items-center gap-2">
      <Weight severity={props.severity} />
      <span className="min-w-0 flex-1">
        <strong>{props.subject}</strong> {props.words}
      </span>
      <RemoveButton label={`Remove the check ${props.subject} ${props.words}`} remove={props.remove} />
    </li>
  );
}
