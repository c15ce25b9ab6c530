import { useMemo } from "react";
import { Weight } from "../ui/state";
import { plural } from "../ui/words";
import type { Light } from "./light";
import type { Preview } from "./preview";

type Props = { preview: Preview; light: Light; goTo: (record: number, type: number, field?: number) => void };

/** All findings of the sample in one list; a click goes to the place. */
export function FindingsList({ preview, light, goTo }: Props) {
  const types = useMemo(() => new Map(preview.records.map((r) => [r.number, r.type])), [preview]);
  const open = (record: number, field: string | null) => {
    const type = Math.max(0, types.get(record) ?? 0);
    const at = field === null ? -1 : (preview.types[type]?.fields.indexOf(field) ?? -1);
    goTo(record, type, at < 0 ? undefined : at);
  };
  // What stops the file comes first; what goes with a refused document is only counted.
  const all = useMemo(() => {
    const causes = preview.findings.filter((f) => f.code !== "DOC-01");
    return [...causes.filter((f) => f.severity === "halt"), ...causes.filter((f) => f.severity !== "halt")];
  }, [preview]);
  const along = preview.findings.length - all.length;
  return (
    <section aria-label="Findings" className="max-h-[34%] shrink-0 overflow-auto border-t border-line bg-paper">
      <h2 className="sticky top-0 bg-paper px-4 py-1.5 text-xs font-semibold text-faint">
        {all.length === 0 ? "No findings in the sample" : plural(all.length, "finding")}
        {preview.findings.length >= 500 && " (the first ones)"}
        {along > 0 && ` · ${plural(along, "record goes", "records go")} with a refused document`}
      </h2>
      <ul>
        {all.map((f) => (
          <li key={`${f.record}${f.code}${f.offset}${f.field}`}>
            <button
              type="button"
              onClick={() => open(f.record, f.field)}
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
