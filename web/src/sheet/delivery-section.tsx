import { useQuery } from "@tanstack/react-query";
import { Link } from "react-router";
import { api, ask } from "../api/client";
import type { Target } from "../definitions";
import { ListBox, Select, Trouble } from "../ui/basics";
import { DeliveryChoice, useDelivery } from "./delivery-choice";
import type { SectionProps } from "./sections";

export function DeliverySection({ sheet, change }: SectionProps) {
  const use = useDelivery(sheet, change);
  const d = use.delivery.to;
  const connections = useQuery({ queryKey: ["connections"], queryFn: () => ask(api.GET("/api/connections")) });
  const tables = useQuery({
    queryKey: ["tables", d?.connection],
    enabled: !!d?.connection,
    retry: false,
    queryFn: () => ask(api.GET("/api/connections/{name}/tables", { params: { path: { name: d?.connection ?? "" } } })),
  });
  const table = useQuery({
    queryKey: ["table", d?.connection, d?.table],
    enabled: !!d?.table,
    retry: false,
    queryFn: () =>
      ask(
        api.GET("/api/connections/{name}/tables/{table}", {
          params: { path: { name: d?.connection ?? "", table: d?.table ?? "" } },
        }),
      ),
  });
  const put = (to: Target) => use.put({ ...use.delivery, to });
  if (connections.data?.length === 0) {
    return (
      <p className="text-faint">
        There is no connection yet.{" "}
        <Link to="/connections?connection=new" className="text-pine underline">
          Make one
        </Link>
        , then choose its table here.
      </p>
    );
  }
  const names = connections.data?.map((c) => c.name) ?? [];
  const keys = table.data?.uniqueKeys ?? [];
  return (
    <>
      <DeliveryChoice sheet={sheet} use={use} />
      <div className="grid grid-cols-2 gap-3">
        <Select
          label="Connection"
          value={d?.connection ?? ""}
          onChange={(connection) => put({ connection, table: "", mode: d?.mode ?? "add", key: d?.key })}
          options={[{ value: "", label: "choose" }, ...names.map((n) => ({ value: n, label: n }))]}
        />
        <Select
          label="Table"
          value={d?.table ?? ""}
          disabled={!d?.connection}
          onChange={(t) => d && put({ ...d, table: t })}
          options={[
            { value: "", label: "choose" },
            ...[...new Set([...(d?.table ? [d.table] : []), ...(tables.data ?? [])])].map((t) => ({
              value: t,
              label: t,
            })),
          ]}
        />
      </div>
      {tables.isError && <Trouble error={tables.error} />}
      {d && (
        <div className="grid grid-cols-2 gap-3">
          <Select
            label="A row that is there already"
            value={d.mode}
            onChange={(mode) =>
              put({ ...d, mode: mode as Target["mode"], key: mode === "add" ? undefined : (d.key ?? keys[0]) })
            }
            options={[
              { value: "add", label: "is refused (add)" },
              { value: "add-or-change", label: "is changed by key (add or change)" },
            ]}
          />
          {d.mode === "add-or-change" && (
            <ListBox
              label="Key"
              values={d.key ?? []}
              onChange={(key) => put({ ...d, key })}
              hint={
                keys.length
                  ? `unique in the table: ${keys.map((k) => k.join(", ")).join("; ")}`
                  : "the table has no unique index"
              }
            />
          )}
        </div>
      )}
      {d?.table && (
        <Link
          to={`/connections?connection=${d.connection}&table=${d.table}`}
          className="self-start text-sm text-pine underline underline-offset-2"
        >
          See the table and its rows now
        </Link>
      )}
    </>
  );
}
