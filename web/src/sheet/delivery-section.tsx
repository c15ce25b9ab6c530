import { Link } from "react-router";
import type { Target } from "../definitions";
import { ListBox, Select } from "../ui/basics";
import { DeliveryChoice, useDelivery } from "./delivery-choice";
import type { SectionProps } from "./sections";
import { TableChoice } from "./table-choice";
import { useConnections, useTable } from "./use-table";

export function DeliverySection({ sheet, change }: SectionProps) {
  const use = useDelivery(sheet, change);
  const d = use.delivery.to;
  const connections = useConnections();
  const table = useTable(d);
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
  const keys = table.data?.uniqueKeys ?? [];
  return (
    <>
      <DeliveryChoice sheet={sheet} use={use} />
      <TableChoice
        connection={d?.connection ?? ""}
        table={d?.table ?? ""}
        put={(connection, table) => put({ connection, table, mode: d?.mode ?? "add", key: d?.key })}
      />
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
