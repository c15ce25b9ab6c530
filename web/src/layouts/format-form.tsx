import type { BlankRows, Delimited, FixedLength, Format, Xml } from "../definitions";
import { Labelled, Select, TextBox, Tick } from "../ui/basics";
import { FileBox } from "../ui/file-box";
import { RemoveButton } from "../ui/remove-button";
import { ebcdicPages, unitsIn } from "./charsets";

const delimiterNames: Record<string, string> = { ";": "semicolon", ",": "comma", "\t": "tab", "|": "bar" };
const grid = "grid grid-cols-[repeat(auto-fill,minmax(136px,1fr))] gap-3";
const blankRows = [
  { value: "skip", label: "pass over, count" },
  { value: "note", label: "pass over, note" },
  { value: "reject", label: "reject" },
] as const satisfies { value: BlankRows; label: string }[];
const textCharsets = (["UTF-8", "ISO-8859-1", "windows-1252"] as const).map((c) => ({ value: c, label: c }));
const utf16 = { value: "UTF-16", label: "UTF-16" } as const;
const whole = (v: string, least: number) => Math.max(least, Number.parseInt(v, 10) || least);

type Props<F extends Format> = { format: F; put: (format: F) => void };

/** How the file is written. */
export function FormatForm(props: { format: Format; put: (format: Format) => void; byHeader: (on: boolean) => void }) {
  const { format, put, byHeader } = props;
  if (format.kind === "delimited") return <DelimitedForm format={format} put={put} byHeader={byHeader} />;
  return format.kind === "fixed-length" ? (
    <FixedForm format={format} put={put} />
  ) : (
    <XmlForm format={format} put={put} />
  );
}

function DelimitedForm({ format: f, put, byHeader }: Props<Delimited> & { byHeader: (on: boolean) => void }) {
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
          {Object.entries(delimiterNames).map(([d, name]) => (
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
        <Tick label="Has a header row" checked={f.header ?? false} onChange={byHeader} />
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

function FixedForm({ format: f, put }: Props<FixedLength>) {
  return (
    <div className={grid}>
      <Select
        label="Records are"
        value={f.blockSize ? "blocks" : "lines"}
        onChange={(v) => put({ ...f, blockSize: v === "blocks" ? (f.length ?? 80) : undefined })}
        options={[
          { value: "lines", label: "lines" },
          { value: "blocks", label: "blocks without line ends" },
        ]}
      />
      {f.blockSize ? (
        <TextBox
          label="Bytes of a block"
          value={f.blockSize}
          onChange={(v) => put({ ...f, blockSize: whole(v, 1) })}
          inputMode="numeric"
          data
        />
      ) : (
        <TextBox
          label="Length of a record"
          value={f.length ?? ""}
          placeholder="end of its last field"
          onChange={(v) => put({ ...f, length: v ? whole(v, 1) : undefined })}
          inputMode="numeric"
          data
        />
      )}
      <Select
        label="Charset"
        value={f.charset}
        onChange={(charset) => put({ ...f, charset, units: unitsIn(charset) ?? f.units })}
        options={[...textCharsets, ...ebcdicPages]}
      />
      <Select
        label="Positions count"
        value={f.units ?? "characters"}
        onChange={(units) => put({ ...f, units: units })}
        options={[
          { value: "characters", label: "characters" },
          { value: "bytes", label: "bytes" },
        ]}
      />
      <Select
        label="Blank records"
        value={f.blankRows ?? "skip"}
        onChange={(b) => put({ ...f, blankRows: b })}
        options={blankRows}
      />
      <TextBox
        label="Records skipped"
        value={f.skipLines ?? 0}
        onChange={(v) => put({ ...f, skipLines: whole(v, 0) })}
        inputMode="numeric"
        data
      />
      <Tick
        label="May end early"
        checked={f.shortRecords ?? false}
        onChange={(shortRecords) => put({ ...f, shortRecords })}
      />
    </div>
  );
}

function XmlForm({ format: f, put }: Props<Xml>) {
  const text = Object.entries(f.namespaces ?? {})
    .map(([prefix, uri]) => `${prefix}=${uri}`)
    .join(" ");
  const add = async (files: File[]) => {
    const added = await Promise.all(files.map(async (file) => ({ name: file.name, text: await file.text() })));
    const names = new Set(added.map((d) => d.name));
    put({ ...f, schema: [...(f.schema ?? []).filter((d) => !names.has(d.name)), ...added] });
  };
  return (
    <div className="flex flex-col gap-3">
      <TextBox
        key={text}
        label="Namespaces"
        defaultValue={text}
        hint="prefix=namespace, apart by blanks; paths use the prefixes"
        data
        onChange={() => undefined}
        onBlur={(e) => {
          const pairs = e.target.value
            .split(/\s+/)
            .map((p) => [p.slice(0, p.indexOf("=")), p.slice(p.indexOf("=") + 1)])
            .filter(([prefix, uri]) => prefix && uri);
          put({ ...f, namespaces: Object.fromEntries(pairs) });
        }}
      />
      <Labelled
        label="Validated against the XML schema"
        hint="All documents that belong together; a breach refuses its record."
      >
        {(control) => <FileBox {...control} multiple accept=".xsd" onFiles={add} />}
      </Labelled>
      <ul>
        {(f.schema ?? []).map((d) => (
          <li key={d.name} className="data flex items-center gap-2 text-sm">
            {d.name}
            <RemoveButton
              label={`Remove ${d.name}`}
              remove={() => put({ ...f, schema: f.schema?.filter((x) => x.name !== d.name) })}
            />
          </li>
        ))}
      </ul>
    </div>
  );
}
