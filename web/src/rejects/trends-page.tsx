import { useQuery } from "@tanstack/react-query";
import { Link, useSearchParams } from "react-router";
import { api, ask, type Schemas } from "../api/client";
import { Empty, Select, Trouble } from "../ui/basics";
import { Weight } from "../ui/state";
import { count } from "../ui/words";

/** Reasons over time: which grow, and whose files bring them. */
export function TrendsPage() {
  const [search, setSearch] = useSearchParams();
  const job = search.get("job") ?? undefined;
  const days = Number(search.get("days") ?? 28);
  const jobs = useQuery({ queryKey: ["jobs"], queryFn: () => ask(api.GET("/api/v1/jobs")) });
  const trends = useQuery({
    queryKey: ["trends", job, days],
    queryFn: () => ask(api.GET("/api/v1/reasons", { params: { query: { job, days } } })),
  });
  const put = (name: string, value: string) => {
    const next = new URLSearchParams(search);
    if (value) next.set(name, value);
    else next.delete(name);
    setSearch(next, { replace: true });
  };
  const most = Math.max(1, ...(trends.data?.reasons.flatMap((r) => r.counts) ?? []));
  return (
    <div className="px-6 py-5">
      <div className="mb-4 flex items-end gap-3">
        <h1 className="mr-auto">
          Reasons over time{" "}
          <Link to="/rejects" className="text-base font-normal text-pine underline">
            the rejects themselves
          </Link>
        </h1>
        <Select
          label="Job"
          className="w-52"
          value={job ?? ""}
          onChange={(v) => put("job", v)}
          options={[{ value: "", label: "all" }, ...(jobs.data ?? []).map((j) => ({ value: j.name, label: j.title }))]}
        />
        <Select
          label="Days"
          className="w-28"
          value={String(days)}
          onChange={(v) => put("days", v)}
          options={["7", "14", "28", "90"].map((d) => ({ value: d, label: `the last ${d}` }))}
        />
      </div>
      {trends.isError && <Trouble error={trends.error} />}
      {trends.data?.reasons.length === 0 && (
        <Empty title="Nothing was found in these days">What checks and targets say comes here, day by day.</Empty>
      )}
      {trends.data && trends.data.reasons.length > 0 && (
        <table className="w-full border-collapse text-sm">
          <thead>
            <tr className="border-b border-line text-xs text-faint">
              <th className="py-1 text-left">Reason</th>
              <th className="w-36 text-left">From</th>
              <th className="w-72 text-left">
                {trends.data.days[0]} to {trends.data.days.at(-1)}
              </th>
              <th className="w-20 text-right">In all</th>
              <th className="w-36 text-right" title="the second half of these days beside the first">
                For each day with runs
              </th>
            </tr>
          </thead>
          <tbody>
            {trends.data.reasons.map((r) => (
              <tr key={`${r.job} ${r.severity} ${r.code} ${r.reason}`} className="border-b border-line">
                <td className="py-1.5 pr-3">
                  <Weight severity={r.severity} /> {r.reason}{" "}
                  <span className="data text-xs whitespace-nowrap text-faint">{r.code}</span>
                </td>
                <td>
                  {r.severity === "note" ? (
                    r.title
                  ) : (
                    <Link
                      to={`/rejects?${new URLSearchParams({ job: r.job, state: "all", code: r.code, reason: r.reason })}`}
                      className="text-pine underline"
                    >
                      {r.title}
                    </Link>
                  )}
                </td>
                <td>
                  <Bars trend={r} days={trends.data.days} most={most} />
                </td>
                <td className="data text-right">{count(r.all)}</td>
                <td className="text-right">
                  <Growth trend={r} />
                </td>
              </tr>
            ))}
          </tbody>
        </table>
      )}
    </div>
  );
}

function Bars({ trend, days, most }: { trend: Schemas["Trend"]; days: string[]; most: number }) {
  const tone = trend.severity === "note" ? "bg-ochre" : "bg-brick";
  return (
    <span
      className="flex h-7 w-64 items-end gap-px"
      role="img"
      aria-label={`Day by day: ${trend.counts.join(", ")}`}
      title={trend.counts.flatMap((n, i) => (n ? [`${days[i]}: ${n}`] : [])).join("\n")}
    >
      {trend.counts.map((n, i) => (
        <span
          key={days[i]}
          className={`min-w-px flex-1 ${n ? tone : "bg-sunk"}`}
          style={{ height: n ? `${Math.max(8, Math.sqrt(n / most) * 100)}%` : "2px" }}
        />
      ))}
    </span>
  );
}

/** How often a day on which the job ran: the second half of the days beside the first. */
function Growth({ trend }: { trend: Schemas["Trend"] }) {
  const { before, after } = trend;
  if (before < 0 || after < 0) return <span className="text-faint">no runs in one half</span>;
  if (before === 0) return <strong className="text-brick">new</strong>;
  if (after === 0) return <span className="text-moss">not any more</span>;
  const times = after / before;
  if (times >= 1.5) return <strong className="text-brick">grows, {times.toFixed(1)} times</strong>;
  if (times <= 0.67) return <span className="text-moss">fades, {times.toFixed(1)} times</span>;
  return <span className="text-faint">about the same</span>;
}
