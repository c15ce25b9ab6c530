import { Link } from "react-router";
import type { Target } from "../definitions";
import { Select } from "../ui/basics";
import { ApplicationDelivery } from "./application-delivery";
import { DeliveryChoice, useDelivery } from "./delivery-choice";
import type { SectionProps } from "./sections";
import { TableDelivery } from "./table-delivery";
import { TogetherForm } from "./together-form";
import { useConnections } from "./use-table";

export function DeliverySection({ sheet, change }: SectionProps) {
  const use = useDelivery(sheet, change);
  const connections = useConnections();
  const to = use.delivery.to;
  const put = (next: Target) => use.put({ ...use.delivery, to: next });
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
  const known = connections.data ?? [];
  return (
    <>
      <DeliveryChoice sheet={sheet} use={use} />
      <Select
        label="Connection"
        value={to?.connection ?? ""}
        onChange={(connection) =>
          put(
            known.find((c) => c.name === connection)?.kind === "application"
              ? { kind: "application", connection, path: "" }
              : { connection, table: "", mode: "add" },
          )
        }
        options={[
          { value: "", label: "choose" },
          ...known.map((c) => ({
            value: c.name,
            label: c.kind === "application" ? `${c.name} (an application)` : c.name,
          })),
        ]}
      />
      {to?.connection && to.kind === "application" && <ApplicationDelivery to={to} put={put} />}
      {to?.connection && to.kind !== "application" && (
        <TableDelivery sheet={sheet} change={change} to={to} use={use} put={put} />
      )}
      <TogetherForm sheet={sheet} change={change} />
    </>
  );
}
