import { Check, TriangleAlert } from "lucide-react";
import { Fragment } from "react";
import type { Schemas } from "../api/client";
import { count } from "../ui/words";

/** The tally as an account: what was read on one side, what became of it on the other, equal at the foot. */
export function TallyAccount({ run }: { run: Schemas["RunView"] }) {
  const t = run.tally;
  const out = t.delivered + t.rejected + t.setAside + t.withoutRows + run.open;
  const most = Math.max(1, t.read);
  return (
    <section aria-labelledby="tally">
      <h2 id="tally" className="mb-2">
        Tally
      </h2>
      <div className="grid grid-cols-2 gap-x-10">
        <Line label="Read" n={t.read} strong />
        <Line label="Delivered" n={t.delivered} tone="text-moss" />
        <Line label="blank rows passed over" n={t.blank} faint />
        <div className="grid grid-cols-1">
          <Line label="rows added" n={t.added} faint />
        </div>
        <Line label="findings only noted" n={t.notes} faint />
        <Line label="rows changed" n={t.changed} faint />
        <span />
        <Line label="rows unchanged" n={t.unchanged} faint />
        {t.removed > 0 && (
          <>
            <span />
            <Line label="rows removed" n={t.removed} faint />
          </>
        )}
        <span />
        <Line label="Rejected" n={t.rejected} tone={t.rejected ? "text-brick" : undefined} />
        <span />
        <Line label="Set aside" n={t.setAside} />
        {Object.entries(run.shares.setAside).map(([reason, n]) => (
          <Fragment key={reason}>
            <span />
            <Line label={reason} n={n} faint />
          </Fragment>
        ))}
        {t.withoutRows > 0 && (
          <>
            <span />
            <Line label="Without rows of their own" n={t.withoutRows} />
          </>
        )}
        {run.open > 0 && (
          <>
            <span />
            <Line label="Not in all places yet" n={run.open} tone="text-ochre" />
          </>
        )}
        <Foot n={t.read} />
        <Foot n={out} />
      </div>
      {Object.keys(run.shares.lanes).length > 0 && (
        <table className="mt-3 w-full border-collapse text-sm">
          <thead>
            <tr className="border-b border-line text-xs text-faint">
              <th className="py-1">Lane</th>
              <th className="text-right">documents</th>
              <th className="text-right">records</th>
            </tr>
          </thead>
          <tbody>
            {Object.entries(run.shares.lanes).map(([name, lane]) => (
              <tr key={name} className="border-b border-line">
                <td className="py-1">{name}</td>
                <td className="data text-right">{count(lane.documents)}</td>
                <td className="data text-right">{count(lane.records)}</td>
              </tr>
            ))}
          </tbody>
        </table>
      )}
      <div className="mt-3 flex h-3 overflow-hidden rounded bg-sunk" aria-hidden>
        <span className="bg-moss" style={{ width: `${(t.delivered / most) * 100}%` }} />
        <span className="bg-brick" style={{ width: `${(t.rejected / most) * 100}%` }} />
        <span className="bg-slate" style={{ width: `${(t.withoutRows / most) * 100}%` }} />
        <span className="bg-ochre" style={{ width: `${(t.setAside / most) * 100}%` }} />
      </div>
      <p className={`mt-2 flex items-center gap-1.5 text-sm ${run.balances ? "text-moss" : "text-brick"}`}>
        {run.balances ? <Check size={15} aria-hidden /> : <TriangleAlert size={15} aria-hidden />}
        {!run.balances
          ? "It does not balance."
          : run.open > 0
            ? "It balances. Some places have not come as far as others; what all of them have counts as delivered."
            : "It balances: every record read is accounted for, once."}
      </p>
    </section>
  );
}

function Line(props: { label: string; n: number; tone?: string; strong?: boolean; faint?: boolean }) {
  return (
    <div
      className={`flex items-baseline justify-between py-0.5 ${props.faint ? "pl-4 text-faint" : "font-semibold"} ${props.tone ?? ""}`}
    >
      <span>{props.label}</span>
      <span className="data">{count(props.n)}</span>
    </div>
  );
}

function Foot({ n }: { n: number }) {
  return <div className="data mt-1 border-t-4 border-double border-ink pt-1 text-right font-semibold">{count(n)}</div>;
}
