/** Jobs and layouts as the schemas in docs/schema describe them. */

export type Severity = "note" | "reject" | "halt";

export type DataType =
  | { is: "text"; length: number }
  | { is: "integer" }
  | { is: "decimal"; precision: number; scale: number; decimalSign?: string; groupingSign?: string }
  | { is: "boolean"; trueTokens?: string[]; falseTokens?: string[] }
  | { is: "date"; pattern: string }
  | { is: "time"; pattern: string }
  | { is: "timestamp"; pattern: string };

export type Check = { severity: Severity } & (
  | { rule: "required" }
  | { rule: "type" }
  | { rule: "length"; min?: number; max?: number }
  | { rule: "range"; min?: string; max?: string }
  | { rule: "pattern"; pattern: string }
  | { rule: "one-of"; values: string[] }
  | { rule: "unique"; with?: string[] }
);

export type Field = { name: string; header?: string; column?: number; type: DataType; checks?: Check[] };

export type Layout = {
  name: string;
  title?: string;
  format: {
    kind: "delimited";
    charset: string;
    delimiter: string;
    quote?: string;
    header: boolean;
    skipLines: number;
    blankRows: "skip" | "note" | "reject";
  };
  recordTypes: { name: string; fields: Field[] }[];
};

export type Origin =
  | { from: "field"; field: string }
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

export type Job = {
  name: string;
  title: string;
  description?: string;
  pickUp?: PickUp;
  layout: string;
  checks?: { field: string; checks: Check[] }[];
  asked?: { name: string; prompt?: string; value?: string }[];
  shaping?: Rule[];
  delivery?: { connection: string; table: string; mode: "add" | "add-or-change"; key?: string[] };
  limits?: { rejects?: number; percent?: number };
  afterCrash?: "restart" | "offer";
};

export type Sheet = { job: Job; layout: Layout };

export function fieldsOf(layout: Layout): Field[] {
  return layout.recordTypes[0]?.fields ?? [];
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
