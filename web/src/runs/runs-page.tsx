import { useInfiniteQuery, useQuery } from "@tanstack/react-query";
import { Link, useNavigate, useSearchParams } from "react-router";
import { api, ask, type Schemas } from "../api/client";
import { Button, Empty, Select, Trouble } from "../ui/basics";
import { StateMark } from "../ui/state";
import { bytes, count, duration, moment } from "../ui/words";

const states = [
  "RUNNING",
  "WAITING",
  "FINISHED",
  "STOPPED",
  "HALTED",
  "FAILED",
  "PAUSED",
  "INTERRUPTED",
  "TAKEN_BACK",
  "REFUSED",
] as const;
const pageSize = 100;

export function RunsPage() {
  const navigate = useNavigate();
  const [search, setSearch] = useSearchParams();
  const job = search.get("job") ?? undefined;
  const state = (search.get("state") as Schemas["RunView"]["state"] | null) ?? undefined;
  const jobs = useQuery({ queryKey: ["jobs"], queryFn: () => ask(api.GET("/api/v1/jobs")) });
  const runs = useInfiniteQuery({
    queryKey: ["runs", job, state],
    initialPageParam: undefined as string | undefined,
    queryFn: ({ pageParam }) =>
      ask(api.GET("/api/v1/runs", { params: { query: { job, state, after: pageParam, most: pageSize } } })),
    getNextPageParam: (last) => last.next ?? undefined,
    refetchInterval: 4_000,
  });
  const filter = (name: string, value: string) => {
    const next = new URLSearchParams(search);
    if (value) next.set(name, value);
    else next.delete(name);
    setSearch(next);
  };
  const all = runs.data?.pages.flatMap((page) => page.items) ?? [];
  return (
    <div className="px-6 py-5">
      <div className="mb-4 flex items-end gap-3">
        <h1 className="mr-auto">Runs</h1>
        <Select
          label="Job"
          className="w-52"
          value={job ?? ""}
          onChange={(v) => filter("job", v)}
          options={[{ value: "", label: "all" }, ...(jobs.data ?? []).map((j) => ({ value: j.name, label: j.title }))]}
        />
        <Select
          label="State"
          className="w-40"
          value={state ?? ""}
          onChange={(v) => filter("state", v)}
          options={[
            { value: "", label: "all" },
            ...states.map((s) => ({ value: s, label: s.toLowerCase().replace("_", " ") })),
          ]}
        />
      </div>
      {runs.isError && <Trouble error={runs.error} />}
      {runs.data && all.length === 0 && (
        <Empty title={job || state ? "No run like that" : "Nothing has run yet"}>
          A run begins when a scheduled job finds a file, or when you give a job a file on its sheet.
        </Empty>
      )}
      {all.length > 0 && (
        <table className="w-full border-collapse text-sm">
          <thead>
            <tr className="border-b border-line text-xs text-faint">
              <th className="py-1.5 pr-4 text-right">Run</th>
              <th className="pr-4">State</th>
              <th className="pr-4">Job</th>
              <th className="pr-4">File</th>
              <th className="pr-4 text-right">Size</th>
              <th className="pr-4">Started</th>
              <th className="pr-4 text-right">Took</th>
              <th className="pr-4 text-right">Read</th>
              <th className="pr-4 text-right">Delivered</th>
              <th className="pr-4 text-right">Rejected</th>
            </tr>
          </thead>
          <tbody>
            {all.map((r) => (
              <tr
                key={r.id}
                onClick={() => navigate(`/runs/${r.id}`)}
                className="cursor-pointer border-b border-line hover:bg-card"
              >
                <td className="data py-1.5 pr-4 text-right">
                  <Link to={`/runs/${r.id}`} className="text-pine">
                    {r.id}
                  </Link>
                </td>
                <td className="pr-4">
                  <StateMark state={r.state} rejected={r.tally.rejected} />
                </td>
                <td className="pr-4">{r.title}</td>
                <td className="data max-w-72 truncate pr-4">{r.fileName}</td>
                <td className="data pr-4 text-right whitespace-nowrap">{bytes(r.fileSize)}</td>
                <td className="data pr-4 whitespace-nowrap">{moment(r.startedAt ?? r.createdAt)}</td>
                <td className="data pr-4 text-right whitespace-nowrap">{duration(r.busyMillis)}</td>
                <td className="data pr-4 text-right">{count(r.tally.read)}</td>
                <td className="data pr-4 text-right">{count(r.tally.delivered)}</td>
                <td className={`data pr-4 text-right ${r.tally.rejected ? "text-brick" : ""}`}>
                  {count(r.tally.rejected)}
                </td>
              </tr>
            ))}
          </tbody>
        </table>
      )}
      {runs.hasNextPage && (
        <Button className="mt-3" onClick={() => runs.fetchNextPage()}>
          Older runs
        </Button>
      )}
    </div>
  );
}
