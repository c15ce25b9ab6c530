import { useRef } from "react";
import { type DataType, dataType, type Field, fieldsOf, type Layout, withFields } from "../definitions";

type Props = { layout: Layout; type: number; width: number; before: number; change: (layout: Layout) => void };

/**
 * A ruler over fixed-length records: positions from 1, and the edges at which the fields of one record type begin. An
 * edge is dragged, or moved with the arrow keys; the field before it grows or shrinks with it.
 */
export function Ruler({ layout, type, width, before, change }: Props) {
  const scale = useRef<HTMLDivElement>(null);
  const fields = fieldsOf(layout, type);
  const ticks = Array.from({ length: Math.ceil(width / 10) }, (_, i) => String((i + 1) * 10).padStart(10, "·")).join(
    "",
  );
  const move = (at: number, to: number) => {
    const next = moved(fields, at, to);
    if (next) change(withFields(layout, type, next));
  };
  const drag = (at: number) => (e: React.PointerEvent<HTMLButtonElement>) => {
    const box = scale.current?.getBoundingClientRect();
    if (!box || !e.currentTarget.hasPointerCapture(e.pointerId)) return;
    const position = Math.round(((e.clientX - box.left) / box.width) * ticks.length) + 1;
    if (position !== fields[at].start) move(at, position);
  };
  return (
    <div className="sticky top-0 z-10 flex h-9 border-b border-line bg-sunk" style={{ paddingLeft: before }}>
      <div ref={scale} className="relative whitespace-pre">
        <span aria-hidden className="block text-faint leading-5">
          {ticks}
        </span>
        {fields.map((f) => (
          <span
            key={f.name}
            aria-hidden
            className="absolute top-5 h-4 overflow-hidden border-b-2 border-pine"
            style={{ left: `${(f.start ?? 1) - 1}ch`, width: `calc(${f.length}ch - 2px)` }}
          >
            <span className="block pl-0.5 text-[10px] leading-3 text-faint">{f.name}</span>
          </span>
        ))}
        {fields.map((f, i) => (
          <button
            type="button"
            key={f.name}
            role="slider"
            aria-label={`${f.name} begins at`}
            aria-valuenow={f.start}
            aria-valuemin={1}
            aria-valuemax={width}
            title={`${f.name}: ${f.start} to ${(f.start ?? 1) + (f.length ?? 1) - 1}`}
            className="absolute top-0 h-9 w-2 -translate-x-1/2 cursor-col-resize touch-none"
            style={{ left: `${(f.start ?? 1) - 1}ch` }}
            onPointerDown={(e) => e.currentTarget.setPointerCapture(e.pointerId)}
            onPointerMove={drag(i)}
            onKeyDown={(e) => {
              const by = e.key === "ArrowLeft" ? -1 : e.key === "ArrowRight" ? 1 : 0;
              if (by === 0) return;
              e.preventDefault();
              e.stopPropagation();
              move(i, (f.start ?? 1) + by);
            }}
          >
            <span className="mx-auto block h-full w-0.5 bg-pine" />
          </button>
        ))}
      </div>
    </div>
  );
}

/** The fields with one of them beginning elsewhere; nothing when that leaves no room for it or the one before. */
function moved(fields: Field[], at: number, to: number): Field[] | undefined {
  const field = fields[at];
  const start = field.start ?? 1;
  const end = start + (field.length ?? 1);
  const neighbour = fields.findIndex((f) => f.start !== undefined && f.start + (f.length ?? 1) === start);
  const least = neighbour < 0 ? 1 : (fields[neighbour].start ?? 1) + 1;
  if (to < least || to >= end || to === start) return undefined;
  return fields.map((f, i) =>
    i === at
      ? { ...f, start: to, length: end - to, type: fitted(dataType(f), end - to) }
      : i === neighbour
        ? { ...f, length: to - (f.start ?? 1), type: fitted(dataType(f), to - (f.start ?? 1)) }
        : f,
  );
}

/** A text is as long as its field. */
function fitted(type: DataType, length: number): DataType {
  return type.is === "text" ? { ...type, length } : type;
}
