import { CircleCheck, OctagonAlert, TriangleAlert } from "lucide-react";
import type { Schemas } from "../api/client";

/** What keeps a job from running, and, folded where there is much of it, what its author should know. */
export function Shortcomings({ list }: { list: Schemas["Shortcoming"][] }) {
  if (list.length === 0) {
    return (
      <p className="flex items-center gap-2 text-sm text-moss">
        <CircleCheck size={15} aria-hidden /> Checked against layout and table: nothing stands in the way.
      </p>
    );
  }
  const blocks = list.filter((s) => s.blocks);
  const others = list.filter((s) => !s.blocks);
  return (
    <div className="flex flex-col gap-1 text-sm">
      {blocks.length > 0 && <Lines list={blocks} />}
      {others.length === 1 && <Lines list={others} />}
      {others.length > 1 && (
        <details>
          <summary className="cursor-default text-ochre">{others.length} things to know</summary>
          <Lines list={others} />
        </details>
      )}
    </div>
  );
}

function Lines({ list }: { list: Schemas["Shortcoming"][] }) {
  return (
    <ul className="flex flex-col gap-1">
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
