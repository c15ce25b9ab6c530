import { useVirtualizer } from "@tanstack/react-virtual";
import { useRef } from "react";
import { Button } from "../ui/basics";
import { moment, visible } from "../ui/words";
import { placeOf, withoutLine } from "./place-of";
import { keyOf, nameOf, type RejectLine } from "./use-rejects";

type Props = {
  lines: RejectLine[];
  current?: string;
  chosen: Set<string>;
  choose: (names: Set<string>) => void;
  open: (name: string) => void;
  more?: () => void;
};

const words: Record<string, string> = { resubmitted: "sent again", aside: "set aside" };

/** The rejects, one below the other; arrows go up and down, x chooses. */
export function RejectList({ lines, current, chosen, choose, open, more }: Props) {
  const box = useRef<HTMLDivElement>(null);
  const rows = useVirtualizer({
    count: lines.length,
    getScrollElement: () => box.current,
    estimateSize: () => 74,
    overscan: 12,
  });
  const toggle = (name: string) => {
    const next = new Set(chosen);
    if (!next.delete(name)) next.add(name);
    choose(next);
  };
  const move = (by: number) => {
    const at = lines.findIndex((l) => nameOf(keyOf(l)) === current);
    const to = Math.max(0, Math.min(lines.length - 1, at + by));
    const line = lines[to];
    if (line) {
      const name = nameOf(keyOf(line));
      open(name);
      rows.scrollToIndex(to);
      requestAnimationFrame(() => document.getElementById(`reject-${name}`)?.focus());
    }
  };
  return (
    <div ref={box} className="min-h-0 flex-1 overflow-auto">
      <ul
        aria-label="Rejects"
        className="relative"
        style={{ height: rows.getTotalSize() }}
        onKeyDown={(e) => {
          if (e.key === "ArrowDown" || e.key === "ArrowUp") {
            e.preventDefault();
            move(e.key === "ArrowDown" ? 1 : -1);
          } else if (e.key === "x" && current) {
            toggle(current);
          }
        }}
      >
        {rows.getVirtualItems().map((v) => {
          const line = lines[v.index] as RejectLine;
          const name = nameOf(keyOf(line));
          const own = line.messages.find((m) => !m.includes("[DOC-01]"));
          return (
            <li
              key={name}
              className={`absolute inset-x-0 flex border-b border-line ${name === current ? "bg-pine-wash" : "hover:bg-card"}`}
              style={{ transform: `translateY(${v.start}px)`, height: v.size }}
            >
              <label className="flex cursor-pointer px-3 pt-2.5">
                <span className="sr-only">
                  Choose record {line.record} of run {line.run}
                </span>
                <input
                  type="checkbox"
                  tabIndex={-1}
                  className="size-4 accent-pine"
                  checked={chosen.has(name)}
                  disabled={line.state !== "open"}
                  onChange={() => toggle(name)}
                />
              </label>
              <button
                type="button"
                id={`reject-${name}`}
                aria-current={name === current}
                tabIndex={name === current ? 0 : -1}
                onClick={() => open(name)}
                className="min-w-0 flex-1 py-1.5 pr-3 text-left"
              >
                <span className="flex gap-2 text-xs text-faint">
                  <span className="truncate">
                    {line.title} · run {line.run} · {placeOf(line.line, line.messages)}
                  </span>
                  <span className="data ml-auto shrink-0">{moment(line.at).slice(0, 16)}</span>
                </span>
                <span className="data block truncate text-sm">{visible(line.text)}</span>
                <span className={`block truncate text-sm ${own ? "text-brick" : "text-faint"}`}>
                  {line.state !== "open" && <strong>{words[line.state]}: </strong>}
                  {line.corrected && line.state === "open" && <strong className="text-pine">corrected: </strong>}
                  {own ? withoutLine(own) : "goes with its document"}
                </span>
              </button>
            </li>
          );
        })}
      </ul>
      {more && (
        <div className="p-3">
          <Button onClick={more}>More</Button>
        </div>
      )}
    </div>
  );
}
