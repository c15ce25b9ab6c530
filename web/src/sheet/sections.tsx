import { ChevronDown, OctagonAlert } from "lucide-react";
import type { ReactNode } from "react";
import type { Schemas } from "../api/client";
import { checkWords, documentCheckWords } from "../definition-words";
import { byKey, fieldsOf, type Mode, type Sheet, targetLabel } from "../definitions";
import { formatWords } from "../formats/formats";
import { plural } from "../ui/words";
import { ChecksSection } from "./checks-section";
import { useCron } from "./cron";
import { DeliverySection } from "./delivery-section";
import { LayoutSection } from "./layout-section";
import { PickUpSection } from "./pick-up-section";
import type { SectionProps } from "./section-props";
import { ShapingSection } from "./shaping-section";
import { Shortcomings } from "./shortcomings";

type Props = SectionProps & {
  open: string;
  setOpen: (section: string) => void;
  shortcomings: Schemas["Shortcoming"][];
};

/** The five numbered sections of the sheet: a sentence each when closed, a form when open. */
export function Sections(props: Props) {
  const { sheet, open, setOpen, shortcomings } = props;
  const cron = useCron(sheet.job.pickUp?.schedule?.cron);
  const section = (n: number, title: string, sentence: string, content: () => ReactNode) => {
    const mine = shortcomings.filter((s) => s.section === n);
    const isOpen = open === String(n);
    return (
      <section className="border-b border-line" aria-labelledby={`section-${n}`}>
        <button
          type="button"
          id={`section-${n}`}
          aria-expanded={isOpen}
          onClick={() => setOpen(isOpen ? "0" : String(n))}
          className="flex w-full items-baseline gap-3 px-5 py-2.5 text-left hover:bg-card"
        >
          <span className="data text-faint">{n}</span>
          <span className="w-[74px] shrink-0 font-semibold">{title}</span>
          <span className="min-w-0 flex-1 text-faint">{isOpen ? "" : sentence}</span>
          {mine.some((s) => s.blocks) && (
            <OctagonAlert size={15} className="shrink-0 self-center text-brick" aria-label="Must be mended" />
          )}
          <ChevronDown
            size={15}
            aria-hidden
            className={`shrink-0 self-center text-faint ${isOpen ? "rotate-180" : ""}`}
          />
        </button>
        {isOpen && (
          <div className="flex flex-col gap-3 px-5 pb-5">
            {mine.length > 0 && <Shortcomings list={mine} />}
            {content()}
          </div>
        )}
      </section>
    );
  };
  return (
    <>
      {section(1, "Pick-up", pickUpWords(sheet, cron.data?.words), () => (
        <PickUpSection {...props} />
      ))}
      {section(2, "Layout", layoutWords(sheet), () => (
        <LayoutSection {...props} />
      ))}
      {section(3, "Checks", checksWords(sheet), () => (
        <ChecksSection {...props} />
      ))}
      {section(
        4,
        "Shaping",
        plural(
          (sheet.job.deliveries ?? []).reduce((n, d) => n + (d.shaping?.length ?? 0), 0),
          "target field has a rule",
          "target fields have a rule",
        ),
        () => (
          <ShapingSection {...props} />
        ),
      )}
      {section(5, "Delivery", deliveryWords(sheet), () => (
        <DeliverySection {...props} />
      ))}
    </>
  );
}

function pickUpWords({ job }: Sheet, cron?: string): string {
  const p = job.pickUp;
  if (!p) return "Files are given by hand.";
  const { from, schedule } = p;
  const times = schedule?.cron ? (cron ?? `at ${schedule.cron}`) : `every ${schedule?.everySeconds ?? 30} seconds`;
  if (from.kind === "query")
    return `Asks ${from.connection || "a database"} ${times}${from.onlyNew ? ", for new rows" : ""}.`;
  const folder = `${from.root}${from.folder ? `/${from.folder}` : ""}`;
  return `Takes ${from.pattern} from ${folder}, looking ${times}, ready when unchanged for ${p.ready?.unchangedSeconds ?? 0}\u00a0s.`;
}

function layoutWords({ layout }: Sheet): string {
  const types = layout.recordTypes.length;
  const fields = layout.recordTypes.reduce((n, t) => n + t.fields.length, 0);
  const of = types > 1 ? ` of ${types} record types` : "";
  return `${plural(fields, "field")}${of}; ${formatWords(layout.format)}.`;
}

function checksWords({ job, layout }: Sheet): string {
  const ofLayout =
    layout.recordTypes.reduce(
      (n, _, t) => n + fieldsOf(layout, t).reduce((m, f) => m + (f.checks?.length ?? 0), 0),
      0,
    ) + (layout.fileChecks?.length ?? 0);
  const own = [
    ...(job.checks ?? []).flatMap((c) => c.checks.map((k) => `${c.field} ${checkWords(k)}`)),
    ...(job.documents?.checks ?? []).map(documentCheckWords),
  ];
  return `${ofLayout} of the layout${own.length ? `, and: ${own.join("; ")}` : ", none of its own"}.`;
}

const modeWords: Record<Mode, string> = {
  add: "Adds rows to",
  "add-or-change": "Adds or changes rows of",
  change: "Changes rows of",
  "add-missing": "Adds missing rows to",
  remove: "Removes rows of",
  replace: "Replaces all rows of",
  statement: "Runs a statement for each row,",
};

function deliveryWords({ job }: Sheet): string {
  const all = (job.deliveries ?? []).flatMap((d) => (d.to ? [d.to] : []));
  if (all.length === 0) return "No delivery yet.";
  return all
    .map((d) =>
      d.kind === "file"
        ? `Writes ${targetLabel(d)} in ${[d.file.root, d.file.folder].filter(Boolean).join("/")}.`
        : d.kind === "application"
          ? `Sends ${targetLabel(d)} to ${d.connection}.`
          : byKey(d.mode)
            ? `${modeWords[d.mode ?? "add"]} ${d.table} in ${d.connection}, by ${d.key?.join(", ")}.`
            : `${modeWords[d.mode ?? "add"]} ${d.table} in ${d.connection}.`,
    )
    .join(" ");
}
