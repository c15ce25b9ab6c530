import { useConnections, useTables } from "../connections/use-described";
import { Select, Trouble } from "../ui/basics";

type Props = {
  connection: string;
  table: string;
  put: (connection: string, table: string) => void;
};

/** A connection and one of its tables. */
export function TableChoice({ connection, table, put }: Props) {
  const databases = useConnections().data?.filter((c) => c.kind !== "application") ?? [];
  const names = databases.map((c) => c.name);
  const tables = useTables(connection);
  const known = (tables.data ?? []).map((t) => ({
    value: t.name,
    label: t.view ? `${t.name} (a view)` : t.writable ? t.name : `${t.name} (no right to add)`,
  }));
  if (table && !known.some((t) => t.value === table)) known.unshift({ value: table, label: table });
  return (
    <>
      <div className="grid grid-cols-2 gap-3">
        <Select
          label="Connection"
          value={connection}
          onChange={(c) => put(c, "")}
          options={[{ value: "", label: "choose" }, ...names.map((n) => ({ value: n, label: n }))]}
        />
        <Select
          label="Table"
          value={table}
          disabled={!connection}
          onChange={(t) => put(connection, t)}
          options={[{ value: "", label: "choose" }, ...known]}
        />
      </div>
      {tables.isError && <Trouble error={tables.error} />}
    </>
  );
}
