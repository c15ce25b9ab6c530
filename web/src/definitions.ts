/** Jobs and layouts as the schemas in docs/schema describe them. */

export type Severity = "note" | "reject" | "halt";

/** How a number of a fixed-length file is written, where it is not plain digits. */
export type NumberForm = {
  written?: "digits" | "packed" | "binary";
  sign?: "leading" | "trailing" | "overpunched" | "overpunched-leading" | "unsigned";
  implied?: boolean;
};

export type DataType =
  | { is: "text"; length: number }
  | { is: "integer"; form?: NumberForm }
  | {
      is: "decimal";
      precision: number;
      scale: number;
      decimalSign?: string;
      groupingSign?: string;
      exponent?: boolean;
      form?: NumberForm;
    }
  | { is: "boolean"; trueTokens?: string[]; falseTokens?: string[] }
  | { is: "date"; pattern: string; pivot?: number }
  | { is: "time"; pattern: string }
  | { is: "timestamp"; pattern: string; pivot?: number };

export type Check = { severity: Severity } & (
  | { rule: "required" }
  | { rule: "type" }
  | { rule: "length"; min?: number; max?: number }
  | { rule: "range"; min?: string; max?: string }
  | { rule: "pattern"; pattern: string }
  | { rule: "one-of"; values: string[] }
  | { rule: "unique"; with?: string[] }
);

export type Field = {
  name: string;
  header?: string;
  column?: number;
  start?: number;
  length?: number;
  path?: string;
  type: DataType;
  checks?: Check[];
};

export type BlankRows = "skip" | "note" | "reject";

export type Delimited = {
  kind: "delimited";
  charset: string;
  delimiter: string;
  quote?: string;
  header: boolean;
  skipLines: number;
  blankRows: BlankRows;
  habits?: {
    comment?: string;
    headerAnyCase?: boolean;
    trailingDelimiter?: boolean;
    escape?: string;
    recordEnd?: string;
    footerLines?: number;
    nullText?: string;
  };
  tolerance?: {
    raggedRows?: boolean;
    strayQuotes?: boolean;
    missingColumns?: boolean;
    extraColumns?: "ignore" | "note" | "halt";
  };
};

export type FixedLength = {
  kind: "fixed-length";
  charset: string;
  blockSize?: number;
  units?: "characters" | "bytes";
  length?: number;
  shortRecords?: boolean;
  skipLines?: number;
  blankRows?: BlankRows;
};

export type Xml = { kind: "xml"; namespaces?: Record<string, string>; schema?: { name: string; text: string }[] };

export type Format = Delimited | FixedLength | Xml;

export type Recognition =
  | { by: "tag"; column?: number; start?: number; values: string[] }
  | { by: "first-line" }
  | { by: "last-line" }
  | { by: "path"; path: string };

export type RecordType = {
  name: string;
  when?: Recognition;
  parent?: string;
  min?: number;
  max?: number;
  fields: Field[];
};

export type FileCheck = { severity: Severity } & (
  | { rule: "count"; field: string; of: string }
  | { rule: "total"; field: string; of: string }
  | { rule: "sequence"; field: string }
  | { rule: "records"; of: string; min?: number; max?: number }
  | { rule: "same"; field: string; as: string }
  | { rule: "not-older"; field: string; days: number }
);

export type Layout = {
  name: string;
  title?: string;
  format: Format;
  recordTypes: RecordType[];
  fileChecks?: FileCheck[];
};

export const facts = [
  { value: "today", label: "the day of the run" },
  { value: "started-at", label: "the time at which the run started" },
  { value: "run-number", label: "the number of the run" },
  { value: "file-name", label: "the name of the file" },
  { value: "line-number", label: "the line in the file" },
  { value: "environment", label: "the environment" },
] as const;

export type Origin =
  | { from: "field"; field: string }
  | { from: "formula"; formula: string }
  | { from: "constant"; value: string }
  | { from: "code"; field: string; list: string; column?: string; on?: string }
  | { from: "joined"; fields: string[]; with?: string }
  | { from: "part"; field: string; at: string; number: number }
  | { from: "amount"; field: string; side?: "positive" | "negative" }
  | { from: "sequence"; sequence: string; start?: number }
  | { from: "key"; table: string }
  | { from: "run"; fact: (typeof facts)[number]["value"] }
  | { from: "asked"; name: string }
  | { from: "default" };

export type TouchKind =
  | "trim"
  | "trim-left"
  | "trim-right"
  | "leading-zeros"
  | "upper"
  | "lower"
  | "pad-left"
  | "pad-right"
  | "cut"
  | "round"
  | "number"
  | "date"
  | "encode"
  | "decode"
  | "hash";

export type Touch = { do: TouchKind; to?: number; with?: string };

export type Rule = { target: string; take: Origin; touches?: (Touch | TouchKind)[]; whenBlank?: string };

export type Gathering = {
  by: string[];
  document?: string;
  head?: string[];
  anywhere?: boolean;
  differing?: "note" | "reject";
};

export type SetAside = { of?: string; when: string; reason?: string };

