import { placeWords, typeWords } from "../definition-words";
import { type DataType, dataType, type Field, type Format } from "../definitions";
import { viewOf } from "../formats/formats";
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
  const view = viewOf(format);
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
        <td className={`data pr-2 ${view.longPlaces ? "[overflow-wrap:anywhere]" : "whitespace-nowrap"}`}>
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
              <view.Place field={field} format={format} put={put} />
            </div>
            <TypeForm type={dataType(field)} fixed={view.ruled} put={(type: DataType) => put({ ...field, type })} />
          </td>
        </tr>
      )}
    </>
  );
}
