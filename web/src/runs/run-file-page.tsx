import { useQuery } from "@tanstack/react-query";
import { Link, useParams } from "react-router";
import { api, ask } from "../api/client";
import { RawView } from "../bench/raw-view";
import { Trouble } from "../ui/basics";

/** The file of a run as it is. */
export function RunFilePage() {
  const { id = "" } = useParams();
  const run = useQuery({
    queryKey: ["run", Number(id)],
    queryFn: () => ask(api.GET("/api/v1/runs/{run}", { params: { path: { run: Number(id) } } })),
  });
  if (run.isError)
    return (
      <div className="p-6">
        <Trouble error={run.error} />
      </div>
    );
  if (!run.data) return null;
  return (
    <div className="flex h-full flex-col">
      <div className="flex items-baseline gap-3 border-b border-line px-5 py-2.5">
        <h1 className="data truncate">{run.data.fileName}</h1>
        <Link to={`/runs/${id}`} className="text-pine hover:underline">
          run {id}
        </Link>
      </div>
      <div className="min-h-0 flex-1">
        <RawView owner="run" id={id} file={run.data.fileName} />
      </div>
    </div>
  );
}
