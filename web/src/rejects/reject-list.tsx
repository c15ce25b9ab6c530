import { useVirtualizer } from "@tanstack/react-virtual";
import { useRef } from "react";
import { Button } from "../ui/basics";
import { count, moment, visible } from "../ui/words";
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

/** The rejects, one below the other; arrows go up and down, the space bar chooses. */
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
      open(nameOf(keyOf(line)));
      rows.scrollToIndex(to);
    }
  };
  return (
    <div
      ref={box}
      className="min-h-0 flex-1 overflow-auto"
      role="listbox"
      aria-label="Rejects"
      aria-multiselectable
      tabIndex={0}
      onKeyDown={(e) => {
        if (e.key === "ArrowDown" || e.key === "ArrowUp") {
          e.preventDefault();
          move(e.key === "ArrowDown" ? 1 : -1);
        } else if (e.key === " " && current) {
          e.preventDefault();
          toggle(current);
        }
      }}
    >
      <div className="relative" style={{ height: rows.getTotalSize() }}>
        {rows.getVirtualItems().map((v) => {
          const line = lines[v.index] as RejectLine;
          const name = nameOf(keyOf(line));
          const own = line.messages.find((m) => !m.includes("[DOC-01]"));
          return (
            <div
              key={name}
              role="option"
              aria-selected={chosen.has(name)}
              tabIndex={-1}
              onClick={() => open(name)}
              onKeyDown={undefined}
              className={`absolute inset-x-0 flex cursor-pointer gap-2 border-b border-line px-3 py-1.5 ${name === current ? "bg-pine-wash" : "hover:bg-card"}`}
              style={{ transform: `translateY(${v.start}px)`, height: v.size }}
            >
              <input
                type="checkbox"
                tabIndex={-1}
                aria-label={`Choose record ${line.record} of run ${line.run}`}
                className="mt-1 accent-pine"
                checked={chosen.has(name)}
                disabled={line.state !== "open"}
                onClick={(e) => e.stopPropagation()}
                onChange={() => toggle(name)}
              />
              <div className="min-w-0 flex-1">
                <p className="flex gap-2 text-xs text-faint">
                  <span className="truncate">
                    {line.title} · run {line.run} · line {count(line.line)}
                  </span>
                  <span className="data ml-auto shrink-0">{moment(line.at).slice(0, 16)}</span>
                </p>
                <p className="data truncate text-sm">{visible(line.text)}</p>
                <p className={`truncate text-sm ${own ? "text-brick" : "text-faint"}`}>
                  {line.state !== "open" && <strong>{words[line.state]}: </strong>}
                  {line.corrected && line.state === "open" && <strong className="text-pine">corrected: </strong>}
                  {own?.replace(/^line [^:]*: /, "") ?? "goes with its document"}
                </p>
              </div>
            </div>
          );
        })}
      </div>
      {more && (
        <div className="p-3">
          <Button onClick={more}>More</Button>
        </div>
      )}
    </div>
  );
}
