import { Link } from "react-router";
import { useConnections } from "../connections/use-described";
import { shapedLayout, type Target, targetPlace, typeOf } from "../definitions";
import { Select } from "../ui/basics";
import { Fold } from "../ui/fold";
import { ApplicationDelivery } from "./application-delivery";
import { DeliveryChoice, useDelivery } from "./delivery-choice";
import { FileDelivery } from "./file-delivery";
import { LimitsForm } from "./limits-form";
import { OwnStatements } from "./own-statements";
import type { SectionProps } from "./section-props";
import { TableDelivery } from "./table-delivery";
import { TogetherForm } from "./together-form";

/** The choice that is no connection. */
const FILES = "/files";

export function DeliverySection({ sheet, change }: SectionProps) {
  const use = useDelivery(sheet, change);
  const known = useConnections().data ?? [];
  const to = use.delivery.to;
  const put = (next: Target) => use.put({ ...use.delivery, to: next });
  const begin = (place: string): Target => {
    if (place !== FILES)
      return known.find((c) => c.name === place)?.kind === "application"
        ? { kind: "application", connection: place, path: "" }
        : { connection: place, table: "", mode: "add" };
    const layout = shapedLayout(sheet);
    // A further record type of files that the job writes already is the likely case; the same one again goes elsewhere.
    const other = use.all.find((d) => d.to?.kind === "file" && typeOf(layout, d) !== typeOf(layout, use.delivery))?.to;
    return { kind: "file", file: other?.kind === "file" ? other.file : { root: "", name: "{job}_{date}_{run}.txt" } };
  };
  const places = new Set(use.all.map((d) => targetPlace(d.to)).filter((p) => p !== "")).size;
  return (
    <>
      <DeliveryChoice sheet={sheet} use={use} />
      <Select
        label="Goes to"
        value={to?.kind === "file" ? FILES : (to?.connection ?? "")}
        onChange={(place) => place && put(begin(place))}
        options={[
          { value: "", label: "choose" },
          ...known.map((c) => ({
            value: c.name,
            label: c.kind === "application" ? `${c.name} (an application)` : `${c.name} (tables)`,
          })),
          { value: FILES, label: "files in a folder" },
        ]}
      />
      {known.length === 0 && (
        <p className="text-sm text-faint">
          For a table or an application,{" "}
          <Link to="/connections?connection=new" className="text-pine underline">
            make a connection
          </Link>{" "}
          first.
        </p>
      )}
      {to?.kind === "file" && (
        <FileDelivery
          to={to}
          use={use}
          sheet={sheet}
          putFile={(file) =>
            use.putAll(
              use.all.map((d, i) =>
                d.to?.kind === "file" && (i === use.at || targetPlace(d.to) === targetPlace(to))
                  ? { ...d, to: { ...d.to, file } }
                  : d,
              ),
            )
          }
          put={put}
        />
      )}
      {to?.kind === "application" && <ApplicationDelivery to={to} put={put} />}
      {to && to.kind === undefined && <TableDelivery sheet={sheet} change={change} to={to} use={use} put={put} />}
      {places > 1 && (
        <Fold
          title="Limits of this place"
          sentence={use.delivery.limits ? "its own" : "those of the job"}
          open={use.delivery.limits !== undefined}
        >
          <LimitsForm limits={use.delivery.limits ?? {}} put={(limits) => use.put({ ...use.delivery, limits })} />
        </Fold>
      )}
      <OwnStatements sheet={sheet} change={change} />
      <TogetherForm sheet={sheet} change={change} />
    </>
  );
}
