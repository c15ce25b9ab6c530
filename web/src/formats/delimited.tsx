import type { Delimited, Field } from "../definitions";
import { Select, TextBox, Tick } from "../ui/basics";
import type { FormatView, FormProps, PlaceProps } from "./format-view";
import { blankRows, grid, NumberBox, textCharsets, whole } from "./parts";

export const delimited: FormatView<Delimited> = {
  label: "delimited",
  words: (f) =>
    `separated by ${several[f.delimiter] ?? f.delimiter}, ${f.charset}, ${f.header ? "a" : "no"} header row`,
  Form: DelimitedForm,
  placeTitle: (f) => (f.header ? "Under header" : "Column"),
  Place: DelimitedPlace,
  newPlace: (f, name, fields) => (f.header ? { header: name } : { column: fields.length + 1 }),
  newRecognition: (value) => ({ by: "tag", column: 1, values: [value] }),
  toldBy: "column",
  takesSeveral: (f) => !f.header,
  lineEnd: "CR LF",
  ending: ".csv",
};

const names: Record<string, string> = { ";": "semicolon", ",": "comma", "\t": "tab", "|": "bar" };
const several: Record<string, string> = { "\t": "tabs", ";": "semicolons", ",": "commas", "|": "bars" };
const utf16 = { value: "UTF-16", label: "UTF-16" } as const;

const underHeader = (field: Field): Field => ({ ...field, header: field.header ?? field.name, column: undefined });
const inColumn = (field: Field, i: number): Field => ({ ...field, header: undefined, column: field.column ?? i + 1 });

function DelimitedPlace({ field, format, put }: PlaceProps<Delimited>) {
  return format.header ? (
    <TextBox label="Under header" value={field.header ?? ""} onChange={(header) => put({ ...field, header })} data />
  ) : (
    <NumberBox label="Column" value={field.column ?? 1} onChange={(column) => put({ ...field, column })} />
  );
}

function DelimitedForm({ format: f, put }: FormProps<Delimited>) {
  const habit = (part: Delimited["habits"]) => put({ ...f, habits: { ...f.habits, ...part } });
  const tolerate = (part: Delimited["tolerance"]) => put({ ...f, tolerance: { ...f.tolerance, ...part } });
  return (
    <div className="flex flex-col gap-3">
      <div className={grid}>
        <TextBox
          label="Delimiter"
          list="delimiters"
          value={typed(f.delimiter)}
          onChange={(d) => d && put({ ...f, delimiter: meant(d) })}
          hint="one character or several"
          data
        />
        <datalist id="delimiters">
          {Object.entries(names).map(([d, name]) => (
            <option key={d} value={typed(d)} label={name} />
          ))}
        </datalist>
        <TextBox
          label="Quote"
          value={f.quote ?? ""}
          placeholder="none"
          maxLength={1}
          onChange={(q) => put({ ...f, quote: q || undefined })}
          data
        />
        <TextBox
          label="Escape character"
          value={f.habits?.escape ?? ""}
          placeholder="quotes are doubled"
          maxLength={1}
          onChange={(e) => habit({ escape: e || undefined })}
          data
        />
        <Select
          label="Charset"
          value={f.charset}
          onChange={(charset) => put({ ...f, charset })}
          options={[...textCharsets, utf16]}
        />
        <TextBox
          label="Records end with"
          value={typed(f.habits?.recordEnd)}
          placeholder="a line end"
          onChange={(end) => habit({ recordEnd: meant(end) || undefined })}
          hint="such as ~ or \x1e"
          data
        />
        <TextBox
          label="Written for NULL"
          value={f.habits?.nullText ?? ""}
          placeholder="nothing"
          onChange={(text) => habit({ nullText: text || undefined })}
          hint="such as \N, without quotes"
          data
        />
        <TextBox
          label="Lines skipped at the start"
          value={f.skipLines}
          onChange={(v) => put({ ...f, skipLines: whole(v, 0) })}
          inputMode="numeric"
          data
        />
        <TextBox
          label="Lines skipped at the end"
          value={f.habits?.footerLines ?? 0}
          onChange={(v) => habit({ footerLines: whole(v, 0) })}
          inputMode="numeric"
          data
        />
        <Select
          label="Blank rows"
          value={f.blankRows}
          onChange={(b) => put({ ...f, blankRows: b })}
          options={blankRows}
        />
        <TextBox
          label="Comment mark"
          value={f.habits?.comment ?? ""}
          placeholder="none"
          onChange={(comment) => habit({ comment: comment || undefined })}
          data
        />
        {f.header && (
          <Select
            label="Columns without a field"
            value={f.tolerance?.extraColumns ?? "ignore"}
            onChange={(v) => tolerate({ extraColumns: v })}
            options={[
              { value: "ignore", label: "pass over" },
              { value: "note", label: "pass over, note" },
              { value: "halt", label: "refuse the file" },
            ]}
          />
        )}
      </div>
      <div className="flex flex-wrap gap-x-4">
        <Tick
          label="Has a header row"
          checked={f.header ?? false}
          onChange={(header) => put({ ...f, header }, header ? underHeader : inColumn)}
        />
        {f.header && (
          <>
            <Tick
              label="Header: any case"
              checked={f.habits?.headerAnyCase ?? false}
              onChange={(headerAnyCase) => habit({ headerAnyCase })}
            />
            <Tick
              label="Columns may be missing unless required"
              checked={f.tolerance?.missingColumns ?? false}
              onChange={(missingColumns) => tolerate({ missingColumns })}
            />
          </>
        )}
        <Tick
          label="Delimiter at the end"
          checked={f.habits?.trailingDelimiter ?? false}
          onChange={(trailingDelimiter) => habit({ trailingDelimiter })}
        />
        <Tick
          label="Rows may be short or long"
          checked={f.tolerance?.raggedRows ?? false}
          onChange={(raggedRows) => tolerate({ raggedRows })}
        />
        <Tick
          label="Stray quotes are text"
          checked={f.tolerance?.strayQuotes ?? false}
          onChange={(strayQuotes) => tolerate({ strayQuotes })}
        />
      </div>
    </div>
  );
}

/** Control characters as one types them: \n, \r, \t, \xHH. */
function typed(text: string | undefined): string {
  return (text ?? "").replace(
    /[\u0000-\u001f]/g,
    (c) => ({ "\n": "\\n", "\r": "\\r", "\t": "\\t" })[c] ?? `\\x${c.charCodeAt(0).toString(16).padStart(2, "0")}`,
  );
}

function meant(text: string): string {
  return text
    .replace(/\\x([0-9a-fA-F]{2})/g, (_, hex) => String.fromCharCode(Number.parseInt(hex, 16)))
    .replace(/\\([nrt])/g, (_, c) => ({ n: "\n", r: "\r", t: "\t" })[c as "n"]);
}
