import type { ReactNode } from "react";

export type Chip = { value: number; label: string; note?: string };

/** A choice of a few things that stand side by side, such as the record types of a layout. */
export function Chips(props: {
  label: string;
  chips: Chip[];
  value: number;
  onChange: (value: number) => void;
  children?: ReactNode;
}) {
  return (
    <div role="group" aria-label={props.label} className="flex flex-wrap items-center gap-1.5">
      {props.chips.map((c) => (
        <button
          type="button"
          key={c.value}
          aria-pressed={c.value === props.value}
          onClick={() => props.onChange(c.value)}
          className={`inline-flex min-h-7 max-w-full items-center gap-1.5 rounded border px-2 py-0.5 text-left text-sm [overflow-wrap:anywhere] ${c.value === props.value ? "border-pine bg-pine-wash font-semibold text-pine" : "border-line bg-card hover:border-pine"}`}
        >
          {c.label}
          {c.note !== undefined && <span className="data text-xs font-normal text-faint">{c.note}</span>}
        </button>
      ))}
      {props.children}
    </div>
  );
}
