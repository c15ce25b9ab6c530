import { useQuery } from "@tanstack/react-query";
import { api, ask } from "../api/client";
import type { PickUp } from "../definitions";
import { Select, TextBox, Tick } from "../ui/basics";
import { coming } from "../ui/words";
import { useCron } from "./cron";
import { QueryForm } from "./query-form";
import type { SectionProps } from "./section-props";

export function PickUpSection({ sheet, change }: SectionProps) {
  const roots = useQuery({ queryKey: ["roots"], queryFn: () => ask(api.GET("/api/v1/roots")) });
  const { job } = sheet;
  const p = job.pickUp;
  const cron = useCron(p?.schedule?.cron);
  const meant = cron.data && `That is ${cron.data.words}; next ${cron.data.next.map(coming).join(", ")}.`;
  const put = (pickUp: PickUp | undefined) => change({ ...sheet, job: { ...job, pickUp } });
  const comeFrom = (kind: string) => {
    const schedule = p?.schedule ?? { everySeconds: 30 };
    if (kind === "hand") put(undefined);
    else if (kind === "query") put({ from: { kind, connection: "", statement: "" }, schedule });
    else {
      const from = { kind: "folder" as const, root: roots.data?.[0] ?? "", folder: "", pattern: "*.csv" };
      put({ from, schedule, ready: { unchangedSeconds: 10 }, sameFileAgain: false });
    }
  };
  const kind = p?.from.kind ?? "hand";
  const source = (
    <Select
      label="Records come from"
      value={kind}
      onChange={comeFrom}
      options={[
        { value: "hand", label: "files given by hand, through \u201cRun a file\u201d" },
        ...(roots.data?.length || kind === "folder" ? [{ value: "folder", label: "files of a folder" }] : []),
        { value: "query", label: "a query of a database" },
      ]}
    />
  );
  if (!p) {
    return (
      <>
        {source}
        {roots.data?.length === 0 && (
          <p className="text-sm text-faint">
            No root folder is configured (ninepin.roots in the settings), so none can be watched.
          </p>
        )}
      </>
    );
  }
  const { from } = p;
  const schedule = p.schedule ?? {};
  const set = (part: Partial<PickUp>) => put({ ...p, ...part });
  const look = (part: Partial<typeof schedule>) => set({ schedule: { ...schedule, ...part } });
  const seconds = (v: string) => Math.max(0, Number.parseInt(v, 10) || 0);
  return (
    <>
      {source}
      {from.kind === "query" ? (
        <QueryForm sheet={sheet} change={change} query={from} put={(query) => set({ from: query })} />
      ) : (
        <div className="grid grid-cols-3 gap-3">
          <Select
            label="Root"
            value={from.root}
            onChange={(root) => set({ from: { ...from, root } })}
            options={[...new Set([from.root, ...(roots.data ?? [])])].map((r) => ({ value: r, label: r }))}
          />
          <TextBox
            label="Folder below it"
            value={from.folder ?? ""}
            onChange={(folder) => set({ from: { ...from, folder } })}
            data
          />
          <TextBox
            label="File names"
            value={from.pattern}
            onChange={(pattern) => set({ from: { ...from, pattern } })}
            hint="* and ?"
            data
          />
        </div>
      )}
      <div className="grid grid-cols-3 gap-3">
        <Select
          label={from.kind === "query" ? "Asks" : "Looks"}
          value={schedule.cron != null ? "cron" : "every"}
          onChange={(v) =>
            look(v === "cron" ? { cron: "0 19 * * *", everySeconds: undefined } : { cron: undefined, everySeconds: 30 })
          }
          options={[
            { value: "every", label: "every so many seconds" },
            { value: "cron", label: "at cron times" },
          ]}
        />
        {schedule.cron != null ? (
          <TextBox
            label="Cron"
            value={schedule.cron}
            onChange={(cron) => look({ cron })}
            hint="minute hour day month weekday"
            problem={cron.error?.message}
            data
          />
        ) : (
          <TextBox
            label="Seconds"
            value={schedule.everySeconds ?? 30}
            onChange={(v) => look({ everySeconds: Math.max(1, seconds(v)) })}
            inputMode="numeric"
            data
          />
        )}
        {from.kind === "folder" && (
          <TextBox
            label="Unchanged for (s)"
            title="For so long its size and time must not have changed before a file is taken."
            value={p.ready?.unchangedSeconds ?? 0}
            onChange={(v) => set({ ready: { unchangedSeconds: seconds(v) } })}
            inputMode="numeric"
            data
          />
        )}
        {meant && <p className="col-span-3 -mt-1 text-xs text-faint">{meant}</p>}
      </div>
      <div className="grid grid-cols-3 items-end gap-3">
        <TextBox
          label="Expected daily by"
          value={schedule.expectedBy ?? ""}
          placeholder="no time"
          onChange={(v) => look({ expectedBy: v || undefined })}
          data
        />
        <Select
          label="After a crash of Ninepin"
          value={job.afterCrash ?? "restart"}
          onChange={(v) => change({ ...sheet, job: { ...job, afterCrash: v } })}
          options={[
            { value: "restart", label: "restart the run" },
            { value: "offer", label: "offer its restart" },
          ]}
        />
        {from.kind === "folder" && (
          <Tick
            label="Take the same file again"
            checked={p.sameFileAgain ?? false}
            onChange={(sameFileAgain) => set({ sameFileAgain })}
          />
        )}
      </div>
    </>
  );
}
