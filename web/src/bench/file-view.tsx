import { useMemo } from "react";
import type { Schemas } from "../api/client";
import type { Light } from "../sheet/job-page";
import { visible } from "../ui/words";
import type { Preview } from "./bench";
import { moved, useLines } from "./use-lines";

type Item = Schemas["Item"];
type Line = { kind: string; line: number; offset: number; text: string; cells: Schemas["Span"][]; item?: Item };
type Props = { preview: Preview; light: Light; setLight: (light: Light) => void };

/** The raw file: line numbers, fields tinted, control characters visible. */
export function FileView({ preview, light, setLight }: Props) {
  const all = useMemo<Line[]>(
    () => [
      ...preview.lines.map((l) => ({ ...l })),
      ...preview.records.map((r) => ({
        kind: r.fate,
        line: r.line,
        offset: r.offset,
        text: r.text,
        cells: r.cells,
        item: r,
      })),
    ],
    [preview],
  );
  const lit = all.findIndex((l) => l.item && l.item.number > 0 && l.item.number === light.record);
  const { scroll, lines } = useLines(all.length, lit);
  return (
    <div
      ref={scroll}
      role="listbox"
      aria-label="Lines of the file"
      tabIndex={0}
      className="data h-full overflow-auto"
      onKeyDown={(e) => {
        const next = moved(e.key, lit, all.length);
        if (next === undefined) return;
        e.preventDefault();
        setLight({ ...light, record: all[next].item?.number });
      }}
    >
      <div className="relative min-w-max" style={{ height: lines.getTotalSize() }}>
        {lines.getVirtualItems().map((v) => {
          const line = all[v.index];
          return (
            <div
              key={v.key}
              role="option"
              aria-selected={v.index === lit}
              className={`absolute left-0 flex h-6 w-full items-center whitespace-pre ${v.index === lit ? "bg-pine-wash" : ""}`}
              style={{ top: v.start }}
              onClick={() => setLight({ record: line.item?.number })}
            >
              <span
                className={`sticky left-0 w-14 shrink-0 border-r border-line bg-sunk pr-2 text-right text-xs leading-6 text-faint ${bad(line) ? "border-r-4 border-r-brick" : ""}`}
                title={`byte ${line.offset}`}
              >
                {line.line}
              </span>
              <span className="pl-2">
                <Text line={line} light={light} setLight={setLight} />
              </span>
            </div>
          );
        })}
      </div>
    </div>
  );
}

function bad(line: Line): boolean {
  return line.kind === "reject" || line.kind === "halt";
}

/** A line with its fields tinted in turn, the lit one and the bad ones marked. */
function Text({ line, light, setLight }: { line: Line; light: Light; setLight: (light: Light) => void }) {
  if (line.kind === "blank")
    return <span className="text-faint italic">{line.text ? visible(line.text) : "blank row"}</span>;
  if (line.cells.length === 0)
    return <span className={line.kind === "skipped" ? "text-faint" : ""}>{visible(line.text)}</span>;
  const parts = [];
  let at = 0;
  for (const [i, cell] of line.cells.entries()) {
    if (cell.from > at)
      parts.push(
        <span key={`d${i}`} className="text-faint">
          {visible(line.text.slice(at, cell.from))}
        </span>,
      );
    const finding = line.item?.findings.find((f) => f.length > 0 && f.field !== null && cellOf(f, line, cell));
    const lit =
      light.field === cell.field &&
      cell.field >= 0 &&
      (light.record === undefined || light.record === line.item?.number || line.kind === "header");
    const tone = finding
      ? finding.severity === "note"
        ? "bg-ochre-wash text-ochre underline decoration-wavy"
        : "bg-brick-wash text-brick font-semibold underline decoration-wavy"
      : lit
        ? "bg-pine text-on-pine"
        : i % 2 === 0
          ? "bg-[var(--tint-0)]"
          : "bg-[var(--tint-1)]";
    const text = line.text.slice(cell.from, cell.to);
    parts.push(
      <span
        key={`c${i}`}
        title={finding?.message ?? undefined}
        className={`rounded-xs ${tone} ${line.kind === "header" ? "font-semibold" : ""}`}
        onClick={(e) => {
          e.stopPropagation();
          setLight({ record: line.item?.number, field: cell.field >= 0 ? cell.field : undefined });
        }}
      >
        {text === "" && finding ? "∅" : visible(text)}
      </span>,
    );
    at = cell.to;
  }
  parts.push(
    <span key="end" className="text-faint">
      {visible(line.text.slice(at))}
    </span>,
  );
  return <>{parts}</>;
}

/** Whether a finding is about a cell: its byte place is told in columns of the line, quotes included. */
function cellOf(f: Schemas["Remark"], line: Line, cell: Schemas["Span"]): boolean {
  return (
    f.line === line.line &&
    f.columnFrom - 1 >= cell.from &&
    f.columnFrom - 1 <= cell.to &&
    f.columnTo <= Math.max(cell.to, cell.from + 1)
  );
}
