import { ChevronDown, ChevronRight } from "lucide-react";
import { useMemo, useState } from "react";
import { useSearchParams } from "react-router";
import type { Schemas } from "../api/client";
import type { Format, Layout } from "../definitions";
import type { TextPart } from "../formats/format-view";
import { viewOf } from "../formats/formats";
import { plural, visible } from "../ui/words";
import { insideOf, shownLines } from "./folds";
import type { Light } from "./light";
import type { Preview } from "./preview";
import { Ruler } from "./ruler";
import { moved, useLines } from "./use-lines";

type Item = Schemas["Item"];
/** A line of the file; `item` is the record whose text it is in, `own` the innermost record that it belongs to. */
type Line = {
  kind: string;
  line: number;
  /** Which part of its line it is, from 0 on, where that is shown on several. */
  part?: number;
  offset: number;
  text: string;
  cells: Schemas["Span"][];
  item?: Item;
  own?: Item;
};
type Props = {
  preview: Preview;
  layout: Layout;
  change: (layout: Layout) => void;
  light: Light;
  setLight: (light: Light) => void;
};

/** The raw file: line numbers, fields tinted, control characters visible. */
export function FileView({ preview, layout, change, light, setLight }: Props) {
  const [search] = useSearchParams();
  const format = viewOf(layout.format);
  const ruled = Math.min(light.type ?? (Number(search.get("type") ?? 0) || 0), layout.recordTypes.length - 1);
  const all = useMemo<Line[]>(
    () => [
      ...preview.lines.map((l) => ({ ...l })),
      ...(format.nests ? nestedLines(preview.records, layout.format) : preview.records.map(lineOf)),
    ],
    [preview, format, layout.format],
  );
  const items = useMemo(() => new Map(preview.records.map((r) => [r.number, r])), [preview]);
  // A record inside another one is shown in the text of that one.
  const outer = useMemo(() => {
    const map = new Map<number, number>();
    let last = 0;
    for (const r of preview.records) {
      if (!r.inside) last = r.number;
      map.set(r.number, last);
    }
    return map;
  }, [preview]);
  const wanted = light.record === undefined ? undefined : outer.get(light.record);
  const own = all.findIndex((l) => l.cells.some((c) => c.record === light.record && c.record !== wanted));
  const litOfAll = own >= 0 ? own : all.findIndex((l) => l.item && l.item.number > 0 && l.item.number === wanted);
  const [folded, setFolded] = useState<Set<string>>(new Set());
  const foldable = useMemo(
    () => all.map((l) => ({ text: l.text, key: `${l.offset} ${l.line} ${l.part ?? ""}`, group: l.item })),
    [all],
  );
  const inside = useMemo(() => (format.nests ? insideOf(foldable) : []), [foldable, format]);
  const shown = useMemo(
    () => (format.nests ? shownLines(foldable, inside, folded, litOfAll) : all.map((_, i) => i)),
    [all, foldable, format, inside, folded, litOfAll],
  );
  const fold = (at: number, close: boolean) => {
    const next = new Set(folded);
    if (close) next.add(foldable[at].key);
    else next.delete(foldable[at].key);
    setFolded(next);
    // What is lit up stays in sight: it moves to the line that is folded.
    if (close && litOfAll > at && litOfAll <= at + inside[at]) {
      setLight({ record: all[at].own?.number, type: all[at].own?.type });
    }
  };
  const lit = shown.indexOf(litOfAll);
  const isLit = (l: Line) => l.item !== undefined && l.item.number > 0 && l.item.number === wanted;
  const several = preview.types.length > 1;
  const { scroll, lines } = useLines(shown.length, lit);
  return (
    <div ref={scroll} className="data h-full overflow-auto">
      {format.ruled && (
        <Ruler
          layout={layout}
          type={Math.max(0, ruled)}
          width={Math.min(2_000, Math.max(1, ...all.slice(0, 200).map((l) => l.text.length)))}
          before={56 + (several ? 96 : 0) + 8}
          change={change}
        />
      )}
      <div
        role="listbox"
        aria-label="Lines of the file"
        tabIndex={0}
        className="relative min-w-max"
        style={{ height: lines.getTotalSize() }}
        onKeyDown={(e) => {
          if (litOfAll >= 0 && inside[litOfAll] > 0 && (e.key === "ArrowLeft" || e.key === "ArrowRight")) {
            e.preventDefault();
            fold(litOfAll, e.key === "ArrowLeft");
          }
          const next = moved(e.key, lit, shown.length);
          if (next === undefined) return;
          e.preventDefault();
          const to = all[shown[next]];
          setLight({ ...light, record: to.own?.number, type: to.own?.type });
        }}
      >
        {lines.getVirtualItems().map((v) => {
          const at = shown[v.index];
          const line = all[at];
          const within = inside[at] ?? 0;
          const isFolded = within > 0 && folded.has(foldable[at].key) && shown[v.index + 1] !== at + 1;
          return (
            // biome-ignore lint/a11y/useKeyWithClickEvents: the arrow keys of the list around it do the same
            <div
              key={v.key}
              role="option"
              aria-selected={isLit(line)}
              className={`absolute left-0 flex h-6 w-full items-center whitespace-pre ${isLit(line) ? "bg-pine-wash" : ""}`}
              style={{ top: v.start }}
              onClick={() => setLight({ record: line.own?.number, type: line.own?.type })}
            >
              <span className="sticky left-0 z-[1] flex h-full shrink-0 bg-card">
                <span
                  className={`w-14 border-r border-line bg-sunk pr-2 text-right text-xs leading-6 text-faint ${bad(line) ? "border-r-4 border-r-brick" : ""}`}
                  title={`byte ${line.offset}`}
                >
                  {line.part ? "" : line.line}
                </span>
                {several && (
                  <span
                    className="w-24 truncate border-r border-line pl-2 text-xs leading-6 text-faint"
                    style={{ background: typeTint(line.own?.type ?? -1) }}
                  >
                    {line.own && line.own.type >= 0 ? preview.types[line.own.type].name : ""}
                  </span>
                )}
              </span>
              {format.nests && (
                <span className="w-5 shrink-0 text-center">
                  {within > 0 && (
                    // biome-ignore lint/a11y/useKeyWithClickEvents: the left and right arrow keys of the list around it do the same
                    // biome-ignore lint/a11y/noStaticElementInteractions: the left and right arrow keys of the list around it do the same
                    <span
                      title={`${isFolded ? "Unfold" : "Fold"} (arrow ${isFolded ? "right" : "left"})`}
                      className="cursor-pointer align-middle text-faint hover:text-ink"
                      onClick={(e) => {
                        e.stopPropagation();
                        fold(at, !isFolded);
                      }}
                    >
                      {isFolded ? <ChevronRight size={14} aria-hidden /> : <ChevronDown size={14} aria-hidden />}
                    </span>
                  )}
                </span>
              )}
              <span className={format.nests ? "" : "pl-2"}>
                <Text line={line} items={items} types={preview.types} light={light} setLight={setLight} />
                {isFolded && <span className="ml-1 text-xs text-faint">… {plural(within, "line")}</span>}
              </span>
            </div>
          );
        })}
      </div>
    </div>
  );
}