export type Duplicates = { of?: string; key: string[]; keep?: "first" | "last" };

export type DocumentCheck = { severity?: "note" | "reject" } & (
  | { rule: "sum-is-zero"; field: string }
  | { rule: "sum-equals"; field: string; total: string }
  | { rule: "count"; of: string; min?: number; max?: number }
  | { rule: "same"; field: string }
  | { rule: "holds"; holds: string; says?: string }
);

export type Lane = { name: string; when?: string };

export type Lanes = { take?: "first" | "every"; lanes: Lane[] };

export type LookUpFrom =
  | { in: "table"; connection: string; table: string }
  | { in: "file"; root: string; folder?: string; pattern: string; layout: string; type?: string };

/** Fields added to the records of a type by a key, named as `name.field`. */
export type LookUp = {
  name: string;
  of?: string;
  from: LookUpFrom;
  key: { column: string; is: string }[];
  take?: string[];
  missing?: "reject" | "note" | "blank";
};

export type Documents = {
  gather?: Gathering;
  setAside?: SetAside[];
  duplicates?: Duplicates[];
  lookUps?: LookUp[];
  checks?: DocumentCheck[];
  lanes?: Lanes;
};

export type CodeEntry = { values: (string | null)[]; from?: string; to?: string };

export type CodeList = {
  name: string;
  title?: string;
  description?: string;
  columns: string[];
  entries?: CodeEntry[];
  query?: { connection: string; statement: string };
  missing?: { policy: "reject" | "pass" | "value"; value?: string };
};

/** Rows that a database is asked for. */
export type FromQuery = {
  kind: "query";
  connection: string;
  statement: string;
  key?: string;
  onlyNew?: boolean;
  lagSeconds?: number;
  writtenBy?: string;
};

/** Files of a folder. */
export type FromFolder = { kind: "folder"; root: string; folder?: string; pattern: string };

/** Where records come from, when the job looks for them, and when what it finds is taken. */
export type PickUp = {
  from: FromFolder | FromQuery;
  schedule?: { everySeconds?: number; cron?: string; expectedBy?: string };
  ready?: { unchangedSeconds: number };
  sameFileAgain?: boolean;
};

export const modes = [
  { value: "add", label: "is refused (add)" },
  { value: "add-or-change", label: "is changed; others are added (add or change)" },
  { value: "change", label: "is changed; others are refused (change only)" },
  { value: "add-missing", label: "stays as it is; others are added (add missing)" },
  { value: "remove", label: "is removed; others do nothing (remove)" },
  { value: "replace", label: "gives way, with all others of the table (replace)" },
] as const;

/** A table of a database. */
export type TableTarget = {
  kind?: undefined;
  connection: string;
  table: string;
  mode: (typeof modes)[number]["value"] | "statement";
  key?: string[];
  /** With the mode statement: what is run for each row. */
  statement?: string;
  writtenBy?: string;
};

/** An operation of an application; rows are its body, or stand in a list of it. */
export type ApplicationTarget = {
  kind: "application";
  connection: string;
  method?: string;
  path: string;
  part?: string;
  keep?: string[];
  batch?: number;
};

/** Files that records are written to; the layout stands here as it was when it was chosen. */
export type OutFile = {
  root: string;
  folder?: string;
  name: string;
  layout?: Layout;
  per?: "run" | "document" | "group" | "records";
  by?: string;
  records?: number;
  replace?: boolean;
  indented?: boolean;
  lineEnd?: "lf" | "crlf";
};

/** A record type of files. */
export type FileTarget = { kind: "file"; file: OutFile; record?: string; stands?: "each" | "first" | "last" };

export type Target = TableTarget | ApplicationTarget | FileTarget;

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
export function byKey(mode: TableTarget["mode"]): boolean {
  return mode !== "add" && mode !== "replace";
}

export type Total = { name: string; take: "count" | "sum" | "min" | "max" | "avg"; of?: string; distinct?: boolean };

/** Groups of records with totals, whose fields have the names given here. */
export type Summary = { by?: { name: string; is: string }[]; totals?: Total[] };

/** How many rejects and notes a run may have before it halts. */
export type Limits = { rejects?: number; percent?: number; percentFrom?: number; notes?: number };

export type Delivery = {
  of?: string;
  lane?: string;
  summary?: Summary;
  to?: Target;
  shaping?: Rule[];
  limits?: Limits;
};

/** A statement that a job runs in a database that it delivers to. */
export type OwnStatement = {
  connection: string;
  when: "before" | "after";
  alone?: boolean;
  sql: string;
  writtenBy?: string;
};

export type Job = {
  name: string;
  title: string;
  description?: string;
  pickUp?: PickUp;
  layout: string;
  checks?: { field: string; checks: Check[] }[];
  documents?: Documents;
  asked?: { name: string; prompt?: string; value?: string }[];
  deliveries?: Delivery[];
  limits?: Limits;
  commit?: "parts" | "whole" | "staged";
  statements?: OwnStatement[];
  together?: { sideBySide?: boolean; whenOneFails?: "stop" | "go-on" };
  afterCrash?: "restart" | "offer";
};

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
