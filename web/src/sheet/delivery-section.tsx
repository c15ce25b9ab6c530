import { Plus } from "lucide-react";
import { useState } from "react";
import { Link } from "react-router";
import { byKey, modes, type Target } from "../definitions";
import { Button, ListBox, Select, Tick } from "../ui/basics";
import { DeliveryChoice, useDelivery } from "./delivery-choice";
import { MakeTable } from "./make-table";
import type { SectionProps } from "./sections";
import { TableChoice } from "./table-choice";
import { useConnections, useTable } from "./use-table";

export function DeliverySection({ sheet, change }: SectionProps) {
  const use = useDelivery(sheet, change);
  const [making, setMaking] = useState(false);
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
      {d?.connection && (
        <Button look="quiet" className="self-start px-2" onClick={() => setMaking(true)}>
          <Plus size={14} aria-hidden /> Make a table from the shaping …
        </Button>
      )}
      {d?.connection && making && (
        <MakeTable
          sheet={sheet}
          at={use.at}
          delivery={use.delivery}
          connection={d.connection}
          put={use.put}
          onClose={() => setMaking(false)}
        />
      )}
      {d && (
        <div className="flex flex-col gap-3">
          <Select
            label="A row that is there already"
            value={d.mode}
            onChange={(v) => {
              const mode = v as Target["mode"];
              put({ ...d, mode, key: byKey(mode) ? (d.key ?? keys[0] ?? []) : undefined });
            }}
            options={[...modes]}
          />
          {byKey(d.mode) && (
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
      {d && <WholeFile sheet={sheet} change={change} />}
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

/** Whether anything is visible in the target before the file is complete. */
function WholeFile({ sheet, change }: Pick<SectionProps, "sheet" | "change">) {
  const { job } = sheet;
  const replaces = job.deliveries?.some((d) => d.to?.mode === "replace") ?? false;
  return (
    <div>
      <Tick
        label="Nothing is visible in the target until the file is complete"
        checked={replaces || job.commit === "whole"}
        disabled={replaces}
        onChange={(on) => change({ ...sheet, job: { ...job, commit: on ? "whole" : undefined } })}
      />
      <p className="text-xs text-faint">
        {replaces
          ? "A table that is replaced is replaced in one transaction. A file without records replaces nothing."
          : job.commit === "whole"
            ? "All of the file is one transaction; a run that breaks off begins anew."
            : "Parts of the file become visible as they are delivered; a run that breaks off goes on from there."}
      </p>
    </div>
  );
}
