import { useQuery } from "@tanstack/react-query";
import { Plus, Trash2 } from "lucide-react";
import { api, ask } from "../api/client";
import { fieldsOf, type Origin, type Rule } from "../definitions";
import { Button, Select, Tick } from "../ui/basics";
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
  const rules = job.shaping ?? [];
  const fields = fieldsOf(layout);
  const d = job.delivery;
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
  const put = (shaping: Rule[]) => change({ ...sheet, job: { ...job, shaping } });
  const set = (i: number, rule: Rule) => put(rules.map((r, k) => (k === i ? rule : r)));
  const ruled = new Set(rules.map((r) => r.target.toLowerCase()));
  const open = columns.filter((c) => !ruled.has(c.name.toLowerCase()));
  const needed = open.filter((c) => !c.nullable && !c.hasDefault);
  const used = new Set(rules.flatMap((r) => (r.take.from === "field" ? [r.take.field] : [])));
  const unused = fields.filter((f) => !used.has(f.name));
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
      {!d && <p className="text-faint">Choose the delivery in section 5 first: its columns are the target fields.</p>}
      {needed.length > 0 && (
        <p className="text-sm text-brick">
          Without a rule, but needed: <span className="data">{needed.map((c) => c.name).join(", ")}</span>
        </p>
      )}
      <ul className="flex flex-col">
        {rules.map((rule, i) => {
          const from = rule.take.from === "field" ? rule.take.field : undefined;
          const field = fields.findIndex((f) => f.name === from);
          const lit = field >= 0 && light.field === field;
          return (
            <li
              key={rule.target}
              ref={lit ? (e) => e?.scrollIntoView({ block: "nearest" }) : undefined}
              className={`grid grid-cols-[130px_1fr_auto] items-start gap-3 border-b border-line px-1 py-2 ${lit ? "bg-pine-wash" : ""}`}
              onFocus={() => field >= 0 && setLight({ ...light, field })}
            >
              <div className="pt-1.5">
                <div className="data font-semibold break-all">{rule.target}</div>
                <div className="data text-xs text-faint">{columns.find((c) => c.name === rule.target)?.label}</div>
              </div>
              <RuleForm rule={rule} fields={fields.map((f) => f.name)} put={(r) => set(i, r)} />
              <button
                type="button"
                aria-label={`Remove the rule of ${rule.target}`}
                className="mt-2 rounded p-0.5 text-faint hover:text-brick"
                onClick={() => put(rules.filter((_, k) => k !== i))}
              >
                <Trash2 size={14} />
              </button>
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
    </>
  );
}

function sameName(column: string, fields: string[]): Rule[] {
  const plain = (s: string) => s.toLowerCase().replace(/[^a-z0-9]/g, "");
  const field = fields.find((f) => plain(f) === plain(column));
  return field ? [{ target: column, take: { from: "field", field } }] : [];
}

function RuleForm({ rule, fields, put }: { rule: Rule; fields: string[]; put: (rule: Rule) => void }) {
  const take = rule.take;
  const value = take.from === "field" ? `field:${take.field}` : take.from === "run" ? `run:${take.fact}` : take.from;
  const choose = (v: string) => {
    const [from, ...rest] = v.split(":");
    const what = rest.join(":");
    const next: Origin =
      from === "field"
        ? { from: "field", field: what }
        : from === "run"
          ? { from: "run", fact: what as (typeof facts)[number]["value"] }
          : from === "asked"
            ? { from: "asked", name: "value" }
            : { from: "constant", value: "" };
    put({ ...rule, take: next });
  };
  const options = [
    ...[...new Set([...(take.from === "field" ? [take.field] : []), ...fields])].map((f) => ({
      value: `field:${f}`,
      label: f,
    })),
    { value: "constant", label: "a constant" },
    ...facts.map((f) => ({ value: `run:${f.value}`, label: f.label })),
    { value: "asked", label: "asked at start" },
  ];
  const touches = rule.touches ?? [];
  return (
    <div className="flex min-w-0 flex-col gap-1">
      <div className="grid grid-cols-2 gap-2">
        <Select aria-label={`Origin of ${rule.target}`} value={value} onChange={choose} options={options} />
        {take.from === "constant" && (
          <TextInput
            label={`Constant for ${rule.target}`}
            value={take.value}
            onChange={(v) => put({ ...rule, take: { ...take, value: v } })}
          />
        )}
        {take.from === "asked" && (
          <TextInput
            label={`Asked as, for ${rule.target}`}
            value={take.name}
            onChange={(v) => put({ ...rule, take: { ...take, name: v } })}
          />
        )}
        {take.from === "field" && (
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
