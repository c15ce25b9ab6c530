import { useQuery } from "@tanstack/react-query";
import { api, ask, type Schemas } from "../api/client";
import { facts, fieldsOfOrigin, type Origin, type Rule } from "../definitions";
import { Select, TextBox } from "../ui/basics";
import { FormulaBox } from "./formula-box";
import { TouchList } from "./touch-list";
import type { Said } from "./use-rules";

type Props = {
  rule: Rule;
  /** The names by which the rule may take fields. */
  fields: string[];
  asked: string[];
  /** The tables whose rows it may belong to. */
  tables: string[];
  put: (rule: Rule) => void;
  askNew: () => void;
  said?: Said;
  names: Schemas["Named"][];
  record: number;
};

const kinds = [
  { value: "formula", label: "a formula" },
  { value: "code", label: "a code list" },
  { value: "joined", label: "fields joined" },
  { value: "part", label: "a part of a field" },
  { value: "positive", label: "an amount where it is not negative" },
  { value: "negative", label: "an amount where it is negative" },
  { value: "constant", label: "a constant" },
  { value: "sequence", label: "the next number of a sequence" },
  { value: "default", label: "the target's own default" },
];

/** A field as formulas name it. */
function formulaName(field: string, names: Schemas["Named"][]): string {
  const plain = (s: string) => s.replaceAll('"', "").toLowerCase();
  return names.find((n) => plain(n.name) === plain(field))?.name ?? `"${field}"`;
}

function choiceOf(take: Origin): string {
  switch (take.from) {
    case "field":
      return `field:${take.field}`;
    case "run":
      return `run:${take.fact}`;
    case "asked":
      return `asked:${take.name}`;
    case "key":
      return `key:${take.table}`;
    case "amount":
      return take.side ?? "positive";
    default:
      return take.from;
  }
}

/** Where the value of a target field comes from, and what is done to it. */
export function RuleForm(props: Props) {
  const { rule, fields, asked, put, said } = props;
  const take = rule.take;
  const lists = useQuery({ queryKey: ["code-lists"], queryFn: () => ask(api.GET("/api/v1/code-lists")) });
  const to = (next: Origin) => put({ ...rule, take: next });
  const choose = (v: string) => {
    if (v === "ask-new") return props.askNew();
    const at = v.indexOf(":");
    const [from, what] = at < 0 ? [v, ""] : [v.slice(0, at), v.slice(at + 1)];
    const first = fieldsOfOrigin(take)[0] ?? fields[0] ?? "";
    const second = fields.find((f) => f !== first) ?? first;
    const made: Record<string, Origin> = {
      field: { from: "field", field: what },
      run: { from: "run", fact: facts.find((f) => f.value === what)?.value ?? "today" },
      asked: { from: "asked", name: what },
      key: { from: "key", table: what },
      formula: { from: "formula", formula: take.from === "field" ? formulaName(take.field, props.names) : "''" },
      code: { from: "code", field: first, list: lists.data?.[0]?.name ?? "codes" },
      joined: { from: "joined", fields: [first, second], with: " " },
      part: { from: "part", field: first, at: "-", number: 1 },
      positive: { from: "amount", field: first, side: "positive" },
      negative: { from: "amount", field: first, side: "negative" },
      constant: { from: "constant", value: "" },
      sequence: { from: "sequence", sequence: rule.target.replace(/[^A-Za-z0-9_-]/g, "_"), start: 1 },
      default: { from: "default" },
    };
    const next = made[from];
    // What has no value of its own, or none yet, has no touches either.
    put(from === "default" || from === "key" ? { target: rule.target, take: next } : { ...rule, take: next });
  };
  return (
    <div className="flex min-w-0 flex-col gap-2">
      <div className="grid grid-cols-2 gap-2">
        <Select
          label={`Origin of ${rule.target}`}
          value={choiceOf(take)}
          onChange={choose}
          options={[
            ...[...new Set([...(take.from === "field" ? [take.field] : []), ...fields])].map((f) => ({
              value: `field:${f}`,
              label: f,
            })),
            ...kinds,
            ...[...new Set([...(take.from === "key" ? [take.table] : []), ...props.tables])].map((t) => ({
              value: `key:${t}`,
              label: `the key of its row in ${t}`,
            })),
            ...facts.map((f) => ({ value: `run:${f.value}`, label: f.label })),
            ...[...new Set([...(take.from === "asked" ? [take.name] : []), ...asked])].map((a) => ({
              value: `asked:${a}`,
              label: `asked at start: ${a}`,
            })),
            { value: "ask-new", label: "asked at start: a new value" },
          ]}
        />
        {take.from !== "default" && take.from !== "constant" && take.from !== "run" && take.from !== "key" && (
          <TextBox
            label={`When blank, for ${rule.target}`}
            placeholder="NULL"
            data
            value={rule.whenBlank ?? ""}
            onChange={(v) => put({ ...rule, whenBlank: v || undefined })}
          />
        )}
        {take.from === "constant" && (
          <TextBox
            label={`Constant for ${rule.target}`}
            data
            value={take.value}
            onChange={(v) => to({ ...take, value: v })}
          />
        )}
        <Particulars {...props} to={to} lists={lists.data ?? []} />
      </div>
      {take.from === "formula" && (
        <FormulaBox
          label={`Formula of ${rule.target}`}
          formula={take.formula}
          change={(formula) => to({ from: "formula", formula })}
          said={said}
          names={props.names}
          record={props.record}
        />
      )}
      {take.from !== "default" && (take.from !== "key" || (rule.touches ?? []).length > 0) && (
        <TouchList target={rule.target} touches={rule.touches ?? []} put={(touches) => put({ ...rule, touches })} />
      )}
    </div>
  );
}

