import { useQuery } from "@tanstack/react-query";
import { Plus } from "lucide-react";
import { api, ask, type Schemas } from "../api/client";
import { useTable } from "../connections/use-described";
import { headType, inFormula, type Layout, type LookUp, type LookUpFrom } from "../definitions";
import { Button, Select, TextBox } from "../ui/basics";
import { RemoveButton } from "../ui/remove-button";
import { clock, plural } from "../ui/words";
import { FieldTicks } from "./field-ticks";
import { FormulaBox } from "./formula-box";
import { TableChoice } from "./table-choice";
import type { Rules } from "./use-rules";

type Props = {
  lookUp: LookUp;
  shaped: Layout;
  put: (lookUp: LookUp) => void;
  remove: () => void;
  rules: Rules;
  read?: Schemas["Read"];
};

/** A look-up: where it looks, by which key, what it adds, and what happens to a record whose key is not there. */
export function LookUpRow({ lookUp, shaped, put, remove, rules, read }: Props) {
  const types = shaped.recordTypes.map((t) => t.name);
  const head = types[headType(shaped)];
  const type = lookUp.of ?? head;
  const fields = shaped.recordTypes.find((t) => t.name === type)?.fields ?? [];
  const columns = useColumns(lookUp.from);
  const key = lookUp.key;
  const free = columns.filter((c) => !key.some((k) => k.column.toLowerCase() === c.toLowerCase()));
  const addKey = () => {
    const column = free.find((c) => fields.some((f) => f.name.toLowerCase() === c.toLowerCase())) ?? free[0] ?? "";
    const field = fields.find((f) => f.name.toLowerCase() === column.toLowerCase()) ?? fields[0];
    put({ ...lookUp, key: [...key, { column, is: inFormula(field.name) }] });
  };
  return (
    <section aria-label={`Look-up ${lookUp.name}`} className="flex flex-col gap-2.5 border-b border-line pb-4">
      <div className="flex items-end gap-2">
        <TextBox
          label="Named"
          className="w-36"
          value={lookUp.name}
          data
          onChange={(name) => /^[A-Za-z]\w*$/.test(name) && put({ ...lookUp, name })}
        />
        {types.length > 1 && (
          <Select
            label="For each"
            className="w-32"
            value={type}
            onChange={(of) => put({ ...lookUp, of })}
            options={types.map((t) => ({ value: t, label: t }))}
          />
        )}
        <Select
          label="Looks into"
          className="w-32"
          value={lookUp.from.in}
          onChange={(v) =>
            put({
              ...lookUp,
              key: [],
              take: undefined,
              from:
                v === "table"
                  ? { in: "table", connection: "", table: "" }
                  : { in: "file", root: "", folder: "", pattern: "*.csv", layout: "" },
            })
          }
          options={[
            { value: "table", label: "a table" },
            { value: "file", label: "a file" },
          ]}
        />
        <span className="ml-auto pb-1.5 text-right text-xs text-faint">
          {read && `${plural(read.keys, "key")}, read ${clock(read.at)}`}
        </span>
        <RemoveButton label={`Remove the look-up ${lookUp.name}`} remove={remove} className="mb-1.5" />
      </div>
      <Place
        from={lookUp.from}
        put={(from) => put({ ...lookUp, from, key: [], take: undefined })}
        set={(from) => put({ ...lookUp, from })}
      />
      {key.map((k, i) => {
        const said = rules.condition({ of: type, formula: k.is, any: true });
        const set = (part: Partial<typeof k>) =>
          put({ ...lookUp, key: key.map((x, n) => (n === i ? { ...x, ...part } : x)) });
        return (
          <div key={`k${i}`} className="grid grid-cols-[minmax(110px,34%)_minmax(0,1fr)_auto] items-start gap-2">
            <Select
              label={i === 0 ? "Where the column" : "and the column"}
              value={k.column}
              onChange={(column) => set({ column })}
              options={[...new Set([k.column, ...free])].map((c) => ({ value: c, label: c }))}
            />
            <div>
              <p className="mb-0.5 text-xs text-faint">is</p>
              <FormulaBox
                label={`What ${k.column} is`}
                formula={k.is}
                change={(is) => set({ is: is || "NULL" })}
                said={said?.said}
                names={said?.names ?? []}
                record={rules.record}
              />
            </div>
            <RemoveButton
              label={`Compare ${k.column} no more`}
              remove={() => put({ ...lookUp, key: key.filter((_, n) => n !== i) })}
              className="mt-6"
            />
          </div>
        );
      })}
      {columns.length > 0 && (
        <Button look="quiet" className="self-start px-2" onClick={addKey} disabled={free.length === 0}>
          <Plus size={14} aria-hidden /> {key.length ? "Another part of the key" : "Say by which key"}
        </Button>
      )}
      {columns.length > 0 && (
        <FieldTicks
          label={lookUp.take?.length ? "Takes" : "Takes all; choose some to take only those"}
          fields={columns.filter((c) => !key.some((k) => k.column === c))}
          chosen={lookUp.take ?? []}
          put={(take) => put({ ...lookUp, take: take.length ? take : undefined })}
        />
      )}
      <Select
        label="A key that is not there"
        value={lookUp.missing ?? "reject"}
        onChange={(v) => put({ ...lookUp, missing: v })}
        options={[
          { value: "reject", label: "rejects the record" },
          { value: "note", label: "leaves the fields NULL, with a note" },
          { value: "blank", label: "leaves the fields NULL" },
        ]}
      />
    </section>
  );
}

