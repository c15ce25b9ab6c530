import { Trash2 } from "lucide-react";

/** Takes a part of a list away; the label says which, as the picture does not. */
export function RemoveButton(props: { label: string; remove: () => void; className?: string }) {
  return (
    <button
      type="button"
      aria-label={props.label}
      className={`rounded p-1 text-faint hover:text-brick ${props.className ?? ""}`}
      onClick={props.remove}
    >
      <Trash2 size={14} aria-hidden />
    </button>
  );
}