/** What some origins need to know beside their kind. */
function Particulars(props: Props & { to: (take: Origin) => void; lists: Schemas["CodeListLine"][] }) {
  const { rule, fields, to, lists } = props;
  const take = rule.take;
  const option = (v: string) => ({ value: v, label: v });
  const field = (label: string, value: string, put: (f: string) => void) => (
    <Select label={label} value={value} onChange={put} options={[...new Set([value, ...fields])].map(option)} />
  );
  if (take.from === "code") {
    const list = lists.find((l) => l.name === take.list);
    return (
      <>
        {field("Field", take.field, (f) => to({ ...take, field: f }))}
        <Select
          label="Code list"
          value={take.list}
          onChange={(l) => to({ ...take, list: l, column: undefined })}
          options={[...new Set([take.list, ...lists.map((l) => l.name)])].map(option)}
        />
        <Select
          label="Gives"
          value={take.column ?? ""}
          onChange={(c) => to({ ...take, column: c || undefined })}
          options={[
            { value: "", label: list?.columns[1] ?? list?.columns[0] ?? "its first column" },
            ...(list?.columns ?? []).filter((_, i) => i !== 1).map(option),
          ]}
        />
        <Select
          label="Valid on"
          value={take.on ?? ""}
          onChange={(on) => to({ ...take, on: on || undefined })}
          options={[{ value: "", label: "the day of the run" }, ...fields.map(option)]}
        />
      </>
    );
  }
  if (take.from === "joined") {
    return (
      <>
        {take.fields.map((f, i) => (
          <Select
            key={`${i} ${f}`}
            label={i === 0 ? "Join" : "and"}
            value={f}
            onChange={(v) =>
              to({ ...take, fields: take.fields.map((x, k) => (k === i ? v : x)).filter((x) => x !== "") })
            }
            options={[
              ...[...new Set([f, ...fields])].map(option),
              ...(take.fields.length > 2 ? [{ value: "", label: "leave it out" }] : []),
            ]}
          />
        ))}
        <Select
          label="and"
          value=""
          onChange={(v) => v && to({ ...take, fields: [...take.fields, v] })}
          options={[{ value: "", label: "nothing more" }, ...fields.map(option)]}
        />
        <TextBox label="With between them" data value={take.with ?? ""} onChange={(v) => to({ ...take, with: v })} />
      </>
    );
  }
  if (take.from === "part") {
    return (
      <>
        {field("Field", take.field, (f) => to({ ...take, field: f }))}
        <div className="grid grid-cols-2 gap-2">
          <TextBox label="Split at" data value={take.at} onChange={(v) => to({ ...take, at: v || "-" })} />
          <Select
            label="Part"
            value={String(take.number)}
            onChange={(v) => to({ ...take, number: Number(v) })}
            options={[
              ...[1, 2, 3, 4, 5, 6].map((n) => ({ value: String(n), label: `number ${n}` })),
              { value: "-1", label: "the last" },
              { value: "-2", label: "the last but one" },
            ]}
          />
        </div>
      </>
    );
  }
  if (take.from === "amount") return field("Amount", take.field, (f) => to({ ...take, field: f }));
  if (take.from === "sequence") {
    return (
      <>
        <TextBox label="Sequence" data value={take.sequence} onChange={(v) => to({ ...take, sequence: v })} />
        <TextBox
          label="First number"
          data
          inputMode="numeric"
          value={take.start ?? 1}
          onChange={(v) => to({ ...take, start: Number.parseInt(v, 10) || 1 })}
        />
      </>
    );
  }
  return null;
}
