import { useMutation, useQuery, useQueryClient } from "@tanstack/react-query";
import { useState } from "react";
import { useSearchParams } from "react-router";
import { api, ask, type Schemas } from "../api/client";
import { Button, Empty, Select, TextBox, Trouble } from "../ui/basics";
import { moment } from "../ui/words";
import { DeleteConnection } from "./delete-connection";
import { TableView } from "./table-view";

type View = Schemas["ConnectionView"];

export function ConnectionsPage() {
  const [search, setSearch] = useSearchParams();
  const all = useQuery({ queryKey: ["connections"], queryFn: () => ask(api.GET("/api/connections")) });
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
            <Tables name={current.name} />
          </div>
        )}
        {!current && !making && (
          <Empty title="No connection yet">
            A connection says how a database is reached. Jobs deliver to its tables.
          </Empty>
        )}
      </div>
    </div>
  );
}

const usualPorts: Record<string, string> = { mariadb: "3306", postgresql: "5432" };

function ConnectionForm(props: { current?: View; onSaved: (name: string) => void; onDeleted?: () => void }) {
  const { current, onSaved } = props;
  const queries = useQueryClient();
  const [deleting, setDeleting] = useState(false);
  const [name, setName] = useState(current?.name ?? "");
  const [form, setForm] = useState({
    title: current?.title ?? "",
    kind: current?.kind ?? "mariadb",
    host: current?.host ?? "127.0.0.1",
    port: String(current?.port ?? 3306),
    database: current?.database ?? "",
    user: current?.user ?? "",
    password: "",
  });
  const set = (part: keyof typeof form) => (value: string) => setForm({ ...form, [part]: value });
  const body = () => ({ ...form, port: Number(form.port), password: (form.password || null) as unknown as string });
  const params = { path: { name: name || "new" } };
  const test = useMutation({
    mutationFn: () => ask(api.POST("/api/connections/{name}/test", { params, body: body() })),
  });
  const save = useMutation({
    mutationFn: () => ask(api.PUT("/api/connections/{name}", { params, body: body() })),
    onSuccess: (saved) => {
      queries.invalidateQueries({ queryKey: ["connections"] });
      onSaved(saved.name);
    },
  });
  return (
    <form
      aria-label="Connection"
      className="max-w-2xl"
      onSubmit={(e) => {
        e.preventDefault();
        save.mutate();
      }}
    >
      <h2 className="mb-3">{current ? current.title : "New connection"}</h2>
      <div className="grid grid-cols-2 gap-3">
        <TextBox
          label="Name in definitions"
          value={name}
          onChange={setName}
          disabled={!!current}
          required
          pattern="[a-z0-9][a-z0-9-]*"
          data
        />
        <TextBox label="Title" value={form.title} onChange={set("title")} />
        <Select
          label="Database server"
          value={form.kind}
          onChange={(kind) =>
            setForm({ ...form, kind, port: form.port === usualPorts[form.kind] ? usualPorts[kind] : form.port })
          }
          options={[
            { value: "mariadb", label: "MariaDB or MySQL" },
            { value: "postgresql", label: "PostgreSQL" },
          ]}
        />
        <TextBox label="Host" value={form.host} onChange={set("host")} required data />
        <TextBox label="Port" value={form.port} onChange={set("port")} required inputMode="numeric" data />
        <TextBox label="Database" value={form.database} onChange={set("database")} required data />
        <TextBox label="User" value={form.user} onChange={set("user")} autoComplete="off" data />
        <TextBox
          label="Password"
          type="password"
          value={form.password}
          onChange={set("password")}
          autoComplete="new-password"
          hint={current?.hasPassword ? "One is kept, sealed. Leave empty to keep it." : undefined}
        />
      </div>
      <div className="mt-4 flex items-center gap-2">
        <Button onClick={() => test.mutate()} disabled={test.isPending}>
          Test
        </Button>
        <Button look="main" type="submit" disabled={save.isPending}>
          Save
        </Button>
        {test.data && (
          <span role="status" className={test.data.ok ? "text-moss" : "text-brick"}>
            {test.data.message}
          </span>
        )}
        {current && (
          <Button look="quiet" className="text-brick" onClick={() => setDeleting(true)}>
            Delete…
          </Button>
        )}
        {current && !test.data && (
          <span className="text-sm text-faint">
            changed {moment(current.updatedAt)} by {current.updatedBy}
          </span>
        )}
      </div>
      {current && deleting && (
        <DeleteConnection
          name={current.name}
          title={current.title}
          onDeleted={() => props.onDeleted?.()}
          onClose={() => setDeleting(false)}
        />
      )}
      {(save.isError || test.isError) && (
        <div className="mt-2">
          <Trouble error={save.error ?? test.error} />
        </div>
      )}
    </form>
  );
}

function Tables({ name }: { name: string }) {
  const [search, setSearch] = useSearchParams();
  const table = search.get("table");
  const tables = useQuery({
    queryKey: ["tables", name],
    queryFn: () => ask(api.GET("/api/connections/{name}/tables", { params: { path: { name } } })),
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
