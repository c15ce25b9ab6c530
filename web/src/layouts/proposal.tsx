import clsx from "clsx";
import { useState } from "react";
import { checkWords, typeWords } from "../definition-words";
import type { Check, Layout } from "../definitions";
import { Select, Tick } from "../ui/basics";
import { Sure } from "../ui/sure";
import { count, few } from "../ui/words";
import { type Decision, type Decisions, decided } from "./decide";
import type { Proposal } from "./propose";
import { TypeChoice } from "./type-choice";

type FieldProposal = Proposal["fields"][number];

/** The guesses of this part stand in the order of the checks that they propose. */
const checkPart = "check of the file";

type Props = {
  proposal: Proposal;
  put: (layout: Layout) => void;
  /** Proposes anew with other descriptions of the parts that have several. */
  again?: (taken: string[]) => void;
};

/** A proposed layout part by part: how sure each is and what speaks for and against it; taken, changed or left out. */
export function ProposalView({ proposal, put, again }: Props) {
  const types = (proposal.layout as Layout).recordTypes;
  const [at, setAt] = useState(0);
  const [decisions, setDecisions] = useState<Decisions>({ fields: {}, checksOut: [] });
  const fields = proposal.fields.filter((f) => f.recordType === types[Math.min(at, types.length - 1)].name);
  const decide = (f: FieldProposal, part: Decision) => {
    const key = `${f.recordType}.${f.name}`;
    decideAll({ ...decisions, fields: { ...decisions.fields, [key]: { ...decisions.fields[key], ...part } } });
  };
  const decideAll = (next: Decisions) => {
    setDecisions(next);
    put(decided(proposal, next));
  };
  const checks = proposal.guesses.filter((g) => g.part === checkPart);
  const toggle = (i: number) =>
    decideAll({
      ...decisions,
      checksOut: decisions.checksOut.includes(i)
        ? decisions.checksOut.filter((k) => k !== i)
        : [...decisions.checksOut, i],
    });
  return (
    <section aria-label="Proposed layout" className="flex flex-col gap-3">
      <ul className="divide-y divide-line border-y border-line text-sm">
        {proposal.guesses.map((g) => (
          <li
            key={g.part + g.choice}
            className="grid grid-cols-[104px_60px_minmax(0,2fr)_minmax(0,3fr)] items-baseline gap-2 py-1"
          >
            <span className="text-faint">{g.part}</span>
            <Sure word={g.sureness} />
            {g.part === checkPart ? (
              <Tick
                label={g.choice}
                checked={!decisions.checksOut.includes(checks.indexOf(g))}
                onChange={() => toggle(checks.indexOf(g))}
              />
            ) : (
              <strong className="min-w-0 [overflow-wrap:anywhere]">{few(g.choice.split(", "), 8)}</strong>
            )}
            <span className="text-faint">{g.why}</span>
          </li>
        ))}
      </ul>
      {again &&
        proposal.alternatives.map((a) => (
          <Select
            key={a.part}
            label={choiceWords(a)}
            value={a.taken}
            options={a.names.map((n) => ({
              value: n,
              label: n.replace(/^once more at .*/, "once more").replace(/^begins with /, ""),
            }))}
            onChange={(name) => again([...proposal.alternatives.filter((x) => x !== a).map((x) => x.taken), name])}
          />
        ))}
      {types.length > 1 && <TypeChoice label="Proposed record types" types={types} value={at} onChange={setAt} />}
      <table className="w-full border-collapse text-sm">
        <thead>
          <tr className="border-b border-line text-left text-xs text-faint">
            <th className="py-1 pr-2">Field</th>
            <th className="pr-2">Type</th>
            <th className="pr-2">Sure?</th>
            <th className="pr-2">From, to</th>
            <th>To know</th>
          </tr>
        </thead>
        <tbody>
          {fields.map((f) => (
            <FieldLine
              key={`${f.recordType}.${f.name}`}
              field={f}
              checks={types.find((t) => t.name === f.recordType)?.fields.find((x) => x.name === f.name)?.checks}
              decision={decisions.fields[`${f.recordType}.${f.name}`] ?? {}}
              decide={(part) => decide(f, part)}
            />
          ))}
        </tbody>
      </table>
    </section>
  );
}

/** What is chosen of a part that a description leaves open. */
function choiceWords(a: Proposal["alternatives"][number]): string {
  if (a.taken.startsWith("begins with ")) return "The file begins with";
  if (a.part === "operation") return "The answer of";
  return a.names[0] === "left out"
    ? `${a.part} may stand in itself; take it`
    : `${a.part} is described in ${a.names.length} ways; take`;
}

type LineProps = {
  field: FieldProposal;
  /** The checks that are proposed with the field. */
  checks?: Check[];
  decision: Decision;
  decide: (part: Decision) => void;
};

function FieldLine({ field: f, checks, decision: d, decide }: LineProps) {
  const types = f.choices;
  return (
    <tr className={clsx("border-b border-line align-baseline", d.out && "opacity-60")}>
      <td className="py-0.5 pr-2">
        <span className="flex items-center gap-2">
          <input
            type="checkbox"
            aria-label={`Take ${f.name}`}
            className="size-4 accent-pine"
            checked={!d.out}
            onChange={(e) => decide({ out: !e.target.checked })}
          />
          <input
            aria-label={`Name of ${f.name}`}
            value={d.name ?? f.name}
            disabled={d.out}
            onChange={(e) => decide({ name: e.target.value })}
            className="h-7 w-36 rounded border border-transparent bg-transparent px-1 font-semibold hover:border-line focus:border-line focus:bg-card"
          />
        </span>
      </td>
      <td className="pr-2">
        {types.length > 1 ? (
          <Select
            aria-label={`Type of ${f.name}`}
            value={String(d.choice ?? 0)}
            disabled={d.out}
            options={types.map((t, i) => ({ value: String(i), label: typeWords(t) }))}
            onChange={(i) => decide({ choice: Number(i) })}
            className="w-40"
          />
        ) : (
          typeWords(types[0])
        )}
      </td>
      <td className="pr-2">
        <Sure word={f.sureness} />
      </td>
      <td className="data max-w-36 truncate pr-2 text-faint">
        {f.smallest === null ? "–" : f.smallest === f.largest ? f.smallest : `${f.smallest} … ${f.largest}`}
      </td>
      <td className="text-faint">
        {[...notes(f), ...(checks ?? []).map(checkWords)].join("; ")}
        {f.likelyKey && (
          <div>
            <Tick label="check: once in the file" checked={d.key ?? false} onChange={(key) => decide({ key })} />
          </div>
        )}
        {f.likelyCodes.length > 0 && (
          <div>
            <Tick
              label={`check: one of ${f.likelyCodes.slice(0, 6).join(", ")}${f.likelyCodes.length > 6 ? " …" : ""}`}
              checked={d.codes ?? false}
              onChange={(codes) => decide({ codes })}
            />
          </div>
        )}
      </td>
    </tr>
  );
}

function notes(f: FieldProposal): string[] {
  const all: string[] = [];
  if (f.note) all.push(f.note);
  if (f.misfits.length > 0) all.push(`does not fit: ${f.misfits.join(", ")}`);
  if (f.distinct > 1) all.push(`${count(f.distinct)} different`);
  if (f.blank > 0) all.push(`${Math.round((f.blank / f.values) * 100)} % blank`);
  return all;
}
