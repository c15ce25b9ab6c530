import { ArrowDown, ArrowUp, Plus } from "lucide-react";
import type { Schemas } from "../api/client";
import type { Documents, Lane, Lanes } from "../definitions";
import { Button, Select, TextBox } from "../ui/basics";
import { Fold } from "../ui/fold";
import { RemoveButton } from "../ui/remove-button";
import { plural } from "../ui/words";
import { FormulaBox } from "./formula-box";
import type { Rules } from "./use-rules";

type Props = {
  documents: Documents;
  /** Puts lanes; deliveries follow a lane that gets another name. */
  put: (lanes: Lanes | undefined, renamed?: { from: string; to: string }) => void;
  rules: Rules;
  summary?: Schemas["Summary"];
};

/** Named conditions that send documents to their own deliveries; the last one takes all others. */
export function LanesForm({ documents, put, rules, summary }: Props) {
  const lanes = documents.lanes?.lanes ?? [];
  const take = documents.lanes?.take ?? "first";
  const putLanes = (list: Lane[], renamed?: { from: string; to: string }) =>
    put(list.length > 1 ? { take, lanes: list } : undefined, renamed);
  const move = (from: number, to: number) => {
    const list = [...lanes];
    const [moved] = list.splice(from, 1);
    list.splice(to, 0, moved);
    putLanes(list);
  };
  const share = (lane: string) => summary?.shares?.lanes?.[lane];
  const sentence = lanes.length
    ? `${lanes.map((l) => `${l.name}${share(l.name) ? ` ${share(l.name)?.documents}` : ""}`).join(" · ")}; ${take === "first" ? "the first that holds" : "every one that holds"}.`
    : "All documents go one way.";
  const free = () => {
    let n = lanes.length;
    while (lanes.some((l) => l.name === `lane ${n}`)) n++;
    return `lane ${n}`;
  };
  return (
    <Fold title="Lanes" sentence={sentence}>
      <div className="flex flex-col gap-3">
        {lanes.length === 0 && (
          <div className="flex items-center gap-3">
            <p className="flex-1 text-sm text-faint">
              Lanes send documents to deliveries of their own, by conditions. Each lane has its own rules.
            </p>
            <Button
              onClick={() => put({ take: "first", lanes: [{ name: "special", when: "FALSE" }, { name: "otherwise" }] })}
            >
              Make lanes
            </Button>
          </div>
        )}
        {lanes.length > 0 && (
          <Select
            label="A document takes"
            value={take}
            onChange={(v) => put({ take: v, lanes })}
            options={[
              { value: "first", label: "the first lane whose condition holds" },
              { value: "every", label: "every lane whose condition holds" },
            ]}
          />
        )}
        {lanes.map((lane, i) => {
          const last = i === lanes.length - 1;
          const said = lane.when === undefined ? undefined : rules.condition({ formula: lane.when });
          const of = share(lane.name);
          const set = (next: Lane) =>
            putLanes(
              lanes.map((l, k) => (k === i ? next : l)),
              next.name !== lane.name ? { from: lane.name, to: next.name } : undefined,
            );
          return (
            <div key={`l${i}`} className="flex flex-col gap-2 border-b border-line pb-3">
              <div className="flex items-end gap-1">
                <TextBox
                  label={last ? "Otherwise: the lane of all others" : `Lane ${i + 1}`}
                  className="flex-1"
                  value={lane.name}
                  onChange={(name) => name.trim() && set({ ...lane, name })}
                />
                <span className="w-32 pb-1.5 text-right text-sm text-faint">
                  {of && plural(of.documents, "document")}
                </span>
                {!last && (
                  <>
                    <Nudge label={`Lane ${lane.name} earlier`} disabled={i === 0} act={() => move(i, i - 1)} up />
                    <Nudge
                      label={`Lane ${lane.name} later`}
                      disabled={i === lanes.length - 2}
                      act={() => move(i, i + 1)}
                    />
                    <RemoveButton
                      label={`Remove the lane ${lane.name}`}
                      remove={() => putLanes(lanes.filter((_, k) => k !== i))}
                      className="mb-1.5"
                    />
                  </>
                )}
              </div>
              {lane.when !== undefined && (
                <FormulaBox
                  label={`Condition of the lane ${lane.name}`}
                  formula={lane.when}
                  change={(when) => set({ ...lane, when: when || "FALSE" })}
                  said={said?.said}
                  names={said?.names ?? rules.names}
                  record={rules.record}
                />
              )}
            </div>
          );
        })}
        {lanes.length > 0 && (
          <div className="flex gap-2">
            <Button
              look="quiet"
              className="px-2"
              onClick={() =>
                putLanes([...lanes.slice(0, -1), { name: free(), when: "FALSE" }, lanes[lanes.length - 1]])
              }
            >
              <Plus size={14} aria-hidden /> Another lane
            </Button>
            <Button look="remove" className="ml-auto" onClick={() => put(undefined)}>
              No lanes
            </Button>
          </div>
        )}
      </div>
    </Fold>
  );
}

function Nudge(props: { label: string; disabled: boolean; act: () => void; up?: boolean }) {
  const Icon = props.up ? ArrowUp : ArrowDown;
  return (
    <button
      type="button"
      aria-label={props.label}
      disabled={props.disabled}
      onClick={props.act}
      className="mb-1.5 rounded p-1 text-faint hover:text-pine disabled:opacity-40"
    >
      <Icon size={14} aria-hidden />
    </button>
  );
}
