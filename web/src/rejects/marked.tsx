import type { Schemas } from "../api/client";
import { visible } from "../ui/words";

/** A record's text with what is wrong in it marked; where all of it is meant, all of it is. */
export function Marked({ text, bad }: { text: string; bad: Schemas["Bad"][] }) {
  const parts = [];
  let at = 0;
  for (const b of [...bad].sort((x, y) => x.from - y.from)) {
    if (b.from < at || b.to > text.length) continue;
    parts.push(visible(text.slice(at, b.from)));
    parts.push(
      <mark
        key={`${b.from} ${b.code}`}
        title={b.message}
        className="bg-brick-wash font-semibold text-brick underline decoration-wavy"
      >
        {visible(text.slice(b.from, b.to)) || "∅"}
      </mark>,
    );
    at = b.to;
  }
  parts.push(visible(text.slice(at)));
  return <>{parts}</>;
}
