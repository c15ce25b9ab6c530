import { Plus, Trash2 } from "lucide-react";
import { useState } from "react";
import type { Schemas } from "../api/client";
import type { Light } from "../bench/light";
import { recognitionWords } from "../definition-words";
import { type Field, type Format, fieldsOf, type Layout, type RecordType, withFields } from "../definitions";
import { formatWords, viewOf } from "../formats/formats";
import { Button, Tick } from "../ui/basics";
import { Fold } from "../ui/fold";
import { useSearchIndex } from "../ui/use-search-value";
import { plural } from "../ui/words";
import { FieldRow } from "./field-row";
import { RecordTypeForm } from "./record-type-form";
import { type SampleUse, sampleUse, withoutUnused } from "./sample-use";
import { TypeChoice } from "./type-choice";

export type LayoutFormProps = {
  layout: Layout;
  put: (layout: Layout) => void;
  light: Light;
  setLight: (light: Light) => void;
  /** What the bench counted of each record type in the sample. */
  counts?: Schemas["TypeCount"][];
};

/** How a file is written, its record types and their fields. */
export function LayoutForm({ layout, put, light, setLight, counts }: LayoutFormProps) {
  const f = layout.format;
  const view = viewOf(f);
  const [asked, setAsked] = useSearchIndex("type");
  const type = Math.min(light.type ?? asked, layout.recordTypes.length - 1);
  const fields = fieldsOf(layout, type);
  const [open, setOpen] = useState<number>();
  const [narrow, setNarrow] = useState(false);
  const use = sampleUse(layout, counts);
  const shown = narrow ? use : undefined;
  const putFields = (next: Field[]) => put(withFields(layout, type, next));
  const choose = (t: number) => {
    setAsked(t);
    setLight({ type: t });
    setOpen(undefined);
  };
  const several = layout.recordTypes.length > 1 || view.tellsEach;
  const mayAdd = view.takesSeveral(f);
  return (
    <>
      <Fold title="Written as" sentence={formatWords(f)}>
        <view.Form
          format={f}
          put={(format, replace) => {
            const next = { ...layout, format };
            put(replace ? withFields(next, 0, fieldsOf(layout).map(replace)) : next);
          }}
        />
      </Fold>
      {use && (
        <div className="flex flex-wrap items-center justify-between gap-x-3">
          <Tick label="Only what the sample uses" checked={narrow} onChange={setNarrow} />
          {narrow && (
            <Button
              look="remove"
              onClick={() => {
                put(withoutUnused(layout, use));
                setAsked(0);
                setLight({});
                setOpen(undefined);
              }}
            >
              <Trash2 size={14} aria-hidden /> Remove the other {unused(use)}
            </Button>
          )}
        </div>
      )}
      {(several || mayAdd) && (
        <TypeChoice
          label="Record types of the layout"
          types={layout.recordTypes}
          value={type}
          onChange={choose}
          onField={(t, field) => {
            setAsked(t);
            setLight({ type: t, field });
            setOpen(field);
          }}
          note={shortRecognition}
          isShown={(t) => t === type || !shown || shown.isTypeUsed(t)}
        >
          <Button look="quiet" className="h-7 px-2" onClick={() => put(withNewType(layout))}>
            <Plus size={14} aria-hidden /> Record type
          </Button>
        </TypeChoice>
      )}
      {several && (
        <Fold
          key={`type ${type}`}
          title={`Records of ${layout.recordTypes[type].name}`}
          sentence={recordTypeWords(layout.recordTypes[type])}
        >
          <RecordTypeForm
            layout={layout}
            at={type}
            put={(t) => put({ ...layout, recordTypes: layout.recordTypes.map((x, i) => (i === type ? t : x)) })}
          />
        </Fold>
      )}
      <table className="w-full border-collapse text-sm">
        <thead>
          <tr className="border-b border-line text-xs text-faint">
            <th className="py-1 pr-2">Field</th>
            <th className="pr-2">{view.placeTitle(f)}</th>
            <th className="pr-2">Type</th>
            <td />
          </tr>
        </thead>
        <tbody>
          {fields.map((field, i) => {
            const lit = light.field === i && (light.type ?? 0) === type;
            if (shown && !shown.isUsed(type, i) && !lit && open !== i) return null;
            return (
              <FieldRow
                key={i}
                field={field}
                format={f}
                lit={lit}
                open={open === i}
                toggle={() => {
                  setOpen(open === i ? undefined : i);
                  setLight({ ...light, type, field: i });
                }}
                put={(next) => putFields(fields.map((x, k) => (k === i ? next : x)))}
                remove={() => putFields(fields.filter((_, k) => k !== i))}
              />
            );
          })}
        </tbody>
      </table>
      <div className="flex flex-wrap gap-x-2">
        <Button
          look="quiet"
          onClick={() => {
            putFields([...fields, newField(f, fields)]);
            setOpen(fields.length);
          }}
        >
          <Plus size={15} aria-hidden /> Add a field
        </Button>
        {layout.recordTypes.length > 1 && (
          <Button
            look="remove"
            onClick={() => {
              put({ ...layout, recordTypes: layout.recordTypes.filter((_, i) => i !== type) });
              choose(0);
            }}
          >
            <Trash2 size={14} aria-hidden /> Remove the record type {layout.recordTypes[type].name}
          </Button>
        )}
      </div>
    </>
  );
}

function unused(use: SampleUse): string {
  const parts = [];
  if (use.unusedTypes > 0) parts.push(plural(use.unusedTypes, "record type"));
  if (use.unusedFields > 0) parts.push(plural(use.unusedFields, "field"));
  return parts.join(" and ");
}

function newField(format: Format, fields: Field[]): Field {
  const name = `field ${fields.length + 1}`;
  return { name, ...viewOf(format).newPlace(format, name, fields), type: { is: "text", length: 255 } };
}

/** The layout with one more record type; a type that was alone then needs a way to be told apart. */
function withNewType(layout: Layout): Layout {
  const f = layout.format;
  const n = layout.recordTypes.length + 1;
  const name = `type ${n}`;
  const tagged = viewOf(f).newRecognition;
  const letter = String.fromCharCode(64 + Math.min(n, 26));
  const types = layout.recordTypes.map((t) => (t.when ? t : { ...t, when: tagged("A") }));
  return { ...layout, recordTypes: [...types, { name, when: tagged(letter), fields: [newField(f, [])] }] };
}

/** What tells a type apart, as short as a chip has room for. */
function shortRecognition(type: RecordType): string | undefined {
  if (type.when?.by === "tag") return type.when.values.join(", ");
  if (type.when?.by === "first-line") return "first";
  return type.when?.by === "last-line" ? "last" : undefined;
}

function recordTypeWords(type: RecordType): string {
  const often =
    type.min || type.max
      ? `, ${type.min === type.max ? `${type.min}` : `${type.min ?? 0} to ${type.max ?? "any number"}`}${type.parent ? " for each" : " in the file"}`
      : "";
  return `${recognitionWords(type)}${type.parent ? `, in the latest ${type.parent}` : ""}${often}`;
}