type PlaceProps = {
  from: LookUpFrom;
  /** Puts another place, with other columns. */
  put: (from: LookUpFrom) => void;
  /** Changes the place, whose columns stay. */
  set: (from: LookUpFrom) => void;
};

function Place({ from, put, set }: PlaceProps) {
  const roots = useQuery({ queryKey: ["roots"], queryFn: () => ask(api.GET("/api/v1/roots")) });
  const layouts = useQuery({ queryKey: ["layouts"], queryFn: () => ask(api.GET("/api/v1/layouts")) });
  const layout = layouts.data?.find((l) => from.in === "file" && l.name === from.layout);
  const recordTypes = layout?.recordTypes ?? [];
  if (from.in === "table") {
    return (
      <TableChoice
        connection={from.connection}
        table={from.table}
        put={(connection, table) => put({ in: "table", connection, table })}
      />
    );
  }
  return (
    <>
      <div className="grid grid-cols-3 gap-2">
        <Select
          label="Root"
          value={from.root}
          onChange={(root) => set({ ...from, root })}
          options={[...new Set([from.root, ...(roots.data ?? [])])].map((r) => ({ value: r, label: r || "choose" }))}
        />
        <TextBox
          label="Folder below it"
          value={from.folder ?? ""}
          onChange={(folder) => set({ ...from, folder })}
          data
        />
        <TextBox
          label="The newest file named"
          value={from.pattern}
          onChange={(pattern) => pattern && set({ ...from, pattern })}
          data
        />
      </div>
      <div className="grid grid-cols-2 gap-2">
        <Select
          label="Its layout"
          value={from.layout}
          onChange={(l) => put({ ...from, layout: l, type: undefined })}
          options={[
            { value: "", label: "choose" },
            ...(layouts.data ?? []).map((l) => ({ value: l.name, label: l.name })),
          ]}
        />
        {recordTypes.length > 1 && (
          <Select
            label="Records of"
            value={from.type ?? recordTypes[0]}
            onChange={(t) => put({ ...from, type: t })}
            options={recordTypes.map((t) => ({ value: t, label: t }))}
          />
        )}
      </div>
    </>
  );
}

/** The columns of what a look-up looks into. */
function useColumns(from: LookUpFrom): string[] {
  const table = useTable(from.in === "table" ? from : undefined);
  const layout = useQuery({
    queryKey: ["layout", from.in === "file" ? from.layout : ""],
    enabled: from.in === "file" && !!from.layout,
    retry: false,
    queryFn: () =>
      ask(api.GET("/api/v1/layouts/{layout}", { params: { path: { layout: from.in === "file" ? from.layout : "" } } })),
  });
  if (from.in === "table") return table.data?.columns.map((c) => c.name) ?? [];
  const types = layout.data?.layout?.recordTypes ?? [];
  const type = types.find((t) => t.name === from.type) ?? types[0];
  return type?.fields.map((f) => f.name) ?? [];
}
