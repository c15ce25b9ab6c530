/** What is read from definitions, which are typed as docs/schema describes them. */
import type {
  DataType,
  Delivery,
  Documents,
  Field,
  Job,
  Layout,
  Mode,
  Origin,
  RunFact,
  Target,
} from "./api/definitions";

export type * from "./api/definitions";

export const facts = [
  { value: "today", label: "the day of the run" },
  { value: "started-at", label: "the time at which the run started" },
  { value: "run-number", label: "the number of the run" },
  { value: "file-name", label: "the name of the file" },
  { value: "line-number", label: "the line in the file" },
  { value: "environment", label: "the environment" },
] as const satisfies { value: RunFact; label: string }[];

export const modes = [
  { value: "add", label: "is refused (add)" },
  { value: "add-or-change", label: "is changed; others are added (add or change)" },
  { value: "change", label: "is changed; others are refused (change only)" },
  { value: "add-missing", label: "stays as it is; others are added (add missing)" },
  { value: "remove", label: "is removed; others do nothing (remove)" },
  { value: "replace", label: "gives way, with all others of the table (replace)" },
] as const satisfies { value: Mode; label: string }[];

/** What a target is called beside others. */
export function targetLabel(to?: Target): string {
  if (!to) return "";
  if (to.kind === "file") return [to.file.name || "a file", to.record].filter(Boolean).join(" ");
  return to.kind === "application"
    ? [to.method ?? "POST", to.path, to.part].filter(Boolean).join(" ")
    : to.table || (to.mode === "statement" ? "statement" : "");
}

/** What tells the place of a target from others; empty while it is not decided. */
export function targetPlace(to?: Target): string {
  if (!to) return "";
  if (to.kind === "file") return to.file.name && `file ${to.file.root}/${to.file.folder ?? ""}/${to.file.name}`;
  if (to.kind === "application") return to.path && `${to.connection} ${to.method ?? "POST"} ${to.path}`;
  return (to.mode === "statement" ? to.statement : to.table) ? to.connection : "";
}

/** Whether rows are known by a key. */
export function byKey(mode: Mode = "add"): boolean {
  return mode !== "add" && mode !== "replace";
}

/** The type of a field's values; a field that names none is text. */
export function dataType(field: Field): DataType {
  return field.type ?? { is: "text", length: 255 };
}

export type Sheet = { job: Job; layout: Layout };

export function fieldsOf(layout: Layout, type = 0): Field[] {
  return layout.recordTypes[type]?.fields ?? [];
}

/** What a job says of its documents, or nothing where there is nothing in it. */
export function orNothing(documents: Documents): Documents | undefined {
  return Object.values(documents).some((v) => v !== undefined) ? documents : undefined;
}

/** The layout of the documents: that of the file, or heads and lines where the job gathers records by a key. */
export function shapedLayout({ layout, job }: Sheet): Layout {
  const gather = job.documents?.gather;
  const type = layout.recordTypes[0];
  if (!gather || layout.recordTypes.length !== 1) return layout;
  const head = new Set([...gather.by, ...(gather.head ?? [])]);
  const document = gather.document ?? "document";
  return {
    ...layout,
    recordTypes: [
      { name: document, fields: type.fields.filter((f) => head.has(f.name)) },
      { name: type.name, parent: document, fields: type.fields.filter((f) => !head.has(f.name)) },
    ],
  };
}

/** The record type that documents hang on: the first that others belong to and that belongs to none. */
export function headType(shaped: Layout): number {
  const at = shaped.recordTypes.findIndex((t) => !t.parent && shaped.recordTypes.some((c) => c.parent === t.name));
  return Math.max(0, at);
}

/** Where a field that a rule names stands in the file. */
export function placeInFile(sheet: Sheet, type: number, name: string): { type: number; field: number } {
  const shaped = shapedLayout(sheet);
  const at = placeOf(shaped, type, name);
  if (shaped === sheet.layout || at.field < 0) return at;
  const field = fieldsOf(shaped, at.type)[at.field].name;
  return { type: 0, field: fieldsOf(sheet.layout, 0).findIndex((f) => f.name === field) };
}

/** The fields that an origin names; of a formula only the server knows. */
export function fieldsOfOrigin(take: Origin): string[] {
  if (take.from === "joined") return take.fields;
  if (take.from === "code") return take.on ? [take.field, take.on] : [take.field];
  return "field" in take ? [take.field] : [];
}

/** A name as a formula writes it. */
export function inFormula(name: string): string {
  return /^[A-Za-z_]\w*$/.test(name) ? name : `"${name.replaceAll('"', '""')}"`;
}

/** The layout with other fields in one of its record types. */
export function withFields(layout: Layout, type: number, fields: Field[]): Layout {
  return { ...layout, recordTypes: layout.recordTypes.map((t, i) => (i === type ? { ...t, fields } : t)) };
}

/** The record type that gives a delivery's rows. */
export function typeOf(layout: Layout, delivery: Delivery | undefined): number {
  if (!delivery?.of) return 0;
  return layout.recordTypes.findIndex((t) => t.name === delivery.of);
}

/** Where a field stands that a rule of a record type names: its own by the plain name, others as type.field. */
export function placeOf(layout: Layout, type: number, name: string): { type: number; field: number } {
  const point = name.indexOf(".");
  const at = point < 0 ? type : layout.recordTypes.findIndex((t) => t.name === name.slice(0, point));
  return { type: at, field: fieldsOf(layout, at).findIndex((f) => f.name === name.slice(point + 1)) };
}

/** The names by which the rules of a record type may take fields, its own first, then those it hangs below. */
export function fieldNames(layout: Layout, type: number): string[] {
  const others = layout.recordTypes.flatMap((t, i) =>
    i === type || t.parent === layout.recordTypes[type]?.name ? [] : t.fields.map((f) => `${t.name}.${f.name}`),
  );
  return [...fieldsOf(layout, type).map((f) => f.name), ...others];
}
