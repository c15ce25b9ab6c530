import { fieldsOf, type Sheet } from "../definitions";
import type { Light } from "../sheet/job-page";
import { Weight } from "../ui/state";
import { plural } from "../ui/words";
import type { Preview } from "./bench";

type Props = { preview: Preview; sheet: Sheet; light: Light; goTo: (record: number, field?: number) => void };

/** All findings of the sample in one list; a click goes to the place. */
export function FindingsList({ preview, sheet, light, goTo }: Props) {
  const names = fieldsOf(sheet.layout).map((f) => f.name);
  const all = preview.findings;
  return (
    <section aria-label="Findings" className="max-h-[34%] shrink-0 overflow-auto border-t border-line bg-paper">
      <h2 className="sticky top-0 bg-paper px-4 py-1.5 text-xs font-semibold text-faint">
        {all.length === 0 ? "No findings in the sample" : plural(all.length, "finding")}
        {all.length >= 500 && " (the first ones)"}
      </h2>
      <ul>
        {all.map((f) => (
          <li key={`${f.record}${f.code}${f.offset}${f.field}`}>
            <button
              type="button"
              onClick={() => goTo(f.record, f.field ? names.indexOf(f.field) : undefined)}
              className={`flex w-full items-baseline gap-2 px-4 py-0.5 text-left text-sm ${light.record === f.record ? "bg-pine-wash" : "hover:bg-card"}`}
            >
              <span className="w-14 shrink-0">
                <Weight severity={f.severity} />
              </span>
              {f.message}
            </button>
          </li>
        ))}
      </ul>
    </section>
  );
}
