import type { FixedLength } from "../definitions";
import { Select, TextBox, Tick } from "../ui/basics";
import { ebcdicPages, unitsIn } from "./charsets";
import type { FormatView, FormProps, PlaceProps } from "./format-view";
import { blankRows, grid, NumberBox, textCharsets, whole } from "./parts";

export const fixedLength: FormatView<FixedLength> = {
  label: "fixed-length",
  words: (f) => {
    const records = f.blockSize ? `blocks of ${f.blockSize} bytes` : f.length ? `lines of ${f.length}` : "lines";
    return `fixed positions, ${records}, ${f.charset}`;
  },
  Form: FixedForm,
  placeTitle: () => "Positions",
  Place: FixedPlace,
  newPlace: (_, __, fields) => ({
    start: Math.max(1, ...fields.map((f) => (f.start ?? 1) + (f.length ?? 1))),
    length: 1,
  }),
  newRecognition: (value) => ({ by: "tag", start: 1, values: [value] }),
  toldBy: "start",
  takesSeveral: () => true,
  ruled: true,
  lineEnd: "LF",
  ending: ".dat",
};

function FixedPlace({ field, put }: PlaceProps<FixedLength>) {
  return (
    <>
      <NumberBox label="Starts at" value={field.start ?? 1} onChange={(start) => put({ ...field, start })} />
      <NumberBox label="Length" value={field.length ?? 1} onChange={(length) => put({ ...field, length })} />
    </>
  );
}

function FixedForm({ format: f, put }: FormProps<FixedLength>) {
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
