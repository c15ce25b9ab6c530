import { Plus, Trash2 } from "lucide-react";
import {
  type Delivery,
  inFormula,
  type RecordType,
  type Sheet,
  type Summary,
  shapedLayout,
  targetLabel,
  typeOf,
} from "../definitions";
import { Button, Select } from "../ui/basics";
import { Chips } from "../ui/chips";
import { useSearchIndex } from "../ui/use-search-value";

/** The delivery in focus, kept in the address, and how to change it. */
export function useDelivery(sheet: Sheet, change: (sheet: Sheet) => void) {
  const [asked, choose] = useSearchIndex("delivery");
  const { job } = sheet;
  const all = job.deliveries ?? [];
  const at = Math.min(asked, Math.max(0, all.length - 1));
  const delivery: Delivery = all[at] ?? {};
  const putAll = (deliveries: Delivery[]) => change({ ...sheet, job: { ...job, deliveries } });
  return {
    at,
    all,
    delivery,
    type: Math.max(0, typeOf(shapedLayout(sheet), delivery)),
    choose,
    putAll,
    put: (d: Delivery) => putAll(all.length === 0 ? [d] : all.map((x, i) => (i === at ? d : x))),
    add: (d: Delivery) => {
      putAll([...all, d]);
      choose(all.length);
    },
    remove: () => {
      putAll(all.filter((_, i) => i !== at));
      choose(0);
    },
  };
}

/** A record of a type, in words. */
function recordWords(type: string): string {
  return type === "record" ? type : `${type} record`;
}

/** Groups by the first field, counted, to begin with. */
function firstSummary(types: RecordType[], of: string): Summary {
  const name = types.find((t) => t.name === of)?.fields[0].name ?? "";
  return { by: [{ name, is: inFormula(name) }], totals: [{ name: "records", take: "count" }] };
}

/** Which of the deliveries is shown; where the layout has several record types, which of them gives its rows. */
export function DeliveryChoice({ sheet, use }: { sheet: Sheet; use: ReturnType<typeof useDelivery> }) {
  const types = shapedLayout(sheet).recordTypes;
  const lanes = sheet.job.documents?.lanes?.lanes ?? [];
  const unused = types.find((t) => !use.all.some((d) => (d.of ?? types[0].name) === t.name)) ?? types[0];
  return (
    <div className="flex flex-col gap-2">
      <Chips
        label="Deliveries"
        value={use.at}
        onChange={use.choose}
        chips={use.all.map((d, i) => ({
          value: i,
          label: `${d.lane ? `${d.lane}: ` : ""}${d.summary ? "groups of " : ""}${d.of ?? types[0].name} → ${targetLabel(d.to) || "nowhere yet"}`,
        }))}
      >
        <Button look="quiet" className="h-7 px-2" onClick={() => use.add({ of: unused.name, shaping: [] })}>
          <Plus size={14} aria-hidden /> Another delivery
        </Button>
      </Chips>
      <div className="flex flex-wrap items-end gap-2">
        <Select
          label="Rows are made of"
          className="min-w-60 flex-1"
          value={`${use.delivery.summary ? "groups" : "each"} ${use.delivery.of ?? types[0].name}`}
          onChange={(v) => {
            const at = v.indexOf(" ");
            const of = v.slice(at + 1);
            const groups = v.startsWith("groups");
            use.put({
              ...use.delivery,
              of,
              summary: groups ? (use.delivery.summary ?? firstSummary(types, of)) : undefined,
            });
          }}
          options={["each", "groups"].flatMap((how) =>
            types.map((t) => ({
              value: `${how} ${t.name}`,
              label: how === "each" ? `each ${recordWords(t.name)}` : `groups of ${recordWords(t.name)}s`,
            })),
          )}
        />
        {lanes.length > 0 && (
          <Select
            label="Of the lane"
            className="min-w-32 flex-1"
            value={use.delivery.lane ?? ""}
            onChange={(lane) => use.put({ ...use.delivery, lane: lane || undefined })}
            options={[{ value: "", label: "all lanes" }, ...lanes.map((l) => ({ value: l.name, label: l.name }))]}
          />
        )}
        {use.all.length > 1 && (
          <Button look="remove" onClick={use.remove}>
            <Trash2 size={14} aria-hidden /> Remove this delivery
          </Button>
        )}
      </div>
    </div>
  );
}
