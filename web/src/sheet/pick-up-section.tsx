import { useQuery } from "@tanstack/react-query";
import { api, ask } from "../api/client";
import type { PickUp } from "../definitions";
import { Button, Select, TextBox, Tick } from "../ui/basics";
import type { SectionProps } from "./sections";

export function PickUpSection({ sheet, change }: SectionProps) {
  const roots = useQuery({ queryKey: ["roots"], queryFn: () => ask(api.GET("/api/roots")) });
  const { job } = sheet;
  const p = job.pickUp;
  const put = (pickUp: PickUp | undefined) => change({ ...sheet, job: { ...job, pickUp } });
  if (!p) {
    return (
      <div className="flex flex-col items-start gap-2">
        <p className="text-faint">Files are given by hand, through "Run a file".</p>
        {roots.data?.length === 0 && (
          <p className="text-sm text-faint">
            No root folder is configured (ninepin.roots in the settings), so none can be watched.
          </p>
        )}
        <Button
          disabled={!roots.data?.length}
          onClick={() =>
            put({
              root: roots.data?.[0] ?? "",
              folder: "",
              pattern: "*.csv",
              everySeconds: 30,
              readySeconds: 10,
              sameFileAgain: false,
            })
          }
        >
          Watch a folder
        </Button>
      </div>
    );
  }
  const set = (part: Partial<PickUp>) => put({ ...p, ...part });
  const seconds = (v: string) => Math.max(0, Number.parseInt(v, 10) || 0);
  return (
    <>
      <div className="grid grid-cols-3 gap-3">
        <Select
          label="Root"
          value={p.root}
          onChange={(root) => set({ root })}
          options={[...new Set([p.root, ...(roots.data ?? [])])].map((r) => ({ value: r, label: r }))}
        />
        <TextBox label="Folder below it" value={p.folder ?? ""} onChange={(folder) => set({ folder })} data />
        <TextBox label="File names" value={p.pattern} onChange={(pattern) => set({ pattern })} hint="* and ?" data />
      </div>
      <div className="grid grid-cols-3 gap-3">
        <Select
          label="Looks"
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
        <TextBox
          label="Ready when unchanged for (s)"
          value={p.readySeconds}
          onChange={(v) => set({ readySeconds: seconds(v) })}
          inputMode="numeric"
          data
        />
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
        <Tick
          label="Take the same file again"
          checked={p.sameFileAgain}
          onChange={(sameFileAgain) => set({ sameFileAgain })}
        />
      </div>
      <Button look="quiet" className="self-start" onClick={() => put(undefined)}>
        Watch no folder
      </Button>
    </>
  );
}
