import type { Schemas } from "../api/client";
import { visible } from "../ui/words";

/** Whether a place lies in another that says less sharply what is meant. */
function inside(inner: Schemas["Bad"], outer: Schemas["Bad"]): boolean {
  return inner.from >= outer.from && inner.to <= outer.to && inner.to - inner.from < outer.to - outer.from;
}

/** A record's text with what is wrong in it marked; where all of it is meant, and no part of it more, all of it is. */
export function Marked({ text, bad }: { text: string; bad: Schemas["Bad"][] }) {
  const parts = [];
  let at = 0;
  // A record that goes with its document has nothing wrong in it.
  const own = bad.filter((b) => b.code !== "DOC-01");
  const sharp = own.filter((b) => !own.some((other) => inside(other, b)));
  for (const b of sharp.sort((x, y) => x.from - y.from)) {
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
