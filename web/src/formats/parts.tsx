import type { BlankRows } from "../definitions";
import { TextBox } from "../ui/basics";

/** What forms of several formats have in common. */

export const grid = "grid grid-cols-[repeat(auto-fill,minmax(136px,1fr))] gap-3";

export const blankRows = [
  { value: "skip", label: "pass over, count" },
  { value: "note", label: "pass over, note" },
  { value: "reject", label: "reject" },
] as const satisfies { value: BlankRows; label: string }[];

export const textCharsets = (["UTF-8", "ISO-8859-1", "windows-1252"] as const).map((c) => ({ value: c, label: c }));

/** A whole number that is typed, at least so much. */
export const whole = (v: string, least: number) => Math.max(least, Number.parseInt(v, 10) || least);

export function NumberBox(props: { label: string; value: number; onChange: (n: number) => void }) {
  return (
    <TextBox
      label={props.label}
      value={props.value}
      onChange={(v) => props.onChange(whole(v, 1))}
      inputMode="numeric"
      data
    />
  );
}