/** Each record type has its own ground behind its name, as far as there are tints. */
function typeTint(type: number): string | undefined {
  return type < 0 ? undefined : `var(--type-${type % 6})`;
}

function lineOf(r: Item): Line {
  return { kind: r.fate, line: r.line, offset: r.offset, text: r.text, cells: r.cells, item: r, own: r };
}

/** The lines of records that hold records, each with the innermost record that it belongs to. */
function nestedLines(records: Item[], format: Format): Line[] {
  const numbered = new Map(records.map((r) => [r.number, r]));
  const begun = new Map(records.filter((r) => r.inside).map((r) => [r.line, r]));
  const lines = records.filter((r) => !r.inside).flatMap((r) => linesOf(r, format));
  const valued = (line?: Line) => (line?.cells.length ? numbered.get(line.cells[0].record) : undefined);
  let around: { own?: Item; indent: number }[] = [];
  return lines.map((line, i) => {
    const indent = indentOf(line.text).length;
    if (line.item !== lines[i - 1]?.item) around = [];
    around = around.filter((a) => a.indent <= indent);
    const begins = line.part === undefined ? begun.get(line.line) : undefined;
    const opens = line.part !== undefined && line.text.endsWith("{") ? valued(lines[i + 1]) : undefined;
    const own = valued(line) ?? begins ?? opens ?? around[around.length - 1]?.own ?? line.item;
    around = [...around.filter((a) => a.indent < indent), { own, indent }];
    return { ...line, own };
  });
}

/** A record as the lines it stands on; the first is indented like the last, as it is in the file. */
function linesOf(r: Item, format: Format): Line[] {
  const texts = r.text.split(/\r?\n/);
  if (texts.length === 1) {
    const parts = viewOf(format).parts?.(format, r.text) ?? [];
    return parts.length < 2 ? [lineOf(r)] : parts.map((p, part) => ({ ...partOf(r, p), part }));
  }
  const indent = indentOf(texts[texts.length - 1]);
  let at = 0;
  return texts.map((text, i) => {
    const from = r.text.indexOf(text, at);
    at = from + text.length;
    return { ...partOf(r, { from, to: at, depth: 0 }, i === 0 ? indent : ""), line: r.line + i };
  });
}

/** A part of a record's text with the cells in it. */
function partOf(r: Item, part: TextPart, indent = "  ".repeat(part.depth)): Line {
  const moved = indent.length - part.from;
  return {
    ...lineOf(r),
    text: indent + r.text.slice(part.from, part.to),
    cells: r.cells
      .filter((c) => c.from >= part.from && c.to <= part.to)
      .map((c) => ({ ...c, from: c.from + moved, to: c.to + moved })),
  };
}

function indentOf(text: string): string {
  return /^\s*/.exec(text)?.[0] ?? "";
}

function bad(line: Line): boolean {
  return line.kind === "reject" || line.kind === "halt";
}

/** A line with its fields tinted in turn, the lit one and the bad ones marked. */
function Text(props: {
  line: Line;
  items: Map<number, Item>;
  types: Preview["types"];
  light: Light;
  setLight: (light: Light) => void;
}) {
  const { line, items, types, light, setLight } = props;
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
    const item = items.get(cell.record) ?? line.item;
    const type = Math.max(0, item?.type ?? 0);
    const name = cell.field >= 0 ? types[type]?.fields[cell.field] : undefined;
    const finding = name === undefined ? undefined : item?.findings.find((f) => f.field === name);
    const lit =
      light.field === cell.field &&
      cell.field >= 0 &&
      (light.type ?? 0) === type &&
      (light.record === undefined || light.record === item?.number || line.kind === "header");
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
      // biome-ignore lint/a11y/useKeyWithClickEvents: the arrow keys of the list around it do the same
      // biome-ignore lint/a11y/noStaticElementInteractions: the arrow keys of the list around it do the same
      <span
        key={`c${i}`}
        title={finding?.message ?? undefined}
        className={`rounded-xs ${tone} ${line.kind === "header" ? "font-semibold" : ""}`}
        onClick={(e) => {
          e.stopPropagation();
          setLight({ record: item?.number, type, field: cell.field >= 0 ? cell.field : undefined });
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
