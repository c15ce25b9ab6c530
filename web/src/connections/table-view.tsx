import { useQuery } from "@tanstack/react-query";
import { api, ask } from "../api/client";
import { FollowRow } from "../follow/follow-row";
import { Trouble } from "../ui/basics";
import { plural } from "../ui/words";

/** A table as the database describes it, and its rows as they are now. */
export function TableView({ connection, table }: { connection: string; table: string }) {
  const path = { connection, table };
  const described = useQuery({
    queryKey: ["table", connection, table],
    queryFn: () => ask(api.GET("/api/v1/connections/{connection}/tables/{table}", { params: { path } })),
    retry: false,
  });
  const rows = useQuery({
    queryKey: ["table-rows", connection, table],
    queryFn: () =>
      ask(api.GET("/api/v1/connections/{connection}/tables/{table}/rows", { params: { path, query: { most: 50 } } })),
    retry: false,
  });
  if (described.isError) return <Trouble error={described.error} />;
  const t = described.data;
  const keys = t?.uniqueKeys ?? [];
  const refers = (column: string) => {
    const key = t?.foreignKeys.find((k) => k.columns.includes(column));
    return key && `${key.table}.${key.references[key.columns.indexOf(column)]}`;
  };
  return (
    <div className="flex flex-col gap-4">
      {t && (
        <p className="text-sm text-faint">
          {[
            t.view ? "A view: rows are delivered to tables." : "",
            t.comment,
            t.estimate >= 0 ? `About ${plural(t.estimate, "row")}.` : "",
          ]
            .filter(Boolean)
            .join(" · ")}
        </p>
      )}
      <table className="border-collapse text-sm">
        <thead>
          <tr className="border-b border-line text-xs text-faint">
            <th className="pr-6">Column</th>
            <th className="pr-6">Type</th>
            <th className="pr-6">May be NULL</th>
            <th className="pr-6">Key</th>
            <th className="pr-6">Refers to</th>
            <th>Comment</th>
          </tr>
        </thead>
        <tbody>
          {described.data?.columns.map((c) => (
            <tr key={c.name} className="border-b border-line">
              <td className="data py-0.5 pr-6">{c.name}</td>
              <td className="data pr-6">{c.label}</td>
              <td className="pr-6">
                {c.nullable ? "yes" : c.numbered ? "no, is numbered" : c.hasDefault ? "no, has a default" : "no"}
              </td>
              <td className="pr-6">{keys.some((k) => k.includes(c.name)) ? "unique" : ""}</td>
              <td className="data pr-6">{refers(c.name)}</td>
              <td className="text-faint">{c.comment}</td>
            </tr>
          ))}
        </tbody>
      </table>
      {rows.data && (
        <div>
          <h2 className="mb-1 text-sm font-semibold">Rows now (the last {rows.data.shown} by the first column)</h2>
          <div tabIndex={0} role="region" aria-label="Rows now" className="overflow-x-auto border border-line bg-card">
            <table className="data w-full border-collapse">
              <thead>
                <tr className="border-b border-line">
                  {keys.length > 0 && <th className="px-2 py-1 font-sans text-xs text-faint">where from</th>}
                  {rows.data.columns.map((c) => (
                    <th key={c} className="px-2 py-1 whitespace-nowrap">
                      {c}
                    </th>
                  ))}
                </tr>
              </thead>
              <tbody>
                {rows.data.rows.map((r) => (
                  <tr key={r.join("\u0001")} className="border-b border-line">
                    {keys.length > 0 && (
                      <td className="px-2">
                        <FollowRow
                          connection={connection}
                          table={table}
                          keys={keys}
                          columns={rows.data.columns}
                          row={r}
                        />
                      </td>
                    )}
                    {r.map((v, i) => (
                      <td key={rows.data.columns[i]} className="max-w-60 truncate px-2 py-0.5 whitespace-nowrap">
                        {v ?? <span className="text-faint">NULL</span>}
                      </td>
                    ))}
                  </tr>
                ))}
              </tbody>
            </table>
          </div>
        </div>
      )}
    </div>
  );
}
