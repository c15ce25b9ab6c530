import { useQuery } from "@tanstack/react-query";
import { api, ask, type Schemas } from "../api/client";
import { StateMark } from "../ui/state";
import { count, duration, plural } from "../ui/words";

type Leg = Schemas["LegView"];

/** The places that a run delivers to, side by side against one time axis, each with its own account. */
export function Deliveries({ id, state, read }: { id: number; state: string; read: number }) {
  const legs = useQuery({
    queryKey: ["run-part", id, "legs", state, read],
    placeholderData: (before) => before,
    queryFn: () => ask(api.GET("/api/runs/{id}/legs", { params: { path: { id } } })),
  });
  if (!legs.data || legs.data.length === 0) return null;
  const begun = legs.data.flatMap((l) => (l.startedAt ? [Date.parse(l.startedAt)] : []));
  const from = Math.min(...begun);
  const to = Math.max(from + 1, ...legs.data.map((l) => (l.endedAt ? Date.parse(l.endedAt) : Date.now())));
  return (
    <section aria-labelledby="deliveries">
      <h2 id="deliveries" className="mb-2">
        Deliveries
      </h2>
      <table className="w-full border-collapse text-sm">
        <thead>
          <tr className="border-b border-line text-xs text-faint">
            <th className="py-1 text-left">To</th>
            <th className="w-28 text-left">State</th>
            <th className="w-24 text-right">Delivered</th>
            <th className="w-24 text-right">Rejected</th>
            <th className="w-24 text-right">Rows</th>
            <th className="w-24 text-right">Sent again</th>
            <th className="w-64 pl-6 text-left">When, in {duration(to - from)}</th>
          </tr>
        </thead>
        <tbody>
          {legs.data.map((l) => (
            <LegRow key={l.leg} leg={l} from={from} to={to} />
          ))}
        </tbody>
      </table>
      <Answers id={id} state={state} legs={legs.data} />
      {legs.data.some((l) => l.kind === "files" && l.tally.delivered > 0) && <WrittenFiles id={id} state={state} />}
    </section>
  );
}

function LegRow({ leg, from, to }: { leg: Leg; from: number; to: number }) {
  const t = leg.tally;
  const begin = leg.startedAt ? Date.parse(leg.startedAt) : from;
  const end = leg.endedAt ? Date.parse(leg.endedAt) : leg.startedAt ? to : from;
  const percent = (at: number) => ((at - from) / (to - from)) * 100;
  return (
    <tr className="border-b border-line align-top">
      <td className="py-1.5">
        <span className="data">{leg.label}</span>
        {leg.message && <span className="block text-brick">{leg.message}</span>}
      </td>
      <td className="py-1.5">
        <StateMark state={leg.state} rejected={t.rejected} />
      </td>
      <td className="data py-1.5 text-right">{count(t.delivered)}</td>
      <td className={`data py-1.5 text-right ${t.rejected ? "text-brick" : ""}`}>{count(t.rejected)}</td>
      <td className="data py-1.5 text-right">{count(t.added + t.changed + t.unchanged + t.removed)}</td>
      <td className="data py-1.5 text-right">{leg.kind === "application" ? count(leg.sentAgain) : "–"}</td>
      <td className="py-1.5 pl-6">
        <span className="sr-only">{duration(end - begin)}</span>
        <span className="block h-3 rounded bg-sunk" title={duration(end - begin)} aria-hidden>
          <span
            className="block h-full min-w-0.5 rounded bg-slate"
            style={{ marginLeft: `${percent(begin)}%`, width: `${Math.max(0.5, percent(end) - percent(begin))}%` }}
          />
        </span>
      </td>
    </tr>
  );
}

/** What applications answered to the documents they took. */
function Answers({ id, state, legs }: { id: number; state: string; legs: Leg[] }) {
  const delivered = legs.reduce((n, l) => n + (l.kind === "application" ? l.tally.delivered : 0), 0);
  const answers = useQuery({
    queryKey: ["run-part", id, "answers", state],
    enabled: delivered > 0 && state !== "RUNNING",
    queryFn: () => ask(api.GET("/api/runs/{id}/answers", { params: { path: { id } } })),
  });
  if (!answers.data || answers.data.length === 0) return null;
  return (
    <details className="mt-2">
      <summary className="cursor-pointer text-sm text-pine">
        What was answered to {plural(answers.data.length, "document")}
        {answers.data.length === 200 && ", the first ones"}
      </summary>
      <ul className="mt-1 grid max-h-60 grid-cols-3 gap-x-6 overflow-auto text-sm" tabIndex={0} aria-label="Answers">
        {answers.data.map((a) => (
          <li key={`${a.leg} ${a.record}`} className="flex gap-3">
            <span className="w-24 text-faint">record {count(a.record)}</span>
            <span className="data">{Object.values(a.values).join(" · ")}</span>
          </li>
        ))}
      </ul>
    </details>
  );
}

/** The files that were written, those that are not complete yet among them. */
function WrittenFiles({ id, state }: { id: number; state: string }) {
  const files = useQuery({
    queryKey: ["run-part", id, "written", state],
    queryFn: () => ask(api.GET("/api/runs/{id}/written", { params: { path: { id } } })),
  });
  if (!files.data || files.data.length === 0) return null;
  return (
    <section aria-label="Files written" className="mt-3">
      <h3 className="mb-1 font-semibold">
        {plural(files.data.length, "file")} written
        {files.data.length === 200 && ", the first ones"}
      </h3>
      <ul className="max-h-60 overflow-auto text-sm" tabIndex={0}>
        {files.data.map((f) => (
          <li key={`${f.leg} ${f.number}`} className="flex gap-4 border-b border-line py-1">
            {f.there ? (
              <a
                href={`/api/runs/${id}/written/${f.leg}/${f.number}`}
                className="data flex-1 text-pine underline underline-offset-2"
                download
              >
                {f.name}
              </a>
            ) : (
              <span className="data flex-1">
                {f.name}
                <span className="text-faint">{f.complete ? " (moved away since)" : " (not complete yet)"}</span>
              </span>
            )}
            <span className="text-faint">{f.folder}</span>
            <span className="data w-32 text-right">{plural(f.records, "record")}</span>
            <span className="data w-32 text-right">{count(f.length)} bytes</span>
          </li>
        ))}
      </ul>
    </section>
  );
}
