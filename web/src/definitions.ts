/** Jobs and layouts as the schemas in docs/schema describe them. */

export type Severity = "note" | "reject" | "halt";

/** How a number of a fixed-length file is written, where it is not plain digits. */
export type NumberForm = {
  written?: "digits" | "packed" | "binary";
  sign?: "leading" | "trailing" | "overpunched" | "overpunched-leading";
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

export type Origin =
  | { from: "field"; field: string }
  | { from: "formula"; formula: string }
  | { from: "constant"; value: string }
  | { from: "run"; fact: "today" | "run-number" | "file-name" | "line-number" }
  | { from: "asked"; name: string };

export type Rule = { target: string; take: Origin; touches?: ("trim" | "upper" | "lower")[]; whenBlank?: string };

export type PickUp = {
  root: string;
  folder?: string;
  pattern: string;
  everySeconds?: number;
  cron?: string;
  readySeconds: number;
  sameFileAgain: boolean;
  expectedBy?: string;
};

export type Target = { connection: string; table: string; mode: "add" | "add-or-change"; key?: string[] };

export type Delivery = { of?: string; to?: Target; shaping?: Rule[] };

export type Job = {
  name: string;
  title: string;
  description?: string;
  pickUp?: PickUp;
  layout: string;
  checks?: { field: string; checks: Check[] }[];
  asked?: { name: string; prompt?: string; value?: string }[];
  deliveries?: Delivery[];
  limits?: { rejects?: number; percent?: number };
  afterCrash?: "restart" | "offer";
};

export type Sheet = { job: Job; layout: Layout };

export function fieldsOf(layout: Layout, type = 0): Field[] {
  return layout.recordTypes[type]?.fields ?? [];
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

/** Where a field stands, in words. */
export function placeWords(field: Field): string {
  if (field.path !== undefined) return field.path;
  if (field.start !== undefined) return `${field.start}–${field.start + (field.length ?? 1) - 1}`;
  return field.header ?? String(field.column);
}

/** How a file is written, in words. */
export function formatWords(f: Format): string {
  if (f.kind === "xml")
    return f.schema?.length ? `XML, validated against ${f.schema.map((d) => d.name).join(", ")}` : "XML";
  if (f.kind === "fixed-length") {
    const records = f.blockSize ? `blocks of ${f.blockSize} bytes` : f.length ? `lines of ${f.length}` : "lines";
    return `fixed positions, ${records}, ${f.charset}`;
  }
  const names: Record<string, string> = { "\t": "tabs", ";": "semicolons", ",": "commas", "|": "bars" };
  return `separated by ${names[f.delimiter] ?? f.delimiter}, ${f.charset}, ${f.header ? "a" : "no"} header row`;
}

export function recognitionWords(type: RecordType): string {
  const w = type.when;
  if (!w) return "every record";
  if (w.by === "tag")
    return `${w.values.join(" or ")} ${w.column ? `in column ${w.column}` : `at position ${w.start}`}`;
  if (w.by === "path") return w.path;
  return w.by === "first-line" ? "the first record" : "the last record";
}

export function fileCheckWords(c: FileCheck): string {
  switch (c.rule) {
    case "count":
      return `${c.field} is the number of ${c.of} records`;
    case "total":
      return `${c.field} is the total of ${c.of}`;
    case "sequence":
      return `${c.field} goes up by one, without a gap`;
    case "records":
      return `there are ${c.min ?? 0} to ${c.max ?? "any number of"} ${c.of} records`;
    case "same":
      return `${c.field} is the same as ${c.as}`;
    case "not-older":
      return `${c.field} is at most ${c.days} days before the run`;
  }
}

export function typeWords(type: DataType): string {
  switch (type.is) {
    case "text":
      return `text, ${type.length} at most`;
    case "decimal":
      return `decimal(${type.precision},${type.scale})${type.decimalSign === "," ? ", comma" : ""}`;
    case "date":
    case "time":
    case "timestamp":
      return `${type.is} ${type.pattern}`;
    default:
      return type.is;
  }
}

export function checkWords(check: Check): string {
  switch (check.rule) {
    case "required":
      return "must have a value";
    case "type":
      return "must fit its type";
    case "length":
      return `has ${check.min ?? 0} to ${check.max ?? "any number of"} characters`;
    case "range":
      if (check.min == null || check.min === "") return `is at most ${check.max}`;
      return check.max == null || check.max === ""
        ? `is at least ${check.min}`
        : `is from ${check.min} to ${check.max}`;
    case "pattern":
      return `matches ${check.pattern}`;
    case "one-of":
      return `is one of ${check.values.join(", ")}`;
    case "unique":
      return check.with?.length ? `stands once, together with ${check.with.join(", ")}` : "stands once in the file";
  }
}
