import { useQuery } from "@tanstack/react-query";
import { api, ask } from "../api/client";
import type { PickUp } from "../definitions";
import { Select, TextBox, Tick } from "../ui/basics";
import { coming } from "../ui/words";
import { useCron } from "./cron";
import { QueryForm } from "./query-form";
import type { SectionProps } from "./sections";

export function PickUpSection({ sheet, change }: SectionProps) {
  const roots = useQuery({ queryKey: ["roots"], queryFn: () => ask(api.GET("/api/roots")) });
  const { job } = sheet;
  const p = job.pickUp;
  const cron = useCron(p?.cron);
  const meant = cron.data && `That is ${cron.data.words}; next ${cron.data.next.map(coming).join(", ")}.`;
  const put = (pickUp: PickUp | undefined) => change({ ...sheet, job: { ...job, pickUp } });
  const from = (kind: string) => {
    const times = {
      everySeconds: p?.everySeconds ?? (p?.cron ? undefined : 30),
      cron: p?.cron,
      expectedBy: p?.expectedBy,
    };
    if (kind === "hand") put(undefined);
    else if (kind === "query")
      put({ ...times, readySeconds: 0, sameFileAgain: false, query: { connection: "", statement: "" } });
    else
      put({
        ...times,
        root: roots.data?.[0] ?? "",
        folder: "",
        pattern: "*.csv",
        readySeconds: 10,
        sameFileAgain: false,
      });
  };
  const kind = !p ? "hand" : p.query ? "query" : "folder";
  const source = (
    <Select
      label="Records come from"
      value={kind}
      onChange={from}
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
  const set = (part: Partial<PickUp>) => put({ ...p, ...part });
  const seconds = (v: string) => Math.max(0, Number.parseInt(v, 10) || 0);
  return (
    <>
      {source}
      {p.query ? (
        <QueryForm sheet={sheet} change={change} query={p.query} put={(query) => set({ query })} />
      ) : (
        <div className="grid grid-cols-3 gap-3">
          <Select
            label="Root"
            value={p.root ?? ""}
            onChange={(root) => set({ root })}
            options={[...new Set([p.root ?? "", ...(roots.data ?? [])])].map((r) => ({ value: r, label: r }))}
          />
          <TextBox label="Folder below it" value={p.folder ?? ""} onChange={(folder) => set({ folder })} data />
          <TextBox
            label="File names"
            value={p.pattern ?? ""}
            onChange={(pattern) => set({ pattern })}
            hint="* and ?"
            data
          />
        </div>
      )}
      <div className="grid grid-cols-3 gap-3">
        <Select
          label={p.query ? "Asks" : "Looks"}
          value={p.cron != null ? "cron" : "every"}
          onChange={(v) =>
            set(v === "cron" ? { cron: "0 19 * * *", everySeconds: undefined } : { cron: undefined, everySeconds: 30 })
          }
          options={[
            { value: "every", label: "every so many seconds" },
            { value: "cron", label: "at cron times" },
          ]}
        />
        {p.cron != null ? (
          <TextBox
            label="Cron"
            value={p.cron}
            onChange={(cron) => set({ cron })}
            hint="minute hour day month weekday"
            problem={cron.error?.message}
            data
          />
        ) : (
          <TextBox
            label="Seconds"
            value={p.everySeconds ?? 30}
            onChange={(v) => set({ everySeconds: Math.max(1, seconds(v)) })}
            inputMode="numeric"
            data
          />
        )}
        {!p.query && (
          <TextBox
            label="Ready when unchanged for (s)"
            value={p.readySeconds}
            onChange={(v) => set({ readySeconds: seconds(v) })}
            inputMode="numeric"
            data
          />
        )}
        {meant && <p className="col-span-3 -mt-1 text-xs text-faint">{meant}</p>}
      </div>
      <div className="grid grid-cols-3 items-end gap-3">
        <TextBox
          label="Expected daily by"
          value={p.expectedBy ?? ""}
          placeholder="no time"
          onChange={(v) => set({ expectedBy: v || undefined })}
          data
        />
        <Select
          label="After a crash of Ninepin"
          value={job.afterCrash ?? "restart"}
          onChange={(v) => change({ ...sheet, job: { ...job, afterCrash: v as "restart" | "offer" } })}
          options={[
            { value: "restart", label: "restart the run" },
            { value: "offer", label: "offer its restart" },
          ]}
        />
        {!p.query && (
          <Tick
            label="Take the same file again"
            checked={p.sameFileAgain}
            onChange={(sameFileAgain) => set({ sameFileAgain })}
          />
        )}
      </div>
    </>
  );
}
