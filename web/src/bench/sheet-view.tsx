import { keepPreviousData, useQuery } from "@tanstack/react-query";
import { EyeOff } from "lucide-react";
import { useMemo, useState } from "react";
import type { Schemas } from "../api/client";
import { api, ask } from "../api/client";
import { letters, type SheetCell, type SheetHead, type SheetRow, sheetHead, sheetRow } from "../formats/sheet-rows";
import { Button, Loading, Trouble } from "../ui/basics";
import { count, visible } from "../ui/words";
import type { Light } from "./light";
import type { Preview } from "./preview";
import { moved, useLines } from "./use-lines";

type Item = Schemas["Item"];
type Props = {
  of: { owner: "job" | "layout"; name: string };
  /** The name of the sample, by which what is kept of it is told from that of another. */
  file: string;
  preview: Preview;
  light: Light;
  setLight: (light: Light) => void;
};
type Shown = { offset: number; row: SheetRow; item?: Item };

/** So many rows are shown at a time. */
const piece = 500;
/** So many lines at the end of the text say which sheets there are. */
const tail = 1_000;
const fewestColumns = 8;
const mostColumns = 200;
/** A character is about so wide. */
const pixels = 8;
const widest = { record: 26, other: 12 };

/** A sheet as a sheet: letters over its columns, the numbers of its rows, and in it what the layout reads. */
export function SheetView({ of, file, preview, light, setLight }: Props) {
  const [asked, setAsked] = useState<{ line: number; sheet?: string }>();
  const params = { path: { owner: of.owner, id: of.name } };
  const lines = (line: number, most: number) =>
    ask(api.GET("/api/v1/raw/{owner}/{id}", { params: { ...params, query: { line, count: most } } }));
  const first =
    asked?.line ?? Math.max(2, (preview.records[0]?.line ?? 2) - (preview.records[0]?.number > 1 ? 0 : piece));
  const raw = useQuery({
    queryKey: ["sheet", of.owner, of.name, file, first],
    placeholderData: keepPreviousData,
    queryFn: () => lines(first, piece),
  });
  const total = raw.data?.lines ?? 0;
  const end = useQuery({
    queryKey: ["sheets", of.owner, of.name, file, total],
    enabled: total > 0,
    queryFn: () => lines(Math.max(1, total - tail), tail + 1),
  });
  const sheets = useMemo(
    () => (end.data?.piece.lines ?? []).map((l) => sheetHead(l.text)).filter((s): s is SheetHead => s !== undefined),
    [end.data],
  );
  const items = useMemo(() => new Map(preview.records.map((r) => [r.offset, r])), [preview]);
  const rows = useMemo<Shown[]>(() => {
    const all = (raw.data?.piece.lines ?? []).flatMap((l) => {
      const row = sheetRow(l.text);
      return row ? [{ offset: l.offset, row, item: items.get(l.offset) }] : [];
    });
    const sheet = asked?.sheet ?? all.find((r) => r.item)?.row.sheet ?? all[0]?.row.sheet;
    return all.filter((r) => r.row.sheet === sheet);
  }, [raw.data, items, asked]);
  const sheet = rows[0]?.row.sheet ?? asked?.sheet;
  const columns = Math.min(mostColumns, Math.max(fewestColumns, ...rows.map((r) => r.row.cells.at(-1)?.column ?? 0)));
  const widths = useMemo(() => widthsOf(rows, columns), [rows, columns]);
  const wanted = light.record;
  const lit = rows.findIndex((r) => r.item && r.item.number > 0 && r.item.number === wanted);
  const { scroll, lines: drawn } = useLines(rows.length, lit, light.field);
  if (raw.isError) return <Trouble error={raw.error} />;
  if (!raw.data) return <Loading />;
  const template = `3.5rem ${widths.map((w) => `${w * pixels}px`).join(" ")}`;
  const at = sheets.findIndex((s) => s.name === sheet);
  const lastLine = raw.data.piece.lines.at(-1)?.number ?? 0;
  const endOfSheet = sheets[at + 1]?.line ?? total;
  return (
    <div className="flex h-full flex-col">
      <div ref={scroll} className="data min-h-0 flex-1 overflow-auto">
        <div
          role="grid"
          aria-label={`Sheet ${sheet ?? ""}`}
          aria-rowcount={rows.length}
          tabIndex={0}
          className="min-w-max"
          onKeyDown={(e) => {
            const next = moved(e.key, lit, rows.length);
            if (next === undefined) return;
            e.preventDefault();
            setLight({ ...light, record: rows[next].item?.number, type: rows[next].item?.type });
          }}
        >
          <div
            role="row"
            className="sticky top-0 z-[2] grid border-b border-line bg-sunk text-center text-xs text-faint"
            style={{ gridTemplateColumns: template }}
          >
            <span role="columnheader" className="sticky left-0 border-r border-line bg-sunk">
              <span className="sr-only">row</span>
            </span>
            {widths.map((_, c) => (
              <span key={c} role="columnheader" className="border-r border-line py-0.5">
                {letters(c + 1)}
              </span>
            ))}
          </div>
          <div className="relative" style={{ height: drawn.getTotalSize() }}>
            {drawn.getVirtualItems().map((v) => (
              <Row
                key={v.key}
                shown={rows[v.index]}
                top={v.start}
                template={template}
                columns={columns}
                preview={preview}
                light={light}
                setLight={setLight}
              />
            ))}
          </div>
        </div>
        {rows.length === 0 && <p className="p-4 text-faint">Nothing stands on this sheet.</p>}
      </div>
      <div className="flex flex-wrap items-center gap-1 border-t border-line bg-sunk px-2 py-1 text-xs">
        <div role="tablist" aria-label="Sheets" className="flex flex-wrap gap-1">
          {sheets.map((s) => (
            <button
              key={s.name}
              type="button"
              role="tab"
              aria-selected={s.name === sheet}
              className={`rounded-sm border px-2 py-0.5 ${s.name === sheet ? "border-pine bg-card font-semibold" : "border-line text-faint"}`}
              onClick={() => setAsked({ line: Math.max(2, s.line), sheet: s.name })}
            >
              {s.name}
              {s.state !== "visible" && <span className="text-faint"> (hidden)</span>}
            </button>
          ))}
        </div>
        {at >= 0 && (endOfSheet - sheets[at].line > piece || asked) && (
          <span className="ml-auto flex items-center gap-2 text-faint">
            <Button
              look="quiet"
              className="h-6"
              disabled={first <= sheets[at].line}
              onClick={() => setAsked({ line: Math.max(2, sheets[at].line, first - piece), sheet })}
            >
              Earlier rows
            </Button>
            rows {count(rows[0]?.row.row ?? 0)} to {count(rows.at(-1)?.row.row ?? 0)} of {count(sheets[at].lastRow)}
            <Button
              look="quiet"
              className="h-6"
              disabled={lastLine + 1 >= endOfSheet}
              onClick={() => setAsked({ line: first + piece, sheet })}
            >
              Later rows
            </Button>
          </span>
        )}
      </div>
    </div>
  );
}

