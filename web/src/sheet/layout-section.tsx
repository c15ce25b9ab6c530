import { Plus, Trash2 } from "lucide-react";
import { useState } from "react";
import { type DataType, type Field, fieldsOf, type Layout, typeWords } from "../definitions";
import { Button, Select, TextBox, Tick } from "../ui/basics";
import type { SectionProps } from "./sections";
import { TypeForm } from "./type-form";

const delimiterNames: Record<string, string> = { ";": "semicolon ;", ",": "comma ,", "\t": "tab", "|": "bar |" };

export function LayoutSection({ sheet, change, light, setLight }: SectionProps) {
  const { layout } = sheet;
  const f = layout.format;
  const fields = fieldsOf(layout);
  const [open, setOpen] = useState<number>();
  const put = (next: Layout) => change({ ...sheet, layout: next });
  const format = (part: Partial<Layout["format"]>) => put({ ...layout, format: { ...f, ...part } });
  const putFields = (next: Field[]) => put({ ...layout, recordTypes: [{ ...layout.recordTypes[0], fields: next }] });
  const setField = (i: number, next: Field) => putFields(fields.map((x, k) => (k === i ? next : x)));
  const byHeader = (on: boolean) =>
    put({
      ...layout,
      format: { ...f, header: on },
      recordTypes: [
        {
          ...layout.recordTypes[0],
          fields: fields.map((x, i) =>
            on
              ? { ...x, header: x.header ?? x.name, column: undefined }
              : { ...x, header: undefined, column: x.column ?? i + 1 },
          ),
        },
      ],
    });
  return (
    <>
      <div className="grid grid-cols-3 gap-3">
        <Select
          label="Delimiter"
          value={f.delimiter}
          onChange={(delimiter) => format({ delimiter })}
          options={[...new Set([f.delimiter, ";", ",", "\t", "|"])].map((d) => ({
            value: d,
            label: delimiterNames[d] ?? d,
          }))}
        />
        <Select
          label="Quote"
          value={f.quote ?? ""}
          onChange={(q) => format({ quote: q || undefined })}
          options={[
            { value: '"', label: 'double "' },
            { value: "'", label: "single '" },
            { value: "", label: "none" },
          ]}
        />
        <Select
          label="Charset"
          value={f.charset}
          onChange={(charset) => format({ charset })}
          options={["UTF-8", "ISO-8859-1", "windows-1252"].map((c) => ({ value: c, label: c }))}
        />
        <TextBox
          label="Lines skipped at the start"
          value={f.skipLines}
          onChange={(v) => format({ skipLines: Math.max(0, Number.parseInt(v, 10) || 0) })}
          inputMode="numeric"
          data
        />
        <Select
          label="Blank rows"
          value={f.blankRows}
          onChange={(b) => format({ blankRows: b as Layout["format"]["blankRows"] })}
          options={[
            { value: "skip", label: "pass over, count" },
            { value: "note", label: "pass over, note" },
            { value: "reject", label: "reject" },
          ]}
        />
        <div className="self-end">
          <Tick label="Has a header row" checked={f.header} onChange={byHeader} />
        </div>
      </div>
      <table className="w-full border-collapse text-sm">
        <thead>
          <tr className="border-b border-line text-xs text-faint">
            <th className="py-1 pr-2">Field</th>
            <th className="pr-2">{f.header ? "Under header" : "Column"}</th>
            <th className="pr-2">Type</th>
            <th />
          </tr>
        </thead>
        <tbody>
          {fields.map((field, i) => (
            <FieldRow
              key={i}
              field={field}
              lit={light.field === i}
              open={open === i}
              toggle={() => {
                setOpen(open === i ? undefined : i);
                setLight({ ...light, field: i });
              }}
              put={(next) => setField(i, next)}
              remove={() => putFields(fields.filter((_, k) => k !== i))}
              byHeader={f.header}
            />
          ))}
        </tbody>
      </table>
      <Button
        look="quiet"
        className="self-start"
        onClick={() => {
          const name = `field ${fields.length + 1}`;
          const place = f.header ? { header: name } : { column: fields.length + 1 };
          putFields([...fields, { name, ...place, type: { is: "text", length: 255 } }]);
          setOpen(fields.length);
        }}
      >
        <Plus size={15} aria-hidden /> Add a field
      </Button>
    </>
  );
}

type RowProps = {
  field: Field;
  lit: boolean;
  open: boolean;
  toggle: () => void;
  put: (field: Field) => void;
  remove: () => void;
  byHeader: boolean;
};

function FieldRow({ field, lit, open, toggle, put, remove, byHeader }: RowProps) {
  const place = byHeader ? field.header : String(field.column);
  return (
    <>
      <tr className={`border-b border-line ${lit ? "bg-pine-wash" : ""}`}>
        <td className="py-1 pr-2">
          <button type="button" aria-expanded={open} onClick={toggle} className="text-left text-pine hover:underline">
            {field.name}
          </button>
        </td>
        <td className="data pr-2">{place}</td>
        <td className="pr-2 text-faint">{typeWords(field.type)}</td>
        <td className="text-right">
          <button
            type="button"
            onClick={remove}
            aria-label={`Remove ${field.name}`}
            className="rounded p-1 text-faint hover:text-brick"
          >
            <Trash2 size={14} />
          </button>
        </td>
      </tr>
      {open && (
        <tr className="border-b border-line bg-card">
          <td colSpan={4} className="px-3 py-3">
            <div className="mb-2 grid grid-cols-2 gap-3">
              <TextBox label="Field" value={field.name} onChange={(name) => put({ ...field, name })} />
              {byHeader ? (
                <TextBox
                  label="Under header"
                  value={field.header ?? ""}
                  onChange={(header) => put({ ...field, header })}
                  data
                />
              ) : (
                <TextBox
                  label="Column"
                  value={field.column ?? 1}
                  onChange={(v) => put({ ...field, column: Math.max(1, Number.parseInt(v, 10) || 1) })}
                  data
                />
              )}
            </div>
            <TypeForm type={field.type} put={(type: DataType) => put({ ...field, type })} />
          </td>
        </tr>
      )}
    </>
  );
}
