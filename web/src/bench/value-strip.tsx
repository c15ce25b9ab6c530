import { useMemo, useState } from "react";
import { placeWords, typeWords } from "../definition-words";
import { dataType, fieldsOf, type Layout } from "../definitions";
import { Button } from "../ui/basics";
import { Dialog } from "../ui/dialog";
import { count, visible } from "../ui/words";
import { insideOf } from "./inside";
import type { Light } from "./light";
import type { Preview } from "./preview";

type Props = { preview: Preview; layout: Layout; light: Light };

/** The value that is lit up: where it stands, its raw text, what it was read as; opened where something is inside. */
export function ValueStrip({ preview, layout, light }: Props) {
  const [open, setOpen] = useState(false);
  const item = light.record === undefined ? undefined : preview.records.find((r) => r.number === light.record);
  const field = light.field === undefined ? undefined : fieldsOf(layout, light.type ?? 0)[light.field];
  const cell = item?.cells.find((c) => c.field === light.field && c.record === item.number);
  const raw = item && cell ? item.text.slice(cell.from, cell.to) : undefined;
  const value = item && light.field !== undefined ? item.values[light.field] : undefined;
  const inside = useMemo(() => insideOf(value ?? raw ?? ""), [value, raw]);
  if (!item || !field) return null;
  return (
    <div className="flex items-center gap-3 border-t border-line bg-paper px-4 py-1 text-xs">
      <span className="shrink-0 text-faint">
        record {count(item.number)} · line {count(item.line)} · <strong className="text-ink">{field.name}</strong> (
        {placeWords(field)})
      </span>
      <span className="data min-w-0 flex-1 truncate" title={raw}>
        {raw !== undefined && <span className="text-faint">{visible(raw)} → </span>}
        {value == null ? <span className="text-faint">NULL</span> : visible(value)}
      </span>
      <span className="shrink-0 text-faint">{typeWords(dataType(field))}</span>
      {inside && (
        <Button look="quiet" className="h-6 px-2" onClick={() => setOpen(true)}>
          looks like {inside.kind}: open
        </Button>
      )}
      {inside && (
        <Dialog open={open} onClose={() => setOpen(false)} title={`${field.name}, opened as ${inside.kind}`} wide>
          <pre className="data text-sm break-words whitespace-pre-wrap">{inside.opened}</pre>
        </Dialog>
      )}
    </div>
  );
}
