import type { Schemas } from "../api/client";
import type { Documents, Gathering, Sheet } from "../definitions";
import { Button, Select, TextBox, Tick } from "../ui/basics";
import { Fold } from "../ui/fold";
import { count, plural } from "../ui/words";
import { FieldTicks } from "./field-ticks";

type Props = { sheet: Sheet; put: (documents: Documents) => void; summary?: Schemas["Summary"] };

function sentence(sheet: Sheet, summary?: Schemas["Summary"]): string {
  const gather = sheet.job.documents?.gather;
  const form = summary ? `: ${plural(summary.read, "record")} form ${count(summary.documents)}.` : ".";
  if (gather) return `Records with one ${gather.by.join(", ")} are one ${gather.document ?? "document"}${form}`;
  return sheet.layout.recordTypes.some((t) => t.parent)
    ? `As the layout nests its records${form}`
    : "Each record stands for itself.";
}

/** How records become documents: each for itself, or gathered by a key into heads and lines. */
export function DocumentsForm({ sheet, put, summary }: Props) {
  const documents = sheet.job.documents ?? {};
  const gather = documents.gather;
  const one = sheet.layout.recordTypes.length === 1;
  const fields = sheet.layout.recordTypes[0].fields.map((f) => f.name);
  const set = (g: Gathering | undefined) => put({ ...documents, gather: g });
  return (
    <Fold title="Documents" sentence={sentence(sheet, summary)}>
      {!one && (
        <p className="text-sm text-faint">The layout has several record types; they make documents by themselves.</p>
      )}
      {one && !gather && (
        <div className="flex items-center gap-3">
          <p className="flex-1 text-sm text-faint">
            Gather records that follow each other with one key into a document of a head and lines, which is delivered
            whole or set aside whole.
          </p>
          <Button onClick={() => set({ by: [fields[0]], document: "document", head: [fields[0]] })}>
            Gather records
          </Button>
        </div>
      )}
      {one && gather && (
        <div className="flex flex-col gap-3">
          <FieldTicks
            label="One document has one"
            fields={fields}
            chosen={gather.by}
            put={(by) => by.length && set({ ...gather, by, head: [...new Set([...by, ...(gather.head ?? [])])] })}
          />
          <FieldTicks
            label="Of the head, the same in all its records"
            fields={fields}
            chosen={gather.head ?? []}
            fixed={gather.by}
            put={(head) => set({ ...gather, head })}
          />
          <div className="grid grid-cols-2 gap-2">
            <TextBox
              label="A document is called"
              value={gather.document ?? "document"}
              onChange={(document) => set({ ...gather, document })}
            />
            <Select
              label="A head field that differs inside one is a"
              value={gather.differing ?? "reject"}
              onChange={(v) => set({ ...gather, differing: v })}
              options={[
                { value: "reject", label: "reject of the document" },
                { value: "note", label: "note: the first record counts" },
              ]}
            />
          </div>
          <Tick
            label="The records of one may stand apart in the file; it is sorted first"
            checked={gather.anywhere ?? false}
            onChange={(on) => set({ ...gather, anywhere: on || undefined })}
          />
          <div className="flex items-center gap-3">
            <p className="flex-1 text-sm" role="status">
              {summary && (
                <>
                  <strong className="data">{count(summary.documents)}</strong>{" "}
                  {summary.documents === 1 ? "document forms" : "documents form"} of {plural(summary.read, "record")}.
                </>
              )}
            </p>
            <Button look="remove" onClick={() => set(undefined)}>
              Do not gather
            </Button>
          </div>
        </div>
      )}
    </Fold>
  );
}
