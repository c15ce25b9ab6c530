import type { BlankRows, Delimited, FixedLength, Format, Xml } from "../definitions";
import { Select, TextBox, Tick } from "../ui/basics";

const delimiterNames: Record<string, string> = { ";": "semicolon ;", ",": "comma ,", "\t": "tab", "|": "bar |" };
const blankRows = [
  { value: "skip", label: "pass over, count" },
  { value: "note", label: "pass over, note" },
  { value: "reject", label: "reject" },
];
const charsets = (more: string[]) =>
  ["UTF-8", "ISO-8859-1", "windows-1252", ...more].map((c) => ({ value: c, label: c }));
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
  return (
    <div className="grid grid-cols-[repeat(auto-fit,minmax(136px,1fr))] gap-3">
      <Select
        label="Delimiter"
        value={f.delimiter}
        onChange={(delimiter) => put({ ...f, delimiter })}
        options={[...new Set([f.delimiter, ";", ",", "\t", "|"])].map((d) => ({
          value: d,
          label: delimiterNames[d] ?? d,
        }))}
      />
      <Select
        label="Quote"
        value={f.quote ?? ""}
        onChange={(q) => put({ ...f, quote: q || undefined })}
        options={[
          { value: '"', label: 'double "' },
          { value: "'", label: "single '" },
          { value: "", label: "none" },
        ]}
      />
      <Select label="Charset" value={f.charset} onChange={(charset) => put({ ...f, charset })} options={charsets([])} />
      <TextBox
        label="Lines skipped at the start"
        value={f.skipLines}
        onChange={(v) => put({ ...f, skipLines: whole(v, 0) })}
        inputMode="numeric"
        data
      />
      <Select
        label="Blank rows"
        value={f.blankRows}
        onChange={(b) => put({ ...f, blankRows: b as BlankRows })}
        options={blankRows}
      />
      <div className="self-end">
        <Tick label="Has a header row" checked={f.header} onChange={byHeader} />
      </div>
      <TextBox
        label="Comment mark"
        value={f.habits?.comment ?? ""}
        placeholder="none"
        onChange={(comment) => put({ ...f, habits: { ...f.habits, comment: comment || undefined } })}
        data
      />
      <div className="self-end">
        <Tick
          label="Delimiter at the end"
          checked={f.habits?.trailingDelimiter ?? false}
          onChange={(trailingDelimiter) => put({ ...f, habits: { ...f.habits, trailingDelimiter } })}
        />
      </div>
      {f.header && (
        <div className="self-end">
          <Tick
            label="Header: any case"
            checked={f.habits?.headerAnyCase ?? false}
            onChange={(headerAnyCase) => put({ ...f, habits: { ...f.habits, headerAnyCase } })}
          />
        </div>
      )}
    </div>
  );
}

function FixedForm({ format: f, put }: Props<FixedLength>) {
  return (
    <div className="grid grid-cols-[repeat(auto-fit,minmax(136px,1fr))] gap-3">
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
        onChange={(charset) => put({ ...f, charset })}
        options={charsets(["IBM037", "IBM500", "IBM1047"])}
      />
      <Select
        label="Positions count"
        value={f.units ?? "characters"}
        onChange={(units) => put({ ...f, units: units as "characters" | "bytes" })}
        options={[
          { value: "characters", label: "characters" },
          { value: "bytes", label: "bytes" },
        ]}
      />
      <Select
        label="Blank records"
        value={f.blankRows ?? "skip"}
        onChange={(b) => put({ ...f, blankRows: b as BlankRows })}
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
  return (
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
  );
}
