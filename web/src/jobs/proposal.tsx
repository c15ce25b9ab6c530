import clsx from "clsx";
import { useState } from "react";
import { type Schemas, sendFile } from "../api/client";
import { Chips } from "../ui/chips";

export type Proposal = Schemas["ProposalView"];

/** The most of a sample that is sent to propose a layout from. */
const startBytes = 1 << 20;

export function propose(file: File, name: string, title: string): Promise<Proposal> {
  const start = new File([file.slice(0, startBytes)], file.name);
  return sendFile<Proposal>("POST", "/api/layouts/proposal", start, { name, title });
}

/** How sure a part of the proposal is: a word and a colour together. */
function Sure({ word }: { word: string }) {
  return (
    <span
      className={clsx(
        "inline-block w-14 rounded px-1.5 text-center text-xs leading-5 font-semibold",
        word === "sure" && "bg-pine-wash text-moss",
        word === "likely" && "bg-sunk text-ink",
        word === "unsure" && "bg-ochre-wash text-ochre",
      )}
    >
      {word}
    </span>
  );
}

/** A proposed layout part by part: what was chosen, how sure that is, and what speaks for and against it. */
export function ProposalView({ proposal }: { proposal: Proposal }) {
  const types = [...new Set(proposal.fields.map((f) => f.recordType))];
  const [at, setAt] = useState(0);
  const fields = proposal.fields.filter((f) => f.recordType === types[Math.min(at, types.length - 1)]);
  return (
    <section aria-label="Proposed layout" className="flex flex-col gap-3">
      <ul className="divide-y divide-line border-y border-line text-sm">
        {proposal.guesses.map((g) => (
          <li key={g.part} className="grid grid-cols-[92px_60px_minmax(0,2fr)_minmax(0,3fr)] items-baseline gap-2 py-1">
            <span className="text-faint">{g.part}</span>
            <Sure word={g.sureness} />
            <strong>{g.choice}</strong>
            <span className="text-faint">{g.why}</span>
          </li>
        ))}
      </ul>
      {types.length > 1 && (
        <Chips
          label="Proposed record types"
          value={at}
          onChange={setAt}
          chips={types.map((t, i) => ({ value: i, label: t }))}
        />
      )}
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
            <tr key={f.name} className="border-b border-line align-baseline">
              <td className="py-1 pr-2 font-semibold">{f.name}</td>
              <td className="pr-2">{f.type.toLowerCase().replace("character varying", "text")}</td>
              <td className="pr-2">
                <Sure word={f.sureness} />
              </td>
              <td className="data max-w-40 truncate pr-2 text-faint">
                {f.smallest === null ? "–" : f.smallest === f.largest ? f.smallest : `${f.smallest} … ${f.largest}`}
              </td>
              <td className="text-faint">{notes(f).join("; ")}</td>
            </tr>
          ))}
        </tbody>
      </table>
    </section>
  );
}

function notes(f: Proposal["fields"][number]): string[] {
  const all: string[] = [];
  if (f.misfits.length > 0) all.push(`does not fit: ${f.misfits.join(", ")}`);
  if (f.alternatives.length > 0) all.push(`or ${f.alternatives.slice(0, 3).join(", ").toLowerCase()}`);
  if (f.blank > 0) all.push(`${Math.round((f.blank / f.values) * 100)} % blank`);
  if (f.likelyKey) all.push("each value once: may be a key");
  if (f.likelyCodes.length > 0) all.push(`few values: ${f.likelyCodes.slice(0, 6).join(", ")}`);
  return all;
}
