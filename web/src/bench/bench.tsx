import { keepPreviousData, useQuery } from "@tanstack/react-query";
import { Tabs } from "radix-ui";
import { type ReactNode, useEffect, useState } from "react";
import type { Schemas } from "../api/client";
import type { Job, Layout } from "../definitions";
import { viewOf } from "../formats/formats";
import { Button, Empty, Trouble } from "../ui/basics";
import { useSearchValue } from "../ui/use-search-value";
import { useSettled } from "../ui/use-settled";
import { count, plural } from "../ui/words";
import { FileView } from "./file-view";
import { FindingsList } from "./findings-list";
import type { Light } from "./light";
import type { Preview } from "./preview";
import { RawView } from "./raw-view";
import { RecordsView } from "./records-view";
import { RowsView } from "./rows-view";
import { SheetView } from "./sheet-view";
import { ValueStrip } from "./value-strip";

/** What the bench computes from: a layout, and the job that makes rows of it, if one does. */
export type Work = { layout: Layout; job?: Job };

type Props = {
  of: { owner: "job" | "layout"; name: string };
  work: Work;
  compute: (work: Work, from: number, count: number) => Promise<Schemas["BenchView"]>;
  change: (layout: Layout) => void;
  sampleName: string | null;
  light: Light;
  setLight: (light: Light) => void;
  giveSample: (file: File) => void;
  empty: string;
  /** Told what is shown. */
  onSeen?: (view: Schemas["BenchView"]) => void;
  /** A further view of the sample. */
  extra?: { value: string; label: string; content: ReactNode };
};

const part = 500;

