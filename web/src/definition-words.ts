/** What definitions say, in words. */

import type {
  Check,
  DataType,
  DocumentCheck,
  Field,
  FileCheck,
  NumberForm,
  Recognition,
  RecordType,
} from "./definitions";

/** Where a field stands, in words. */
export function placeWords(field: Field): string {
  if (field.path !== undefined) return field.path;
  if (field.json !== undefined) return field.json;
  if (field.letter !== undefined) return `column ${field.letter}`;
  if (field.sheet) return "the sheet's name";
  if (field.start !== undefined) return `${field.start}–${field.start + (field.length ?? 1) - 1}`;
  return field.header ?? String(field.column);
}

export function recognitionWords(type: RecordType): string {
  const w = type.when;
  if (!w) return "every record";
  if (w.by === "tag")
    return `${w.values.join(" or ")} ${w.column ? `in column ${w.column}` : `at position ${w.start}`}`;
  if (w.by === "path" || w.by === "json") return w.path;
  if (w.by === "rows") return rowsWords(w);
  return w.by === "first-line" ? "the first record" : "the last record";
}

function rowsWords(w: Extract<Recognition, { by: "rows" }>): string {
  const sheet =
    w.position !== undefined ? `sheet ${w.position}` : w.sheet === undefined ? "every sheet" : `sheet ${w.sheet}`;
  const cells = w.range === undefined ? sheet : `${w.range} of ${sheet}`;
  if (w.last) return `the last row of ${cells}`;
  return w.values ? `${w.values.join(" or ")} in column ${w.column} of ${cells}` : `each row of ${cells}`;
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

export function documentCheckWords(c: DocumentCheck): string {
  switch (c.rule) {
    case "sum-is-zero":
      return `the ${c.field} of all lines add up to 0`;
    case "sum-equals":
      return `the ${c.field} of all lines add up to ${c.total}`;
    case "count":
      return `there are ${c.min ?? 0} to ${c.max ?? "any number of"} ${c.of} records`;
    case "same":
      return `${c.field} is the same in all lines`;
    case "holds":
      return c.says ?? c.holds;
  }
}

/** How a number is written, where it is not plain digits. */
function formWords(form?: NumberForm): string {
  if (!form) return "";
  const unsigned = form.sign === "unsigned" ? ", no sign" : "";
  if (form.written === "packed" || form.written === "binary") return `, ${form.written}${unsigned}`;
  const sign = {
    trailing: ", sign behind",
    overpunched: ", overpunched",
    "overpunched-leading": ", overpunched first",
  };
  return `${sign[form.sign as keyof typeof sign] ?? unsigned}${form.implied ? ", no point" : ""}`;
}

export function typeWords(type: DataType): string {
  switch (type.is) {
    case "text":
      return `text, ${type.length} at most`;
    case "decimal":
      return `decimal(${type.precision},${type.scale})${type.decimalSign === "," ? ", comma" : ""}${formWords(type.form)}`;
    case "integer":
      return `integer${formWords(type.form)}`;
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
    case "present":
      return "must be there, with a value or without";
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
