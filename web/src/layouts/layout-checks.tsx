import { fileCheckWords } from "../definition-words";
import type { Layout } from "../definitions";
import { RemoveButton } from "../ui/remove-button";
import { Weight } from "../ui/state";
import { CheckRows, type FieldCheck } from "./check-rows";
import { NewFileCheck } from "./new-file-check";

/** The checks of a layout: of its fields, and of the file as a whole. */
export function LayoutChecks({ layout, put }: { layout: Layout; put: (layout: Layout) => void }) {
  const names = layout.recordTypes.flatMap((t) => t.fields.map((f) => `${t.name}.${f.name}`));
  const own: FieldCheck[] = layout.recordTypes.flatMap((t) =>
    t.fields.flatMap((f) => (f.checks ?? []).map((check) => ({ field: `${t.name}.${f.name}`, check }))),
  );
  const putChecks = (checks: FieldCheck[]) =>
    put({
      ...layout,
      recordTypes: layout.recordTypes.map((t) => ({
        ...t,
        fields: t.fields.map((f) => ({
          ...f,
          checks: checks.filter((c) => c.field === `${t.name}.${f.name}`).map((c) => c.check),
        })),
      })),
    });
  return (
    <>
      <h2 className="text-xs font-semibold text-faint">Of fields</h2>
      <CheckRows names={names} checks={own} put={putChecks} byField />
      <h2 className="border-t border-line pt-3 text-xs font-semibold text-faint">Of the file as a whole</h2>
      <ul className="flex flex-col gap-1 text-sm">
        {(layout.fileChecks ?? []).map((c, i) => (
          <li key={fileCheckWords(c)} className="flex items-baseline gap-2">
            <Weight severity={c.severity ?? "halt"} />
            <span className="min-w-0 flex-1">{fileCheckWords(c)}</span>
            <RemoveButton
              label={`Remove the check ${fileCheckWords(c)}`}
              remove={() => put({ ...layout, fileChecks: layout.fileChecks?.filter((_, k) => k !== i) })}
            />
          </li>
        ))}
        {!layout.fileChecks?.length && <li className="text-faint">None.</li>}
      </ul>
      <NewFileCheck layout={layout} put={put} />
    </>
  );
}
