import { useQuery } from "@tanstack/react-query";
import { useState } from "react";
import { Link, useNavigate } from "react-router";
import { api, ask, type Schemas } from "../api/client";
import { Button, Empty, Trouble } from "../ui/basics";
import { coming, count } from "../ui/words";
import { NewJob } from "./new-job";

export function JobsPage() {
  const navigate = useNavigate();
  const [making, setMaking] = useState(false);
  const jobs = useQuery({ queryKey: ["jobs"], queryFn: () => ask(api.GET("/api/v1/jobs")), refetchInterval: 5_000 });
  return (
    <div className="px-6 py-5">
      <div className="mb-4 flex items-center justify-between">
        <h1>Jobs</h1>
        <Button look="main" onClick={() => setMaking(true)}>
          New job
        </Button>
      </div>
      {jobs.isError && <Trouble error={jobs.error} />}
      {jobs.data?.length === 0 && (
        <Empty title="No job yet">
          Start with a file like the ones that will come: Ninepin reads its header row and makes a first layout of it.
        </Empty>
      )}
      {jobs.data && jobs.data.length > 0 && (
        <table className="w-full border-collapse text-sm">
          <thead>
            <tr className="border-b border-line text-xs text-faint">
              {["Job", "Picks up", "Layout", "Delivers to", "Schedule", "Live", "Last 14 runs", "Looks next"].map(
                (h) => (
                  <th key={h} className="py-1.5 pr-4">
                    {h}
                  </th>
                ),
              )}
            </tr>
          </thead>
          <tbody>
            {jobs.data.map((j) => (
              <tr key={j.name} className="border-b border-line align-top hover:bg-card">
                <td className="py-2 pr-4">
                  <Link to={`/jobs/${j.name}`} className="font-semibold text-pine hover:underline">
                    {j.title}
                  </Link>
                </td>
                <td className="py-2 pr-4">{j.pickUp}</td>
                <td className="py-2 pr-4">{j.layout}</td>
                <td className="py-2 pr-4">{j.delivery}</td>
                <td className="py-2 pr-4">
                  {j.scheduled ? j.schedule : <span className="text-faint">off ({j.schedule})</span>}
                </td>
                <td className="py-2 pr-4 whitespace-nowrap">
                  {j.liveVersion ? `version ${j.liveVersion}` : <span className="text-faint">not yet</span>}
                  {j.draftAhead && j.liveVersion && <div className="text-xs text-ochre">changes not live yet</div>}
                </td>
                <td className="py-2 pr-4">
                  <Bars bars={j.lastRuns} />
                </td>
                <td className="data py-2 whitespace-nowrap">{j.next ? coming(j.next) : "–"}</td>
              </tr>
            ))}
          </tbody>
        </table>
      )}
      <NewJob open={making} onClose={() => setMaking(false)} onMade={(name) => navigate(`/jobs/${name}`)} />
    </div>
  );
}

/** The last runs as bars: their height by records, the rejected part in brick at the foot. */
function Bars({ bars }: { bars: Schemas["Bar"][] }) {
  const most = Math.max(1, ...bars.map((b) => b.delivered + b.rejected));
  return (
    <span className="flex h-7 items-end gap-0.5">
      {bars.map((b) => {
        const height = Math.max(3, ((b.delivered + b.rejected) / most) * 26);
        const broken = b.state !== "FINISHED" && b.state !== "RUNNING" && b.state !== "WAITING";
        const share = b.rejected === 0 ? 0 : Math.max(3, (b.rejected / (b.delivered + b.rejected)) * height);
        return (
          <Link
            key={b.run}
            to={`/runs/${b.run}`}
            aria-label={`Run ${b.run}`}
            title={`run ${b.run} ${b.state.toLowerCase()}: ${count(b.delivered)} delivered, ${count(b.rejected)} rejected`}
            className={`flex w-1.5 flex-col justify-end ${broken ? "bg-ochre" : "bg-moss"}`}
            style={{ height }}
          >
            <span className="block bg-brick" style={{ height: share }} />
          </Link>
        );
      })}
    </span>
  );
}