/** The sample beside what reads it: the file as it is, its records, and the rows they become, all lit up together. */
export function Bench({
  of,
  work,
  compute,
  change,
  sampleName,
  light,
  setLight,
  giveSample,
  empty,
  onSeen,
  extra,
}: Props) {
  const [asked, setView] = useSearchValue("view");
  const [from, setFrom] = useState(1);
  // A definition is one value: the bench is computed when it has not changed for a moment.
  const settled = useSettled(JSON.stringify(work), 120);
  const views = [
    ["file", "File"],
    ["records", "Records"],
    ...(work.job ? [["rows", "Rows"]] : []),
    ...(extra ? [[extra.value, extra.label]] : []),
    ["raw", "Raw"],
  ];
  const view = views.some(([v]) => v === asked) && asked ? asked : "file";
  // What is lit up, and findings, belong to the views that show records.
  const bound = ["file", "records", "rows"].includes(view);
  const bench = useQuery({
    queryKey: ["bench", of.owner, of.name, sampleName, settled, from],
    enabled: !!sampleName,
    retry: false,
    placeholderData: keepPreviousData,
    queryFn: () => compute(JSON.parse(settled) as Work, from, part),
  });
  useEffect(() => {
    if (bench.data) onSeen?.(bench.data);
  }, [bench.data, onSeen]);
  const drop = (e: React.DragEvent) => {
    e.preventDefault();
    const file = e.dataTransfer.files[0];
    if (file) giveSample(file);
  };
  if (!sampleName) {
    return (
      <section aria-label="Bench" onDrop={drop} onDragOver={(e) => e.preventDefault()}>
        <Empty title="No sample yet">{empty}</Empty>
      </section>
    );
  }
  const preview = bench.data?.preview;
  const goTo = (record: number, type: number, field?: number) => {
    if (record > 0 && (record < from || record >= from + part)) setFrom(Math.max(1, record - 50));
    setLight({ record, type, field });
  };
  return (
    <section
      aria-label="Bench"
      className="flex min-h-0 min-w-0 flex-col bg-card"
      onDrop={drop}
      onDragOver={(e) => e.preventDefault()}
    >
      <Tabs.Root value={view} onValueChange={setView} className="flex min-h-0 flex-1 flex-col">
        <div className="flex flex-wrap items-center gap-x-4 border-b border-line px-4">
          <Tabs.List aria-label="The sample as" className="flex gap-1">
            {views.map(([value, label]) => (
              <Tabs.Trigger
                key={value}
                value={value}
                className="border-b-2 border-transparent px-2 py-2 text-faint data-[state=active]:border-pine data-[state=active]:font-semibold data-[state=active]:text-ink"
              >
                {label}
              </Tabs.Trigger>
            ))}
          </Tabs.List>
          <span className="data min-w-0 max-w-56 truncate text-xs text-faint" title={sampleName}>
            {sampleName}
          </span>
          {preview && (
            <Counts summary={preview.summary} micros={bench.data?.micros ?? 0} good={work.job ? "row" : "good"} />
          )}
        </div>
        {bench.isError && (
          <div className="p-3">
            <Trouble error={bench.error} />
          </div>
        )}
        <Tabs.Content value="raw" className="min-h-0 flex-1">
          <RawView owner={of.owner} id={of.name} file={sampleName} />
        </Tabs.Content>
        {extra && (
          <Tabs.Content value={extra.value} className="min-h-0 flex-1">
            {extra.content}
          </Tabs.Content>
        )}
        {preview && (
          <>
            <Tabs.Content value="file" className="min-h-0 flex-1">
              {viewOf(work.layout.format).sheets ? (
                <SheetView of={of} file={sampleName} preview={preview} light={light} setLight={setLight} />
              ) : (
                <FileView preview={preview} layout={work.layout} change={change} light={light} setLight={setLight} />
              )}
            </Tabs.Content>
            <Tabs.Content value="records" className="min-h-0 flex-1">
              <RecordsView preview={preview} layout={work.layout} light={light} setLight={setLight} />
            </Tabs.Content>
            {work.job && (
              <Tabs.Content value="rows" className="min-h-0 flex-1">
                <RowsView preview={preview} layout={work.layout} job={work.job} light={light} setLight={setLight} />
              </Tabs.Content>
            )}
            {bound && preview.summary.read > part && (
              <div className="flex items-center gap-2 border-t border-line px-4 py-1 text-xs text-faint">
                <Button
                  look="quiet"
                  className="h-6"
                  disabled={from === 1}
                  onClick={() => setFrom(Math.max(1, from - part))}
                >
                  Earlier
                </Button>
                records {count(from)} to {count(Math.min(preview.summary.read, from + part - 1))} of{" "}
                {count(preview.summary.read)}
                {preview.summary.cut && ", where the bench stopped reading"}
                <Button
                  look="quiet"
                  className="h-6"
                  disabled={from + part > preview.summary.read}
                  onClick={() => setFrom(from + part)}
                >
                  Later
                </Button>
              </div>
            )}
            {bound && <ValueStrip preview={preview} layout={work.layout} light={light} />}
            {bound && <FindingsList preview={preview} light={light} goTo={goTo} />}
          </>
        )}
      </Tabs.Root>
    </section>
  );
}

function Counts({ summary, micros, good }: { summary: Preview["summary"]; micros: number; good: "row" | "good" }) {
  const split = summary.withoutRows > 0 || summary.setAside > 0;
  return (
    <span className="ml-auto py-1.5 text-xs" title={`computed in ${(micros / 1000).toFixed(1)} ms`}>
      {summary.cut && "stopped after "}
      {plural(summary.read, "record")}
      {good === "row" && summary.documents !== summary.read && (
        <>
          {" "}
          in <strong>{plural(summary.documents, "document")}</strong>
        </>
      )}{" "}
      ={" "}
      <span className="text-moss">
        {good === "good"
          ? plural(summary.rows + summary.withoutRows, "good", "good")
          : plural(summary.rows, split ? "delivered" : "row", split ? "delivered" : "rows")}
      </span>{" "}
      + <span className={summary.rejected ? "text-brick" : "text-faint"}>{plural(summary.rejected, "reject")}</span>
      {summary.setAside > 0 && <span className="text-faint"> + {count(summary.setAside)} set aside</span>}
      {good === "row" && summary.withoutRows > 0 && (
        <span className="text-faint"> + {count(summary.withoutRows)} without rows</span>
      )}
      {summary.blank > 0 && <span className="text-faint"> · {plural(summary.blank, "blank row")}</span>}
      {summary.cut && <strong className="text-ochre"> · the sample goes on</strong>}
      {summary.halted && <strong className="text-brick"> · halted</strong>}
    </span>
  );
}
