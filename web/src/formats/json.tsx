import type { Json } from "../definitions";
import { Select, TextBox, Tick } from "../ui/basics";
import type { FormatView, FormProps, PlaceProps } from "./format-view";
import { jsonParts } from "./json-parts";
import { blankRows, grid } from "./parts";

export const json: FormatView<Json> = {
  label: "JSON",
  words: (f) => (f.lines ? "JSON Lines, a value a line" : "JSON"),
  Form: JsonForm,
  placeTitle: () => "At path",
  Place: JsonPlace,
  newPlace: () => ({ json: "name" }),
  newRecognition: (value) => ({ by: "json", path: `$.${value.toLowerCase()}[*]` }),
  toldBy: "json",
  takesSeveral: () => true,
  longPlaces: true,
  nests: true,
  tellsEach: true,
  schema: { word: "Download as JSON Schema", path: "json-schema", ending: ".schema.json" },
  parts: (f, text) => (f.lines ? [{ from: 0, to: text.length, depth: 0 }] : jsonParts(text)),
  lineEnd: "LF",
  indents: true,
  ending: ".json",
};

function JsonForm({ format: f, put }: FormProps<Json>) {
  return (
    <div className="flex flex-col gap-3">
      <div className={grid}>
        <Select
          label="A value for each"
          value={f.lines ? "line" : "file"}
          onChange={(v) => put({ ...f, lines: v === "line" })}
          options={[
            { value: "file", label: "file" },
            { value: "line", label: "line (JSON Lines)" },
          ]}
        />
        {f.lines && (
          <Select
            label="Blank lines"
            value={f.blankRows ?? "skip"}
            onChange={(b) => put({ ...f, blankRows: b })}
            options={blankRows}
          />
        )}
      </div>
      <Tick
        label="A comma may stand before a closing bracket"
        checked={f.trailingCommas ?? false}
        onChange={(trailingCommas) => put({ ...f, trailingCommas })}
      />
      <Tick
        label="Members without a value are left out where files are written"
        checked={f.withoutNulls ?? false}
        onChange={(withoutNulls) => put({ ...f, withoutNulls })}
      />
    </div>
  );
}

function JsonPlace({ field, put }: PlaceProps<Json>) {
  return (
    <TextBox
      label="Path in its record"
      className="col-span-2"
      value={field.json ?? ""}
      onChange={(path) => put({ ...field, json: path })}
      hint="name, place.town, tags[0], ['odd name'], @ for the record itself"
      data
    />
  );
}
