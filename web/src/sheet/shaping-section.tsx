import { useQuery } from "@tanstack/react-query";
import { Plus } from "lucide-react";
import { api, ask } from "../api/client";
import { fieldNames, fieldsOf, type Origin, placeOf, type Rule } from "../definitions";
import { Button, Select, Tick } from "../ui/basics";
import { RemoveButton } from "../ui/remove-button";
import { AskedValues, freeName } from "./asked-values";
import { DeliveryChoice, useDelivery } from "./delivery-choice";
import { FormulaBox } from "./formula-box";
import type { SectionProps } from "./sections";

const facts = [
  { value: "today", label: "the day of the run" },
  { value: "run-number", label: "the number of the run" },
  { value: "file-name", label: "the name of the file" },
  { value: "line-number", label: "the line in the file" },
] as const;

const touchWords = { trim: "trim", upper: "upper", lower: "lower" } as const;

export function ShapingSection({ sheet, change, light, setLight }: SectionProps) {
  const { job, layout } = sheet;
  const use = useDelivery(sheet, change);
  const rules = use.delivery.shaping ?? [];
  const fields = fieldsOf(layout, use.type);
  const names = fieldNames(layout, use.type);
  const d = use.delivery.to;
  const table = useQuery({
    queryKey: ["table", d?.connection, d?.table],
    enabled: !!d,
    retry: false,
    queryFn: () =>
      ask(
        api.GET("/api/connections/{name}/tables/{table}", {
          params: { path: { name: d?.connection ?? "", table: d?.table ?? "" } },
        }),
      ),
  });
  const columns = table.data?.columns.filter((c) => !c.generated) ?? [];
  const put = (shaping: Rule[]) => use.put({ ...use.delivery, shaping });
  const set = (i: number, rule: Rule) => put(rules.map((r, k) => (k === i ? rule : r)));
  const asked = job.asked ?? [];
  /** Changes what is asked; a rule follows the value it takes when that gets another name. */
  const putAsked = (next: typeof asked) => {
    const renamed = (take: Origin): Origin => {
      const at =
        take.from === "asked" && next.length === asked.length ? asked.findIndex((a) => a.name === take.name) : -1;
      return at < 0 ? take : { from: "asked", name: next[at].name };
    };
    const deliveries = use.all.map((x) => ({
      ...x,
      shaping: x.shaping?.map((r) => ({ ...r, take: renamed(r.take) })),
    }));
    change({ ...sheet, job: { ...job, asked: next.length ? next : undefined, deliveries } });
  };
  /** Takes a new value, asked at start, for a target field. */
  const askNew = (i: number, rule: Rule) => {
    const name = freeName(asked);
    const shaping = rules.map((r, k) => (k === i ? { ...rule, take: { from: "asked" as const, name } } : r));
    const deliveries = use.all.map((x, k) => (k === use.at ? { ...x, shaping } : x));
    change({ ...sheet, job: { ...job, asked: [...asked, { name }], deliveries } });
  };
  const ruled = new Set(rules.map((r) => r.target.toLowerCase()));
  const open = columns.filter((c) => !ruled.has(c.name.toLowerCase()));
  const needed = open.filter((c) => !c.nullable && !c.hasDefault);
  const unused = fields.filter((f) => !rules.some((r) => reads(r.take, f.name)));
  const byName = () =>
    put([
      ...rules,
      ...open.flatMap((c) =>
        sameName(
          c.name,
          fields.map((f) => f.name),
        ),
      ),
    ]);
  return (
    <>
      <DeliveryChoice sheet={sheet} use={use} />
      {!d && <p className="text-faint">Choose the delivery in section 5 first: its columns are the target fields.</p>}
      {needed.length > 0 && (
        <p className="text-sm text-brick">
          Without a rule, but needed: <span className="data">{needed.map((c) => c.name).join(", ")}</span>
        </p>
      )}
      <ul className="flex flex-col">
        {rules.map((rule, i) => {
          const from = rule.take.from === "field" ? rule.take.field : undefined;
          const place = from === undefined ? { type: -1, field: -1 } : placeOf(layout, use.type, from);
          const lit = place.field >= 0 && light.field === place.field && (light.type ?? 0) === place.type;
          return (
            <li
              key={rule.target}
              ref={lit ? (e) => e?.scrollIntoView({ block: "nearest" }) : undefined}
              className={`grid grid-cols-[130px_1fr_auto] items-start gap-3 border-b border-line px-1 py-2 ${lit ? "bg-pine-wash" : ""}`}
              onFocus={() => place.field >= 0 && setLight({ ...light, ...place })}
            >
              <div className="pt-1.5">
                <div className="data font-semibold break-all">{rule.target}</div>
                <div className="data text-xs text-faint">{columns.find((c) => c.name === rule.target)?.label}</div>
              </div>
              <RuleForm
                rule={rule}
                fields={names}
                asked={asked.map((a) => a.name)}
                put={(r) => set(i, r)}
                askNew={() => askNew(i, rule)}
              />
              <RemoveButton
                label={`Remove the rule of ${rule.target}`}
                remove={() => put(rules.filter((_, k) => k !== i))}
                className="mt-2"
              />
              {rule.take.from === "formula" && (
                <FormulaBox
                  label={`Formula of ${rule.target}`}
                  formula={rule.take.formula}
                  change={(formula) => set(i, { ...rule, take: { from: "formula", formula } })}
                  sheet={sheet}
                  type={use.type}
                  record={light.record ?? 0}
                />
              )}
            </li>
          );
        })}
      </ul>
      {open.length > 0 && (
        <div className="flex flex-wrap items-center gap-1.5">
          {open.map((c) => (
            <Button
              key={c.name}
              look="quiet"
              className="h-7 px-2"
              onClick={() =>
                put([
                  ...rules,
                  sameName(
                    c.name,
                    fields.map((f) => f.name),
                  )[0] ?? { target: c.name, take: { from: "constant", value: "" } },
                ])
              }
            >
              <Plus size={14} aria-hidden />
              <span className="data">{c.name}</span>
            </Button>
          ))}
          <Button onClick={byName}>Rules for all of the same name</Button>
        </div>
      )}
      {unused.length > 0 && (
        <p className="text-sm text-faint">
          Fields that no rule takes: <span className="data">{unused.map((f) => f.name).join(", ")}</span>
        </p>
      )}
      <AskedValues asked={asked} put={putAsked} />
    </>
  );
}

