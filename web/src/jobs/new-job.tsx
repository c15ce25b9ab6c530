import { useMutation } from "@tanstack/react-query";
import { useState } from "react";
import { api, ask, sendFile } from "../api/client";
import type { Job, Layout } from "../definitions";
import { Button, Labelled, Select, TextBox, Trouble } from "../ui/basics";
import { Dialog } from "../ui/dialog";
import { decodeStart, fieldsFromHeader, guessDelimiter } from "./sample-start";

const delimiters = [
  { value: ";", label: "semicolon ;" },
  { value: ",", label: "comma ," },
  { value: "\t", label: "tab" },
  { value: "|", label: "bar |" },
];

/** Makes a job from a title and a sample: the header row of the sample becomes the first layout. */
export function NewJob(props: { open: boolean; onClose: () => void; onMade: (name: string) => void }) {
  const [title, setTitle] = useState("");
  const [file, setFile] = useState<File>();
  const [charset, setCharset] = useState("UTF-8");
  const [delimiter, setDelimiter] = useState(";");
  const [head, setHead] = useState<Uint8Array>();
  const name = title
    .toLowerCase()
    .normalize("NFKD")
    .replace(/[^a-z0-9]+/g, "-")
    .replace(/^-+|-+$/g, "")
    .slice(0, 60);
  const fields = head ? fieldsFromHeader(decodeStart(head, charset), delimiter) : [];

  const choose = async (chosen: File | undefined) => {
    setFile(chosen);
    if (!chosen) return;
    const bytes = new Uint8Array(await chosen.slice(0, 65536).arrayBuffer());
    setHead(bytes);
    setDelimiter(guessDelimiter(decodeStart(bytes, "windows-1252")));
    try {
      new TextDecoder("utf-8", { fatal: true }).decode(bytes.slice(0, Math.max(0, bytes.length - 4)));
      setCharset("UTF-8");
    } catch {
      setCharset("windows-1252");
    }
    if (!title)
      setTitle(
        chosen.name
          .replace(/\.[^.]*$/, "")
          .replace(/[_\d-]+$/g, "")
          .replaceAll("_", " "),
      );
  };

  const make = useMutation({
    mutationFn: async () => {
      const layout: Layout = {
        name,
        title,
        format: { kind: "delimited", charset, delimiter, quote: '"', header: true, skipLines: 0, blankRows: "skip" },
        recordTypes: [{ name: "record", fields }],
      };
      const job: Job = { name, title, layout: name, shaping: [], afterCrash: "restart" };
      await ask(api.POST("/api/jobs", { body: { job, layout, revision: 0 } }));
      if (file) await sendFile("PUT", `/api/jobs/${name}/sample`, file);
      return name;
    },
    onSuccess: props.onMade,
  });

  return (
    <Dialog
      open={props.open}
      onClose={props.onClose}
      title="New job"
      actions={
        <>
          <Button onClick={props.onClose}>Cancel</Button>
          <Button look="main" disabled={!name || fields.length === 0 || make.isPending} onClick={() => make.mutate()}>
            Make the job
          </Button>
        </>
      }
    >
      <div className="flex flex-col gap-3">
        <Labelled
          label="A sample: a file like the ones that will come"
          hint="Its header row names the fields of the layout."
        >
          {(id) => <input id={id} type="file" onChange={(e) => choose(e.target.files?.[0])} className="text-sm" />}
        </Labelled>
        <TextBox label="Title" value={title} onChange={setTitle} hint={name && `It will be known as ${name}.`} />
        <div className="grid grid-cols-2 gap-3">
          <Select label="Delimiter" value={delimiter} onChange={setDelimiter} options={delimiters} />
          <Select
            label="Charset"
            value={charset}
            onChange={setCharset}
            options={["UTF-8", "ISO-8859-1", "windows-1252"].map((c) => ({ value: c, label: c }))}
          />
        </div>
        {head && (
          <p className="text-sm text-faint">
            {fields.length} fields, all text for now:{" "}
            <span className="data text-ink">{fields.map((f) => f.name).join(" · ")}</span>
          </p>
        )}
        {make.isError && <Trouble error={make.error} />}
      </div>
    </Dialog>
  );
}
