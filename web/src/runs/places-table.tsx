import type { ReactNode } from "react";
import type { Schemas } from "../api/client";
import { count } from "../ui/words";

type Tally = Schemas["Tally"];

/** A place of a run or of a rehearsal with its account. */
export interface PlaceAccount {
  place: number;
  to: string;
  tally: Tally;
  deliveries: Schemas["DeliveryAccount"][];
  message?: string | null;
}

/**
 * The account of each place: what became of the records there, and of the rows of each delivery. Columns of which no place
 * has anything are left out.
 */
export function PlacesTable<P extends PlaceAccount>({
  places,
  more = [],
}: {
  places: P[];
  more?: { head: ReactNode; of: (place: P) => ReactNode; className: string }[];
}) {
  const records = recordFigures.filter(([, of, always]) => always || places.some((p) => of(p.tally) > 0));
  const rows = rowFigures.filter(([, of, always]) => always || places.some((p) => of(p.tally) > 0));
  return (
    <table className="w-full border-collapse text-sm">
      <thead>
        <tr className="text-xs text-faint">
          <td />
          <th colSpan={records.length} className="border-b border-line text-center">
            Records
          </th>
          <th colSpan={rows.length} className="border-b border-line text-center">
            Rows
          </th>
          <td colSpan={more.length} />
        </tr>
        <tr className="border-b border-line text-xs text-faint">
          <th className="py-1 text-left">To</th>
          {records.map(([name]) => (
            <th key={name} className="pl-3 text-right">
              {name}
            </th>
          ))}
          {rows.map(([name]) => (
            <th key={name} className="pl-3 text-right">
              {name}
            </th>
          ))}
          {more.map((m) => (
            <th key={m.className} className={m.className}>
              {m.head}
            </th>
          ))}
        </tr>
      </thead>
      <tbody>
        {places.map((p) => (
          <PlaceRows key={p.place} place={p} records={records} rows={rows} more={more} />
        ))}
      </tbody>
    </table>
  );
}

type Figure = [string, (t: Tally) => number, boolean?];

const recordFigures: Figure[] = [
  ["read", (t) => t.read],
  ["delivered", (t) => t.delivered, true],
  ["for other places", (t) => t.elsewhere],
  ["without rows", (t) => t.withoutRows],
  ["set aside", (t) => t.setAside],
  ["rejected", (t) => t.rejected, true],
];

const rowFigures: [string, (t: Schemas["RowCounts"]) => number, boolean?][] = [
  ["added", (t) => t.added, true],
  ["changed", (t) => t.changed],
  ["unchanged", (t) => t.unchanged],
  ["removed", (t) => t.removed],
];

function PlaceRows<P extends PlaceAccount>({
  place,
  records,
  rows,
  more,
}: {
  place: P;
  records: Figure[];
  rows: typeof rowFigures;
  more: { of: (place: P) => ReactNode; className: string }[];
}) {
  const several = place.deliveries.length > 1;
  return (
    <>
      <tr className={`align-top ${several ? "" : "border-b border-line"}`}>
        <td className="data py-1.5 font-semibold break-all">
          {place.to}
          {place.message && (
            <span className="block font-sans font-normal break-normal text-brick">{place.message}</span>
          )}
        </td>
        {records.map(([name, of]) => (
          <td
            key={name}
            className={`data py-1.5 pl-3 text-right ${name === "rejected" && of(place.tally) ? "text-brick" : ""}`}
          >
            {count(of(place.tally))}
          </td>
        ))}
        {rows.map(([name, of]) => (
          <td key={name} className="data py-1.5 pl-3 text-right">
            {count(of(place.tally))}
          </td>
        ))}
        {more.map((m) => (
          <td key={m.className} className={`py-1.5 ${m.className}`}>
            {m.of(place)}
          </td>
        ))}
      </tr>
      {several &&
        place.deliveries.map((d, i) => (
          <tr
            key={d.delivery}
            className={`text-faint ${i === place.deliveries.length - 1 ? "border-b border-line" : ""}`}
          >
            <td className="data py-0.5 pl-5 break-all">{d.to}</td>
            {records.map(([name]) => (
              <td key={name} className="data py-0.5 pl-3 text-right">
                {name === "delivered" ? count(d.records) : name === "rejected" && d.refused > 0 ? count(d.refused) : ""}
              </td>
            ))}
            {rows.map(([name, of]) => (
              <td key={name} className="data py-0.5 pl-3 text-right">
                {count(of(d.rows))}
              </td>
            ))}
            <td colSpan={more.length} />
          </tr>
        ))}
    </>
  );
}
