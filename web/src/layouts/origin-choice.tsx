import { useRef, useState } from "react";
import { ebcdicPages } from "../formats/charsets";
import { Labelled, Select } from "../ui/basics";
import { FileBox } from "../ui/file-box";
import { FromFolder } from "./from-folder";
import { type Origin, recognise } from "./recognise";

export const origins: Record<Origin["from"], { label: string; what: string; hint: string }> = {
  sample: {
    label: "a sample, or several of the same kind",
    what: "sample",
    hint: "Choose files, drop them here, or paste some lines: delimited, fixed-length, JSON, XML or a workbook. A schema, an OpenAPI document or a copybook is known by its look.",
  },
  xsd: {
    label: "an XML schema (XSD)",
    what: "schema",
    hint: "With all the documents it imports or includes, and an XML file if only what that uses is wanted. Types, occurrence, enumerations and patterns become checks.",
  },
  schema: {
    label: "a JSON Schema, or OpenAPI",
    what: "JSON schema",
    hint: "Of an OpenAPI document (JSON or YAML) you choose the operation whose answer is to be read. Types, required values, enumerations, patterns and bounds become checks.",
  },
  copybook: {
    label: "a COBOL copybook",
    what: "copybook",
    hint: "PICTURE, USAGE, OCCURS and REDEFINES; condition names (level 88) become checks.",
  },
  header: {
    label: "a header row",
    what: "header row",
    hint: "Type or paste the names as they will stand in the file, apart by its delimiter.",
  },
};

/** Says what there is: which kind of thing, and where it is. */
export function OriginChoice({ origin, choose }: { origin: Origin; choose: (origin: Origin) => void }) {
  const [text, setText] = useState("");
  const latest = useRef<File[]>([]);
  const take = async (files: File[]) => {
    if (files.length === 0) return;
    latest.current = files;
    const from = origin.from === "sample" ? await recognise(files) : origin.from;
    if (latest.current === files) choose({ ...origin, from, files, text: undefined });
  };
  const pasted = (value: string) => {
    setText(value);
    latest.current = [];
    if (origin.from === "sample" && value) take([new File([value], "pasted.txt")]);
    else if (origin.from === "sample") choose({ ...origin, files: [] });
    else choose({ ...origin, text: value, files: [] });
  };
  return (
    <div
      role="group"
      aria-label="Takes what is dropped here"
      className="grid grid-cols-2 gap-x-4 gap-y-3"
      onDragOver={(e) => e.preventDefault()}
      onDrop={(e) => {
        e.preventDefault();
        take([...e.dataTransfer.files]);
      }}
    >
      <div className="flex flex-col gap-3">
        <Select
          label="Made from"
          value={origin.from}
          options={Object.entries(origins).map(([value, o]) => ({ value, label: o.label }))}
          onChange={(from) => {
            setText("");
            choose({ from: from as Origin["from"], files: [] });
          }}
        />
        <p className="text-xs text-faint">{origins[origin.from].hint}</p>
        {origin.from !== "header" && (
          <Labelled label={origin.from === "sample" ? "Files" : "File"}>
            {(control) => (
              <FileBox {...control} key={origin.from} multiple={origin.from !== "copybook"} onFiles={take} />
            )}
          </Labelled>
        )}
        {origin.from !== "header" && (
          <FromFolder onFile={(file) => take(origin.from === "xsd" ? [...origin.files, file] : [file])} />
        )}
        {origin.files.length > 0 && (
          <p className="data text-xs text-faint">{origin.files.map((f) => f.name).join(", ")}</p>
        )}
        {origin.from === "copybook" && (
          <Select
            label="The file is written in"
            value={origin.charset ?? "IBM037"}
            options={[...ebcdicPages, ...["ISO-8859-1", "windows-1252"].map((c) => ({ value: c, label: c }))]}
            onChange={(charset) => choose({ ...origin, charset })}
          />
        )}
      </div>
      <Labelled label={`Or paste it: ${origins[origin.from].what}`}>
        {(control) => (
          <textarea
            {...control}
            value={text}
            onChange={(e) => pasted(e.target.value)}
            rows={7}
            spellCheck={false}
            className="data w-full rounded border border-line bg-card px-2 py-1 text-sm whitespace-pre"
          />
        )}
      </Labelled>
    </div>
  );
}
