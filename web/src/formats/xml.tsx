import type { Xml } from "../definitions";
import { Labelled, TextBox } from "../ui/basics";
import { FileBox } from "../ui/file-box";
import { RemoveButton } from "../ui/remove-button";
import { few } from "../ui/words";
import type { FormatView, FormProps, PlaceProps } from "./format-view";

export const xml: FormatView<Xml> = {
  label: "XML",
  words: (f) => (f.schema?.length ? `XML, validated against ${few(f.schema.map((d) => d.name))}` : "XML"),
  Form: XmlForm,
  placeTitle: () => "At path",
  Place: XmlPlace,
  newPlace: () => ({ path: "name" }),
  newRecognition: (value) => ({ by: "path", path: `/root/${value}` }),
  toldBy: "path",
  takesSeveral: () => true,
  longPlaces: true,
  nests: true,
  tellsEach: true,
  schema: { word: "Download as XML schema (XSD)", path: "xsd" },
  indents: true,
  ending: ".xml",
};

function XmlPlace({ field, put }: PlaceProps<Xml>) {
  return (
    <TextBox
      label="Path below its record"
      className="col-span-2"
      value={field.path ?? ""}
      onChange={(path) => put({ ...field, path })}
      hint="name, place/@valley, herd[2]/cows, text()"
      data
    />
  );
}

function XmlForm({ format: f, put }: FormProps<Xml>) {
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
