import { keepPreviousData, useQuery } from "@tanstack/react-query";
import { Tabs } from "radix-ui";
import { useEffect, useState } from "react";
import { api, ask, type Schemas } from "../api/client";
import type { Sheet } from "../definitions";
import type { Light } from "../sheet/job-page";
import { Button, Empty, Trouble } from "../ui/basics";
import { useSearchValue } from "../ui/use-search-value";
import { count, plural } from "../ui/words";
import { FileView } from "./file-view";
import { FindingsList } from "./findings-list";
import { RecordsView } from "./records-view";
import { RowsView } from "./rows-view";

export type Preview = Schemas["Preview"];

type Props = {
  job: string;
  sheet: Sheet;
  change: (sheet: Sheet) => void;
  sampleName: string | null;
  light: Light;
  setLight: (light: Light) => void;
  giveSample: (file: File) => void;
};

const part = 500;

function useSettled<T>(value: T, millis: number): T {
  const [settled, setSettled] = useState(value);
  useEffect(() => {
    const timer = setTimeout(() => setSettled(value), millis);
    return () => clearTimeout(timer);
  }, [value, millis]);
  return settled;
}

/** The sample beside the sheet: the file as it is, its records, and the rows they become, all lit up together. */
export function Bench({ job, sheet, change, sampleName, light, setLight, giveSample }: Props) {
  const [asked, setView] = useSearchValue("view");
  const [from, setFrom] = useState(1);
  const settled = useSettled(sheet, 120);
  const view = asked ?? "file";
  const bench = useQuery({
    queryKey: ["bench", job, sampleName, settled, from],
    enabled: !!sampleName,
    retry: false,
    placeholderData: keepPreviousData,
    queryFn: () =>
      ask(
        api.POST("/api/jobs/{name}/bench", {
          params: { path: { name: job }, query: { from, count: part } },
          body: settled as Schemas["Sheet"],
        }),
      ),
  });
  const drop = (e: React.DragEvent) => {
    e.preventDefault();
    const file = e.dataTransfer.files[0];
    if (file) giveSample(file);
  };
  if (!sampleName) {
    return (
      <section aria-label="Bench" onDrop={drop} onDragOver={(e) => e.preventDefault()}>
        <Empty title="No sample yet">
          Drop a file here that is like the ones to come, or choose one with "Change the sample". It stays beside the
          sheet and shows at once what each change does.
        </Empty>
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
        <div className="flex items-center gap-4 border-b border-line px-4">
          <Tabs.List aria-label="The sample as" className="flex gap-1">
            {[
              ["file", "File"],
              ["records", "Records"],
              ["rows", "Rows"],
            ].map(([value, label]) => (
              <Tabs.Trigger
                key={value}
                value={value}
                className="border-b-2 border-transparent px-2 py-2 text-faint data-[state=active]:border-pine data-[state=active]:font-semibold data-[state=active]:text-ink"
              >
                {label}
              </Tabs.Trigger>
            ))}
          </Tabs.List>
          <span className="data min-w-0 truncate text-xs text-faint" title={sampleName}>
            {sampleName}
          </span>
          {preview && <Counts summary={preview.summary} micros={bench.data?.micros ?? 0} />}
        </div>
        {bench.isError && (
          <div className="p-3">
            <Trouble error={bench.error} />
          </div>
        )}
        {preview && (
          <>
            <Tabs.Content value="file" className="min-h-0 flex-1">
              <FileView preview={preview} sheet={sheet} change={change} light={light} setLight={setLight} />
            </Tabs.Content>
            <Tabs.Content value="records" className="min-h-0 flex-1">
              <RecordsView preview={preview} sheet={sheet} light={light} setLight={setLight} />
            </Tabs.Content>
            <Tabs.Content value="rows" className="min-h-0 flex-1">
              <RowsView preview={preview} sheet={sheet} light={light} setLight={setLight} />
            </Tabs.Content>
            {preview.summary.read > part && (
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
                {preview.summary.cut && " and more"}
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
            <FindingsList preview={preview} light={light} goTo={goTo} />
          </>
        )}
      </Tabs.Root>
    </section>
  );
}

function Counts({ summary, micros }: { summary: Preview["summary"]; micros: number }) {
  return (
    <span className="ml-auto shrink-0 text-xs" title={`computed in ${(micros / 1000).toFixed(1)} ms`}>
      {plural(summary.read, "record")} ={" "}
      <span className="text-moss">
        {plural(
          summary.rows,
          summary.withoutRows > 0 ? "delivered" : "row",
          summary.withoutRows > 0 ? "delivered" : "rows",
        )}
      </span>{" "}
      + <span className={summary.rejected ? "text-brick" : "text-faint"}>{plural(summary.rejected, "reject")}</span>
      {summary.withoutRows > 0 && <span className="text-faint"> + {count(summary.withoutRows)} read only</span>}
      {summary.blank > 0 && <span className="text-faint"> · {plural(summary.blank, "blank row")}</span>}
      {summary.halted && <strong className="text-brick"> · halted</strong>}
    </span>
  );
}
