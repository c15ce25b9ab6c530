import { Plus } from "lucide-react";
import { useState } from "react";
import { Link } from "react-router";
import { useTable, useTables } from "../connections/use-described";
import { byKey, modes, type TableTarget } from "../definitions";
import { Button, Labelled, ListBox, Select, TextBox } from "../ui/basics";
import type { useDelivery } from "./delivery-choice";
import { MakeTable } from "./make-table";
import type { SectionProps } from "./section-props";

type Props = Pick<SectionProps, "sheet" | "change"> & {
  to: TableTarget;
  use: ReturnType<typeof useDelivery>;
  put: (to: TableTarget) => void;
};

/** What a database does with rows: they go into a table of it, or each is given to a statement. */
export function TableDelivery(props: Props) {
  const { sheet, change, to, put } = props;
  const own = to.mode === "statement";
  return (
    <>
      <Select
        label="Each row"
        value={own ? "statement" : "table"}
        onChange={(way) =>
          put({ connection: to.connection, table: "", mode: way === "statement" ? "statement" : "add" })
        }
        options={[
          { value: "table", label: "goes into a table" },
          { value: "statement", label: "is given to a statement of your own" },
        ]}
      />
      {own ? <RowStatement to={to} put={put} /> : <IntoTable {...props} />}
      <Visible sheet={sheet} change={change} />
      {to.table && !own && (
        <Link
          to={`/connections?connection=${to.connection}&table=${to.table}`}
          className="self-start text-sm text-pine underline underline-offset-2"
        >
          See the table and its rows now
        </Link>
      )}
    </>
  );
}

/** The statement that each row is given to. */
function RowStatement({ to, put }: Pick<Props, "to" | "put">) {
  return (
    <>
      <TextBox label="Called" value={to.table} placeholder="statement" onChange={(table) => put({ ...to, table })} />
      <Labelled label="Statement" hint="each :name in it is a target field of the rules, or :today, :run, …">
        {(control) => (
          <textarea
            {...control}
            rows={4}
            spellCheck={false}
            placeholder="CALL take_result(:sample, :farm)"
            className="data w-full rounded border border-line bg-card px-2 py-1.5 text-sm"
            value={to.statement ?? ""}
            onChange={(e) => put({ ...to, statement: e.target.value || undefined, writtenBy: undefined })}
          />
        )}
      </Labelled>
      {to.writtenBy && <p className="text-xs text-faint">Written by {to.writtenBy}.</p>}
      <p className="text-xs text-faint">
        It runs once for each row, in the transaction of the rows; a row that it refuses is a reject. It must not commit
        by itself, and a rehearsal does not run it.
      </p>
    </>
  );
}

/** The table that rows go into, and what happens to those that are there. */
function IntoTable({ sheet, to, use, put }: Props) {
  const [making, setMaking] = useState(false);
  const tables = useTables(to.connection);
  const table = useTable(to);
  const keys = table.data?.uniqueKeys ?? [];
  const known = (tables.data ?? []).map((t) => ({
    value: t.name,
    label: t.view ? `${t.name} (a view)` : t.writable ? t.name : `${t.name} (no right to add)`,
  }));
  if (to.table && !known.some((t) => t.value === to.table)) known.unshift({ value: to.table, label: to.table });
  return (
    <>
      <Select
        label="Table"
        value={to.table}
        onChange={(name) => put({ ...to, table: name })}
        options={[{ value: "", label: "choose" }, ...known]}
      />
      <Button look="quiet" className="self-start px-2" onClick={() => setMaking(true)}>
        <Plus size={14} aria-hidden /> Make a table from the shaping …
      </Button>
      {making && (
        <MakeTable
          sheet={sheet}
          at={use.at}
          delivery={use.delivery}
          connection={to.connection}
          put={use.put}
          onClose={() => setMaking(false)}
        />
      )}
      <Select
        label="A row that is there already"
        value={to.mode}
        onChange={(v) => {
          const mode = v;
          put({ ...to, mode, key: byKey(mode) ? (to.key ?? keys[0] ?? []) : undefined });
        }}
        options={[...modes]}
      />
      {byKey(to.mode) && (
        <ListBox
          label="Key"
          values={to.key ?? []}
          onChange={(key) => put({ ...to, key })}
          hint={
            keys.length
              ? `unique in the table: ${keys.map((k) => k.join(", ")).join("; ")}`
              : "the table has no unique index"
          }
        />
      )}
    </>
  );
}

const commits = [
  { value: "parts", label: "in parts, as they are delivered" },
  { value: "whole", label: "when the file is complete, as one transaction" },
  { value: "staged", label: "when the file is complete, from staging tables" },
] as const;

const visible = {
  parts: "Parts of the file become visible as they are delivered; a run that breaks off goes on from there.",
  whole: "All of the file is one transaction; a run that breaks off begins anew.",
  staged:
    "Rows go to staging tables beside the real ones and are moved over in one transaction; a run that breaks off goes on. For files too large for one transaction.",
};

/** When what is delivered becomes visible in the target. */
function Visible({ sheet, change }: Pick<SectionProps, "sheet" | "change">) {
  const { job } = sheet;
  const replaces = job.deliveries?.some((d) => d.to?.kind === undefined && d.to?.mode === "replace") ?? false;
  const commit = job.commit ?? "parts";
  const shown = replaces && commit === "parts" ? "whole" : commit;
  return (
    <div>
      <Select
        label="Visible in the target"
        value={shown}
        onChange={(v) => change({ ...sheet, job: { ...job, commit: v === "parts" ? undefined : v } })}
        options={commits.filter((c) => !replaces || c.value !== "parts")}
      />
      <p className="mt-1 text-xs text-faint">
        {visible[shown]}
        {replaces && " A file without records replaces nothing."}
      </p>
    </div>
  );
}
