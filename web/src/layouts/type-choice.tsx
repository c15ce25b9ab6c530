import { type ReactNode, useState } from "react";
import { placeWords } from "../definition-words";
import type { RecordType } from "../definitions";
import { Select, TextBox } from "../ui/basics";
import { Chips } from "../ui/chips";
import { plural } from "../ui/words";

/** So many stand side by side; more are a list. */
const side = 12;
const mostFound = 30;

type Props = {
  label: string;
  types: RecordType[];
  value: number;
  onChange: (type: number) => void;
  /** Goes to a field that was looked for. */
  onField?: (type: number, field: number) => void;
  note?: (type: RecordType) => string | undefined;
  isShown?: (type: number) => boolean;
  children?: ReactNode;
};

/** One of the record types of a layout; of many, with a search for types and fields. */
export function TypeChoice({ label, types, value, onChange, onField, note, isShown = () => true, children }: Props) {
  const [wanted, setWanted] = useState("");
  if (types.length <= side)
    return (
      <Chips
        label={label}
        value={value}
        onChange={onChange}
        chips={types.map((t, i) => ({ value: i, label: t.name, note: note?.(t) })).filter((c) => isShown(c.value))}
      >
        {children}
      </Chips>
    );
  const hits = found(types, wanted);
  return (
    <div className="flex flex-col gap-2">
      <div className="flex items-end gap-2">
        <Select
          label={`${label}: ${types.length}`}
          className="min-w-0 flex-1"
          value={String(value)}
          onChange={(v) => onChange(Number(v))}
          options={types.flatMap((t, i) =>
            isShown(i)
              ? [{ value: String(i), label: `${"\u2003".repeat(depth(types, t))}${t.name} (${t.fields.length})` }]
              : [],
          )}
        />
        {children}
      </div>
      {onField && <TextBox label="Find a field" value={wanted} onChange={setWanted} placeholder="name or place" />}
      {wanted.trim() && (
        <ul
          aria-label="Fields found"
          className="max-h-56 divide-y divide-line overflow-auto border-y border-line text-sm"
        >
          {hits.slice(0, mostFound).map((h) => (
            <li key={`${h.type} ${h.field}`}>
              <button
                type="button"
                className="flex w-full flex-wrap items-baseline gap-x-2 py-1 text-left hover:text-pine"
                onClick={() => onField?.(h.type, h.field)}
              >
                <span>
                  {types[h.type].name}.<strong>{types[h.type].fields[h.field].name}</strong>
                </span>
                <span className="data text-xs text-faint [overflow-wrap:anywhere]">
                  {placeWords(types[h.type].fields[h.field])}
                </span>
              </button>
            </li>
          ))}
          {hits.length > mostFound && (
            <li className="py-1 text-faint">and {plural(hits.length - mostFound, "more field")}</li>
          )}
          {hits.length === 0 && <li className="py-1 text-faint">No field has that in its name or place.</li>}
        </ul>
      )}
    </div>
  );
}

function found(types: RecordType[], wanted: string) {
  const words = wanted.toLowerCase().split(/\s+/).filter(Boolean);
  return types.flatMap((t, type) =>
    t.fields.flatMap((f, field) => {
      const text = `${t.name}.${f.name} ${placeWords(f)}`.toLowerCase();
      return words.length > 0 && words.every((w) => text.includes(w)) ? [{ type, field }] : [];
    }),
  );
}

function depth(types: RecordType[], type: RecordType): number {
  let steps = 0;
  for (let at = type.parent; at && steps < 20; steps++) at = types.find((t) => t.name === at)?.parent;
  return steps;
}
