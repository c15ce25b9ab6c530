import { useQuery } from "@tanstack/react-query";
import { useSearchParams } from "react-router";
import { api, ask } from "../api/client";
import { Button, Empty, Trouble } from "../ui/basics";
import { ConnectionForm } from "./connection-form";
import { OperationsView } from "./operations-view";
import { TableView } from "./table-view";

export function ConnectionsPage() {
  const [search, setSearch] = useSearchParams();
  const all = useQuery({ queryKey: ["connections"], queryFn: () => ask(api.GET("/api/v1/connections")) });
  const chosen = search.get("connection") ?? all.data?.[0]?.name;
  const making = search.get("connection") === "new";
  if (all.isError)
    return (
      <div className="p-6">
        <Trouble error={all.error} />
      </div>
    );
  if (!all.data) return null;
  const current = all.data.find((c) => c.name === chosen);
  return (
    <div className="grid h-full grid-cols-[230px_minmax(0,1fr)]">
      <aside className="overflow-auto border-r border-line px-4 py-5">
        <h1 className="mb-3">Connections</h1>
        <ul className="mb-3">
          {all.data.map((c) => (
            <li key={c.name}>
              <button
                type="button"
                onClick={() => setSearch({ connection: c.name })}
                aria-pressed={c.name === chosen}
                className={`w-full rounded px-2 py-1.5 text-left ${c.name === chosen ? "bg-pine-wash font-semibold text-pine" : "hover:bg-card"}`}
              >
                {c.title}
                <span className="data block text-xs font-normal text-faint">{c.name}</span>
              </button>
            </li>
          ))}
        </ul>
        <Button onClick={() => setSearch({ connection: "new" })}>New connection</Button>
      </aside>
      <div className="min-w-0 overflow-auto px-6 py-5">
        {making && <ConnectionForm onSaved={(name) => setSearch({ connection: name })} />}
        {current && !making && (
          <div key={current.name} className="flex flex-col gap-6">
            <ConnectionForm
              current={current}
              onSaved={() => undefined}
              onDeleted={() => setSearch({}, { replace: true })}
            />
            {current.kind === "application" ? <OperationsView name={current.name} /> : <Tables name={current.name} />}
          </div>
        )}
        {!current && !making && (
          <Empty title="No connection yet">
            A connection says how a database or an application is reached. Jobs deliver to its tables, or send it
            documents.
          </Empty>
        )}
      </div>
    </div>
  );
}

function Tables({ name }: { name: string }) {
  const [search, setSearch] = useSearchParams();
  const table = search.get("table");
  const tables = useQuery({
    queryKey: ["tables", name],
    queryFn: () => ask(api.GET("/api/v1/connections/{connection}/tables", { params: { path: { connection: name } } })),
    retry: false,
  });
  if (tables.isError) return <Trouble error={tables.error} />;
  return (
    <section aria-labelledby="tables">
      <h2 id="tables" className="mb-2">
        Tables
      </h2>
      {tables.data?.length === 0 && <p className="text-faint">The database has no tables yet.</p>}
      <div className="mb-3 flex flex-wrap gap-1.5">
        {tables.data?.map((t) => (
          <button
            type="button"
            key={t.name}
            aria-pressed={t.name === table}
            title={t.readable ? undefined : "no right to read it"}
            disabled={!t.readable}
            onClick={() => setSearch({ connection: name, table: t.name })}
            className={`data rounded border px-2 py-0.5 disabled:opacity-50 ${t.name === table ? "border-pine bg-pine-wash text-pine" : "border-line bg-card hover:border-pine"}`}
          >
            {t.name}
            {t.view && <span className="font-sans text-xs text-faint"> view</span>}
            {!t.view && !t.writable && <span className="font-sans text-xs text-faint"> read only</span>}
          </button>
        ))}
      </div>
      {table && <TableView connection={name} table={table} />}
    </section>
  );
}