/** How wide columns are, in characters: by the records, less by titles and remarks. */
function widthsOf(rows: Shown[], columns: number): number[] {
  const widths = new Array<number>(columns).fill(8);
  for (const { row, item } of rows)
    for (const c of row.cells) {
      const most = item ? widest.record : widest.other;
      if (c.column <= columns && !c.covered)
        widths[c.column - 1] = Math.max(widths[c.column - 1], Math.min(most, c.text.length + 2));
    }
  return widths;
}

function Row(props: {
  shown: Shown;
  top: number;
  template: string;
  columns: number;
  preview: Preview;
  light: Light;
  setLight: (light: Light) => void;
}) {
  const { shown, top, template, columns, preview, light, setLight } = props;
  const { row, item } = shown;
  const isLit = item !== undefined && item.number > 0 && item.number === light.record;
  const isBad = item?.fate === "reject" || item?.fate === "halt";
  const cells = new Map(row.cells.map((c) => [c.column, c]));
  return (
    // biome-ignore lint/a11y/useKeyWithClickEvents: the arrow keys of the grid around it do the same
    <div
      role="row"
      tabIndex={-1}
      aria-selected={isLit}
      className={`absolute left-0 grid h-6 w-full items-stretch ${isLit ? "bg-pine-wash" : ""} ${row.hidden ? "italic" : ""}`}
      style={{ top, gridTemplateColumns: template }}
      onClick={() => setLight({ record: item?.number, type: item?.type })}
    >
      <span
        role="rowheader"
        className={`sticky left-0 z-[1] border-r border-b border-line bg-sunk pr-2 text-right text-xs leading-6 text-faint ${isBad ? "border-r-4 border-r-brick" : ""}`}
        title={row.hidden ? "a hidden row" : undefined}
      >
        {row.hidden && <EyeOff size={12} aria-label="hidden" className="mr-1 inline" />}
        {row.row}
      </span>
      {Array.from({ length: columns }, (_, c) => (
        <CellOf
          key={c}
          cell={cells.get(c + 1)}
          item={item}
          preview={preview}
          light={light}
          select={(field) => setLight({ record: item?.number, type: item?.type, field })}
        />
      ))}
    </div>
  );
}

function CellOf(props: {
  cell?: SheetCell;
  item?: Item;
  preview: Preview;
  light: Light;
  select: (field: number) => void;
}) {
  const { cell, item, preview, light, select } = props;
  const base = "truncate border-r border-b border-line px-1.5 leading-6";
  if (!cell) return <span role="gridcell" tabIndex={-1} className={base} />;
  const span = item?.cells.find((s) => s.field >= 0 && s.from === cell.from && s.to === cell.to);
  const name = span && item && item.type >= 0 ? preview.types[item.type]?.fields[span.field] : undefined;
  const finding = item?.findings.find((f) => f.field === name && name !== undefined) ?? findingAt(item, cell);
  const lit =
    span !== undefined &&
    light.field === span.field &&
    (light.type ?? 0) === item?.type &&
    (light.record === undefined || light.record === item?.number);
  const tone = finding
    ? finding.severity === "note"
      ? "bg-ochre-wash text-ochre underline decoration-wavy"
      : "bg-brick-wash font-semibold text-brick underline decoration-wavy"
    : lit
      ? "bg-pine text-on-pine"
      : span
        ? "bg-[var(--tint-0)]"
        : "text-faint";
  return (
    // biome-ignore lint/a11y/useKeyWithClickEvents: the arrow keys of the grid around it do the same
    <span
      role="gridcell"
      tabIndex={-1}
      data-lit={lit || undefined}
      title={finding?.message ?? (cell.text.length > 28 ? cell.text : undefined)}
      className={`${base} ${tone} ${cell.isText ? "" : "text-right"} ${cell.covered ? "italic" : ""}`}
      onClick={(e) => {
        if (!span) return;
        e.stopPropagation();
        select(span.field);
      }}
    >
      {cell.text === "" && finding ? "∅" : visible(cell.text)}
    </span>
  );
}

/** A finding that names no field, but the place of a cell. */
function findingAt(item: Item | undefined, cell: SheetCell): Item["findings"][number] | undefined {
  const column = letters(cell.column);
  return item?.findings.find((f) => !f.field && new RegExp(`, cell ${column}\\d+:`).test(f.message ?? ""));
}
