import { CircleCheck, OctagonAlert, TriangleAlert } from "lucide-react";
import type { Schemas } from "../api/client";

/** What keeps a job from running, and what its author should know. */
export function Shortcomings({ list }: { list: Schemas["Shortcoming"][] }) {
  if (list.length === 0) {
    return (
      <p className="flex items-center gap-2 text-sm text-moss">
        <CircleCheck size={15} aria-hidden /> Checked against layout and table: nothing stands in the way.
      </p>
    );
  }
  return (
    <ul className="flex flex-col gap-1 text-sm">
      {list.map((s) => (
        <li key={s.code + s.message} className={`flex gap-2 ${s.blocks ? "text-brick" : "text-ochre"}`}>
          {s.blocks ? (
            <OctagonAlert size={15} className="mt-0.5 shrink-0" aria-label="Must be mended" />
          ) : (
            <TriangleAlert size={15} className="mt-0.5 shrink-0" aria-label="Good to know" />
          )}
          <span>
            {s.message} <span className="data text-xs">[{s.code}]</span>
          </span>
        </li>
      ))}
    </ul>
  );
}
