import { Plus, Sparkles } from "lucide-react";
import { useState } from "react";
import {
  type Delivery,
  type Documents,
  fieldNames,
  fieldsOfOrigin,
  headType,
  type Lanes,
  type Origin,
  orNothing,
  placeInFile,
  type Rule,
  type SetAside,
  shapedLayout,
} from "../definitions";
import { Button, Trouble } from "../ui/basics";
import { AskedValues, freeName } from "./asked-values";
import { DeliveryChoice, useDelivery } from "./delivery-choice";
import { DocumentsForm } from "./documents-form";
import { LanesForm } from "./lanes-form";
import { LeftOutForm } from "./left-out-form";
import { LookUpsForm } from "./look-ups-form";
import { MissingCodes } from "./missing-codes";
import { PlainWords } from "./plain-words";
import { RuleProposals } from "./rule-proposals";
import { RuleRow } from "./rule-row";
import type { SectionProps } from "./section-props";
import { SummaryForm } from "./summary-form";
import { useRules } from "./use-rules";
import { useTarget } from "./use-target";

export function ShapingSection({ sheet, change, light, setLight, seen }: SectionProps) {
  const { job } = sheet;
  const shaped = shapedLayout(sheet);
  const documents = job.documents ?? {};
  const use = useDelivery(sheet, change);
  const [openRule, setOpenRule] = useState<string>();
  const [proposing, setProposing] = useState(false);
  const rules = use.delivery.shaping ?? [];
  const { summary } = use.delivery;
  const grouped = shaped.recordTypes[use.type].name;
  const d = use.delivery.to;
  const said = useRules(sheet, use.at, light.record ?? 0, [
    ...(documents.setAside ?? []).map((a) => ({ of: a.of, formula: a.when })),
    ...(documents.lookUps ?? []).flatMap((l) =>
      l.key.map((k) => ({ of: l.of ?? shaped.recordTypes[headType(shaped)].name, formula: k.is, any: true })),
    ),
    ...(summary
      ? [...(summary.by ?? []).map((b) => b.is), ...(summary.totals ?? []).map((t) => t.of ?? "NULL"), "NULL"].map(
          (formula) => ({ of: grouped, formula, any: true }),
        )
      : []),
    ...(documents.lanes?.lanes ?? []).flatMap((l) => (l.when === undefined ? [] : [{ formula: l.when }])),
  ]);
  const taken = said.names.flatMap((n) => n.taken ?? []);
  const names = taken.length || summary ? taken : fieldNames(shaped, use.type);
  const table = useTarget(d);
  const columns = table.data?.columns.filter((c) => !c.generated) ?? [];
  const put = (shaping: Rule[]) => use.put({ ...use.delivery, shaping });
  const set = (i: number, rule: Rule) => put(rules.map((r, k) => (k === i ? rule : r)));
  const putDocuments = (next: Documents) => change({ ...sheet, job: { ...job, documents: orNothing(next) } });
  const putLanes = (lanes: Lanes | undefined, renamed?: { from: string; to: string }) => {
    const known = new Set(lanes?.lanes.map((l) => l.name));
    const deliveries = job.deliveries?.map((x) => {
      const lane = x.lane !== undefined && x.lane === renamed?.from ? renamed.to : x.lane;
      return { ...x, lane: lane !== undefined && known.has(lane) ? lane : undefined };
    });
    change({ ...sheet, job: { ...job, documents: orNothing({ ...documents, lanes }), deliveries } });
  };
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
  /** Takes rules that were proposed, each in the place of the one of its target field; and what they leave out. */
  const takeAll = (proposed: Rule[], aside: SetAside[] = [], more: Delivery[] = []) => {
    const of = (target: string) => proposed.filter((p) => p.target.toLowerCase() === target.toLowerCase()).at(-1);
    const known = new Set(rules.map((r) => r.target.toLowerCase()));
    const fresh = proposed.filter((p) => !known.has(p.target.toLowerCase()) && of(p.target) === p);
    const shaping = [...rules.map((r) => of(r.target) ?? r), ...fresh];
    const deliveries = use.all.map((x, k) => (k === use.at ? { ...x, shaping } : x));
    const next = aside.length ? { ...documents, setAside: [...(documents.setAside ?? []), ...aside] } : documents;
    change({ ...sheet, job: { ...job, deliveries: [...deliveries, ...more], documents: orNothing(next) } });
    if (more.length) use.choose(deliveries.length);
  };
  const ruled = new Set(rules.map((r) => r.target.toLowerCase()));
  const needed = (c: (typeof columns)[number]) => !c.nullable && !c.hasDefault;
  const open = columns
    .filter((c) => !ruled.has(c.name.toLowerCase()))
    .sort((a, b) => Number(needed(b)) - Number(needed(a)));
  const counts = seen?.preview.summary;
  return (
    <>
      <div className="flex flex-col gap-1">
        <DocumentsForm sheet={sheet} put={putDocuments} summary={counts} />
        <LeftOutForm documents={documents} shaped={shaped} put={putDocuments} rules={said} summary={counts} />
        <LookUpsForm
          documents={documents}
          shaped={shaped}
          put={putDocuments}
          rules={said}
          reads={seen?.lookUps ?? []}
        />
        <LanesForm documents={documents} put={putLanes} rules={said} summary={counts} />
      </div>
      <DeliveryChoice sheet={sheet} use={use} />
      {summary && (
        <SummaryForm
          summary={summary}
          of={grouped}
          fields={(said.condition({ of: grouped, formula: "NULL", any: true })?.names ?? [])
            .filter((n) => !n.below && n.taken)
            .map((n) => n.name)}
          put={(next) => use.put({ ...use.delivery, summary: next })}
          rules={said}
        />
      )}
      {!d && <p className="text-faint">Choose the delivery in section 5 first: its columns are the target fields.</p>}
      {seen?.troubles.map((t) => (
        <Trouble key={t} error={t} />
      ))}
      <MissingCodes missing={seen?.missing ?? []} sample={seen?.sampleName ?? "the sample"} />
      {open.length > 0 && (
        <div className="flex flex-wrap items-center gap-1.5">
          <span className="text-sm text-faint">Without a rule:</span>
          {open.map((c) => (
            <button
              type="button"
              key={c.name}
              title={needed(c) ? "needs a rule: no NULL, no default" : c.label}
              className={`data inline-flex h-7 items-center gap-1 rounded border px-2 text-sm hover:bg-pine-wash ${needed(c) ? "border-brick text-brick" : "border-line text-pine"}`}
              onClick={() => {
                put([...rules, { target: c.name, take: { from: "constant", value: "" } }]);
                setOpenRule(c.name);
              }}
            >
              <Plus size={13} aria-hidden />
              {c.name}
              {needed(c) && <span className="font-sans text-xs">needed</span>}
            </button>
          ))}
        </div>
      )}
      {d && (
        <div className="flex flex-wrap items-center gap-2">
          {open.length > 0 && (
            <Button onClick={() => setProposing(true)}>
              <Sparkles size={14} aria-hidden /> Propose rules by name
            </Button>
          )}
          <PlainWords sheet={sheet} delivery={use.at} record={said.record} take={takeAll} />
        </div>
      )}
      {said.error && <Trouble error={said.error} />}
      <ul aria-label="Rules" className="flex flex-col border-t border-line">
        {rules.map((rule, i) => {
          const fields = fieldsOfOrigin(rule.take).map((f) => placeInFile(sheet, use.type, f));
          const lit = fields.some((p) => p.field >= 0 && light.field === p.field && (light.type ?? 0) === p.type);
          return (
            <RuleRow
              key={rule.target}
              rule={rule}
              label={columns.find((c) => c.name === rule.target)?.label}
              fields={names}
              asked={asked.map((a) => a.name)}
              tables={use.all.flatMap((d, n) => (n < use.at && d.to?.kind === undefined && d.to ? [d.to.table] : []))}
              put={(r) => set(i, r)}
              askNew={() => askNew(i, rule)}
              remove={() => put(rules.filter((_, k) => k !== i))}
              said={said.rule(rule.target)}
              names={said.names}
              record={said.record}
              open={openRule === rule.target}
              setOpen={(on) => {
                setOpenRule(on ? rule.target : undefined);
                if (on && fields[0] && fields[0].field >= 0) setLight({ ...light, ...fields[0] });
              }}
              lit={lit}
            />
          );
        })}
      </ul>
      {said.unread.length > 0 && (
        <p className="text-sm text-faint">
          Fields that no rule reads: <span className="data">{said.unread.join(", ")}</span>
        </p>
      )}
      <AskedValues asked={asked} put={putAsked} />
      {proposing && (
        <RuleProposals
          sheet={sheet}
          delivery={use.at}
          take={(proposed) => {
            takeAll(proposed);
            if (proposed.length > 1) setProposing(false);
          }}
          onClose={() => setProposing(false)}
        />
      )}
    </>
  );
}
