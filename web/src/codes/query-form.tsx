import { useMutation, useQuery } from "@tanstack/react-query";
import { api, ask } from "../api/client";
import type { CodeList } from "../definitions";
import { Button, Labelled, Select, Trouble } from "../ui/basics";
import { duration, moment, plural } from "../ui/words";

type Props = { list: CodeList; change: (list: CodeList) => void };

/** Where the lines come from: kept here, or read by a query when a run starts. */
export function QueryForm({ list, change }: Props) {
  const connections = useQuery({ queryKey: ["connections"], queryFn: () => ask(api.GET("/api/v1/connections")) });
  const query = list.query;
  const names = connections.data?.map((c) => c.name) ?? [];
  const run = useMutation({
    mutationFn: () =>
      ask(api.POST("/api/v1/code-lists/query", { body: query as { connection: string; statement: string } })),
    onSuccess: (read) => change({ ...list, columns: read.columns }),
  });
  if (!query) {
    return (
      <Button
        look="quiet"
        className="self-start px-2"
        disabled={names.length === 0}
        title={names.length === 0 ? "There is no connection yet" : undefined}
        onClick={() =>
          change({
            ...list,
            entries: undefined,
            query: { connection: names[0], statement: "SELECT code, meaning FROM " },
          })
        }
      >
        Read the lines by a query instead
      </Button>
    );
  }
  return (
    <div className="flex flex-col gap-2">
      <Select
        label="Connection"
        value={query.connection}
        onChange={(connection) => change({ ...list, query: { ...query, connection } })}
        options={[...new Set([query.connection, ...names])].map((v) => ({ value: v, label: v }))}
      />
      <Labelled
        label="Query: the value first, then its meanings"
        hint="Read when a run starts, in a transaction that cannot write; a restart goes on with the same lines."
      >
        {(control) => (
          <textarea
            {...control}
            rows={4}
            spellCheck={false}
            value={query.statement}
            onChange={(e) => change({ ...list, query: { ...query, statement: e.target.value } })}
            className="data w-full rounded border border-line bg-card px-2 py-1 text-sm"
          />
        )}
      </Labelled>
      <div className="flex gap-2">
        <Button onClick={() => run.mutate()} disabled={run.isPending}>
          Read it now
        </Button>
        <Button look="quiet" onClick={() => change({ ...list, query: undefined, entries: [] })}>
          Keep the lines here instead
        </Button>
      </div>
      {run.isError && <Trouble error={run.error} />}
      {run.data && (
        <div className="text-sm">
          <p className="text-moss">
            {plural(run.data.rows, "row")} in {duration(run.data.millis)}, read {moment(run.data.at)}
          </p>
          <ul className="data mt-1 max-h-48 overflow-auto">
            {run.data.entries.slice(0, 50).map((e) => (
              <li key={e.values.join("|")} className="truncate border-b border-line">
                {e.values.map((v) => v ?? "NULL").join(" · ")}
              </li>
            ))}
          </ul>
        </div>
      )}
    </div>
  );
}
