import { useQuery } from "@tanstack/react-query";
import { api, ask } from "../api/client";
import { Button, Select, TextBox } from "../ui/basics";
import { count, plural } from "../ui/words";
import { useFilter, useReasons } from "./use-rejects";

/** Which rejects are shown: by state, job, reason, day, person. */
export function RejectFilters({ count: many }: { count?: number }) {
  const { part, put, query } = useFilter();
  const jobs = useQuery({ queryKey: ["jobs"], queryFn: () => ask(api.GET("/api/jobs")) });
  const reasons = useReasons(query);
  const chosen = part("code") ? `${part("code")} ${part("reason")}` : "";
  const options = (reasons.data ?? []).map((r) => ({
    value: `${r.code} ${r.reason}`,
    label: `${r.reason} (${count(r.count)})`,
  }));
  if (chosen && !options.some((o) => o.value === chosen))
    options.unshift({ value: chosen, label: part("reason") ?? chosen });
  const narrowed = ["job", "run", "code", "since", "until", "who"].some((p) => part(p));
  return (
    <div className="flex flex-wrap items-end gap-3 px-6 py-4">
      <h1 className="mr-auto">
        Rejects{" "}
        {many !== undefined && <span className="text-base font-normal text-faint">{plural(many, "record")}</span>}
      </h1>
      {part("run") && <Button onClick={() => put({ run: undefined, at: undefined })}>of run {part("run")} ×</Button>}
      <Select
        label="State"
        className="w-36"
        value={part("state") ?? "open"}
        onChange={(v) => put({ state: v === "open" ? undefined : v, at: undefined })}
        options={[
          { value: "open", label: "open" },
          { value: "resubmitted", label: "sent again" },
          { value: "aside", label: "set aside" },
          { value: "all", label: "all" },
        ]}
      />
      <Select
        label="Job"
        className="w-44"
        value={part("job") ?? ""}
        onChange={(job) => put({ job, code: undefined, reason: undefined, at: undefined })}
        options={[{ value: "", label: "all" }, ...(jobs.data ?? []).map((j) => ({ value: j.name, label: j.title }))]}
      />
      <Select
        label="Reason"
        className="w-72"
        value={chosen}
        onChange={(v) => {
          const at = v.indexOf(" ");
          put({ code: v ? v.slice(0, at) : undefined, reason: v ? v.slice(at + 1) : undefined, at: undefined });
        }}
        options={[{ value: "", label: "all" }, ...options]}
      />
      <TextBox
        label="From day"
        type="date"
        className="w-36"
        value={part("since") ?? ""}
        onChange={(since) => put({ since, at: undefined })}
        data
      />
      <TextBox
        label="To day"
        type="date"
        className="w-36"
        value={part("until") ?? ""}
        onChange={(until) => put({ until, at: undefined })}
        data
      />
      {narrowed && (
        <Button
          look="quiet"
          onClick={() =>
            put({
              job: undefined,
              run: undefined,
              code: undefined,
              reason: undefined,
              since: undefined,
              until: undefined,
              who: undefined,
              at: undefined,
            })
          }
        >
          Show all
        </Button>
      )}
    </div>
  );
}