/** Whether an origin reads a field of the record. */
function reads(take: Origin, field: string): boolean {
  return take.from === "field"
    ? take.field === field
    : take.from === "formula" && new RegExp(`(^|[^\\w])${escaped(field)}($|[^\\w])`, "i").test(take.formula);
}

const escaped = (text: string) => text.replace(/[.*+?^${}()|[\]\\]/g, "\\$&");

/** A field, perhaps with its record type before a point, as a formula writes it. */
function formulaName(field: string): string {
  return field
    .split(".")
    .map((part) => (/^[\p{L}_][\p{L}\p{N}_]*$/u.test(part) ? part : `"${part.replaceAll('"', '""')}"`))
    .join(".");
}

function sameName(column: string, fields: string[]): Rule[] {
  const plain = (s: string) => s.toLowerCase().replace(/[^a-z0-9]/g, "");
  const field = fields.find((f) => plain(f) === plain(column));
  return field ? [{ target: column, take: { from: "field", field } }] : [];
}

function RuleForm(props: {
  rule: Rule;
  fields: string[];
  asked: string[];
  put: (rule: Rule) => void;
  askNew: () => void;
}) {
  const { rule, fields, asked, put, askNew } = props;
  const take = rule.take;
  const value =
    take.from === "field"
      ? `field:${take.field}`
      : take.from === "run"
        ? `run:${take.fact}`
        : take.from === "asked"
          ? `asked:${take.name}`
          : take.from;
  const choose = (v: string) => {
    if (v === "ask-new") return askNew();
    const [from, ...rest] = v.split(":");
    const what = rest.join(":");
    const next: Origin =
      from === "field"
        ? { from: "field", field: what }
        : from === "run"
          ? { from: "run", fact: what as (typeof facts)[number]["value"] }
          : from === "asked"
            ? { from: "asked", name: what }
            : from === "formula"
              ? { from: "formula", formula: take.from === "field" ? formulaName(take.field) : "''" }
              : { from: "constant", value: "" };
    put({ ...rule, take: next });
  };
  const options = [
    ...[...new Set([...(take.from === "field" ? [take.field] : []), ...fields])].map((f) => ({
      value: `field:${f}`,
      label: f,
    })),
    { value: "formula", label: "a formula" },
    { value: "constant", label: "a constant" },
    ...facts.map((f) => ({ value: `run:${f.value}`, label: f.label })),
    ...[...new Set([...(take.from === "asked" ? [take.name] : []), ...asked])].map((a) => ({
      value: `asked:${a}`,
      label: `asked at start: ${a}`,
    })),
    { value: "ask-new", label: "asked at start: a new value" },
  ];
  const touches = rule.touches ?? [];
  return (
    <div className="flex min-w-0 flex-col gap-1">
      <div className="grid grid-cols-2 gap-2">
        <Select
          className={take.from === "run" || take.from === "asked" ? "col-span-2" : undefined}
          aria-label={`Origin of ${rule.target}`}
          value={value}
          onChange={choose}
          options={options}
        />
        {take.from === "constant" && (
          <TextInput
            label={`Constant for ${rule.target}`}
            value={take.value}
            onChange={(v) => put({ ...rule, take: { ...take, value: v } })}
          />
        )}
        {(take.from === "field" || take.from === "formula") && (
          <TextInput
            label={`When blank, for ${rule.target}`}
            placeholder="blank: NULL"
            value={rule.whenBlank ?? ""}
            onChange={(v) => put({ ...rule, whenBlank: v || undefined })}
          />
        )}
      </div>
      {take.from !== "run" && (
        <div className="flex gap-4">
          {(["trim", "upper", "lower"] as const).map((t) => (
            <Tick
              key={t}
              label={touchWords[t]}
              checked={touches.includes(t)}
              onChange={(on) => put({ ...rule, touches: on ? [...touches, t] : touches.filter((x) => x !== t) })}
            />
          ))}
        </div>
      )}
    </div>
  );
}

function TextInput(props: { label: string; value: string; placeholder?: string; onChange: (v: string) => void }) {
  return (
    <input
      aria-label={props.label}
      className="data h-8 w-full min-w-0 rounded border border-line bg-card px-2 placeholder:text-faint"
      value={props.value}
      placeholder={props.placeholder}
      onChange={(e) => props.onChange(e.target.value)}
    />
  );
}
