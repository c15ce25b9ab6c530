import { placeWords, typeWords } from "../definition-words";
import { type DataType, dataType, type Field, type Format } from "../definitions";
import { TextBox } from "../ui/basics";
import { RemoveButton } from "../ui/remove-button";
import { TypeForm } from "./type-form";

type Props = {
  field: Field;
  format: Format;
  lit: boolean;
  open: boolean;
  toggle: () => void;
  put: (field: Field) => void;
  remove: () => void;
};

/** A field of a layout: a line when closed, a form when open. */
export function FieldRow({ field, format, lit, open, toggle, put, remove }: Props) {
  return (
    <>
      <tr className={`border-b border-line ${lit ? "bg-pine-wash" : ""}`}>
        <td className="min-w-26 py-1 pr-2">
          <button
            type="button"
            aria-expanded={open}
            onClick={toggle}
            className="text-left text-pine [overflow-wrap:anywhere] hover:underline"
          >
            {field.name}
          </button>
        </td>
        <td className={`data pr-2 ${format.kind === "xml" ? "[overflow-wrap:anywhere]" : "whitespace-nowrap"}`}>
          {placeWords(field)}
        </td>
        <td className="pr-2 text-faint">{typeWords(dataType(field))}</td>
        <td className="text-right">
          <RemoveButton label={`Remove ${field.name}`} remove={remove} />
        </td>
      </tr>
      {open && (
        <tr className="border-b border-line bg-card">
          <td colSpan={4} className="px-3 py-3">
            <div className="mb-2 grid grid-cols-3 gap-3">
              <TextBox label="Field" value={field.name} onChange={(name) => put({ ...field, name })} />
              <PlaceForm field={field} format={format} put={put} />
            </div>
            <TypeForm
              type={dataType(field)}
              fixed={format.kind === "fixed-length"}
              put={(type: DataType) => put({ ...field, type })}
            />
          </td>
        </tr>
      )}
    </>
  );
}

function PlaceForm({ field, format, put }: { field: Field; format: Format; put: (field: Field) => void }) {
  const number = (v: string) => Math.max(1, Number.parseInt(v, 10) || 1);
  if (format.kind === "xml") {
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
  if (format.kind === "fixed-length") {
    return (
      <>
        <TextBox
          label="Starts at"
          value={field.start ?? 1}
          onChange={(v) => put({ ...field, start: number(v) })}
          inputMode="numeric"
          data
        />
        <TextBox
          label="Length"
          value={field.length ?? 1}
          onChange={(v) => put({ ...field, length: number(v) })}
          inputMode="numeric"
          data
        />
      </>
    );
  }
  return format.header ? (
    <TextBox label="Under header" value={field.header ?? ""} onChange={(header) => put({ ...field, header })} data />
  ) : (
    <TextBox
      label="Column"
      value={field.column ?? 1}
      onChange={(v) => put({ ...field, column: number(v) })}
      inputMode="numeric"
      data
    />
  );
}
