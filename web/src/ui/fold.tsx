import { ChevronDown } from "lucide-react";
import { type ReactNode, useState } from "react";

/** A part of a form that is a sentence when closed. */
export function Fold(props: { title: string; sentence: string; open?: boolean; children: ReactNode }) {
  const [open, setOpen] = useState(props.open ?? false);
  return (
    <section className="border-b border-line pb-2">
      <button
        type="button"
        aria-expanded={open}
        onClick={() => setOpen(!open)}
        className="flex w-full items-baseline gap-2 py-1 text-left text-sm"
      >
        <span className="shrink-0 font-semibold">{props.title}</span>
        <span className="min-w-0 flex-1 text-faint">{open ? "" : props.sentence}</span>
        <ChevronDown size={14} aria-hidden className={`shrink-0 self-center text-faint ${open ? "rotate-180" : ""}`} />
      </button>
      {open && <div className="pt-1">{props.children}</div>}
    </section>
  );
}
