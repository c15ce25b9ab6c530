import { useQuery } from "@tanstack/react-query";
import { Link, useSearchParams } from "react-router";
import { api, ask, type Schemas } from "../api/client";
import { Empty, Select, Trouble } from "../ui/basics";
import { StateMark, Weight } from "../ui/state";
import { count, duration, moment } from "../ui/words";

type View = Schemas["RunView"];

function useRunWithReasons(id: number) {
  return useQuery({
    queryKey: ["compare", id],
    enabled: id > 0,
    retry: false,
    queryFn: async () => ({
      run: await ask(api.GET("/api/v1/runs/{run}", { params: { path: { run: id } } })),
      reasons: await ask(api.GET("/api/v1/runs/{run}/reasons", { params: { path: { run: id } } })),
    }),
  });
}

/** Two runs of a job beside each other: what they came to, why records were refused, how long they took. */
export function ComparePage() {
  const [search, setSearch] = useSearchParams();
  const a = useRunWithReasons(Number(search.get("a")));
  const job = a.data?.run.job;
  const others = useQuery({
    queryKey: ["runs", "to-compare", job],
    enabled: !!job,
    queryFn: () => ask(api.GET("/api/v1/runs", { params: { query: { job, most: 60 } } })),
  });
  const choice = (others.data?.items ?? []).filter((r) => r.id !== a.data?.run.id);
  const asked = Number(search.get("b")) || choice.find((r) => r.id < (a.data?.run.id ?? 0))?.id || choice[0]?.id || 0;
  const b = useRunWithReasons(asked);
  if (a.isError)
    return (
      <div className="p-6">
        <Trouble error={a.error} />
      </div>
    );
  if (!a.data) return null;
  return (
    <div className="mx-auto flex max-w-6xl flex-col gap-5 px-6 py-5">
      <div className="flex items-end gap-3">
        <h1 className="mr-auto">Two runs of {a.data.run.title}</h1>
        <Select
          label="Compare with"
          className="w-80"
          value={String(asked)}
          onChange={(other) => {
            const next = new URLSearchParams(search);
            next.set("b", other);
            setSearch(next, { replace: true });
          }}
          options={choice.map((r) => ({ value: String(r.id), label: `run ${r.id}, ${r.fileName}` }))}
        />
      </div>
      {others.data && choice.length === 0 && (
        <Empty title="There is no other run of this job yet">It has run once.</Empty>
      )}
      {b.isError && <Trouble error={b.error} />}
      {b.data && <Figures a={a.data.run} b={b.data.run} />}
      {b.data && <BothReasons a={a.data.reasons} b={b.data.reasons} />}
    </div>
  );
}

function Difference({ a, b }: { a: number; b: number }) {
  if (a === b) return <span className="text-faint">=</span>;
  return (
    <span>
      {a > b ? "+" : "−"}
      {count(Math.abs(a - b))}
    </span>
  );
}

const figures: [string, (t: Schemas["Tally"]) => number][] = [
  ["Read", (t) => t.read],
  ["Delivered", (t) => t.delivered],
  ["Rejected", (t) => t.rejected],
  ["Set aside", (t) => t.setAside],
  ["Without rows", (t) => t.withoutRows],
  ["Rows added", (t) => t.added],
  ["Rows changed", (t) => t.changed],
  ["Rows unchanged", (t) => t.unchanged],
  ["Rows removed", (t) => t.removed],
  ["Findings only noted", (t) => t.notes],
];

function Figures({ a, b }: { a: View; b: View }) {
  const head = (r: View) => (
    <th key={r.id} className="py-1 text-right font-normal">
      <Link to={`/runs/${r.id}`} className="font-semibold text-pine underline">
        Run {r.id}
      </Link>
      <span className="block text-xs text-faint">{moment(r.startedAt)}</span>
      <span className="data block max-w-72 truncate text-xs text-faint">{r.fileName}</span>
    </th>
  );
  return (
    <table className="w-full border-collapse text-sm">
      <thead>
        <tr className="border-b border-line align-bottom text-xs text-faint">
          <th className="text-left">Tally</th>
          {head(a)}
          {head(b)}
          <th className="text-right">Difference</th>
        </tr>
      </thead>
      <tbody>
        <tr className="border-b border-line">
          <td className="py-1">State</td>
          {[a, b].map((r) => (
            <td key={r.id} className="text-right">
              <StateMark state={r.state} rejected={r.tally.rejected} />
            </td>
          ))}
          <td />
        </tr>
        <tr className="border-b border-line">
          <td className="py-1">Version of the job</td>
          <td className="data text-right">{a.version}</td>
          <td className="data text-right">{b.version}</td>
          <td className="data text-right">
            {a.version === b.version ? <span className="text-faint">=</span> : <strong>another</strong>}
          </td>
        </tr>
        {figures.map(([label, of]) => (
          <tr key={label} className="border-b border-line">
            <td className="py-1">{label}</td>
            <td className="data text-right">{count(of(a.tally))}</td>
            <td className="data text-right">{count(of(b.tally))}</td>
            <td className="data text-right">
              <Difference a={of(a.tally)} b={of(b.tally)} />
            </td>
          </tr>
        ))}
        <tr className="border-b border-line">
          <td className="py-1">At work</td>
          <td className="data text-right">{duration(a.busyMillis)}</td>
          <td className="data text-right">{duration(b.busyMillis)}</td>
          <td className="data text-right text-faint">
            {b.busyMillis > 0 && `${(a.busyMillis / b.busyMillis).toFixed(1)} times`}
          </td>
        </tr>
      </tbody>
    </table>
  );
}

function BothReasons({ a, b }: { a: Schemas["Reason"][]; b: Schemas["Reason"][] }) {
  const name = (r: Schemas["Reason"]) => `${r.severity} ${r.code} ${r.reason}`;
  const all = new Map([...b, ...a].map((r) => [name(r), r]));
  const of = (list: Schemas["Reason"][], n: string) => list.find((r) => name(r) === n)?.count ?? 0;
  if (all.size === 0) return <p className="text-faint">Neither has findings.</p>;
  return (
    <table className="w-full border-collapse text-sm">
      <thead>
        <tr className="border-b border-line text-xs text-faint">
          <th className="py-1 text-left">Reason</th>
          <th className="w-28 text-right">The first</th>
          <th className="w-28 text-right">The other</th>
          <th className="w-28 text-right">Difference</th>
        </tr>
      </thead>
      <tbody>
        {[...all].map(([n, r]) => (
          <tr key={n} className="border-b border-line">
            <td className="py-1">
              <Weight severity={r.severity} /> {r.reason} <span className="data text-xs text-faint">{r.code}</span>
            </td>
            <td className="data text-right">{count(of(a, n))}</td>
            <td className="data text-right">{count(of(b, n))}</td>
            <td className="data text-right">
              <Difference a={of(a, n)} b={of(b, n)} />
            </td>
          </tr>
        ))}
      </tbody>
    </table>
  );
}
