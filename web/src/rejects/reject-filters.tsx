import { useQuery } from "@tanstack/react-query";
import { useState } from "react";
import { Link } from "react-router";
import { api, ask } from "../api/client";
import { Select, TextBox } from "../ui/basics";
import { count, plural } from "../ui/words";
import { useFilter, useReasons } from "./use-rejects";

const parts = ["job", "run", "code", "reason", "field", "since", "until", "who"];

/** Which rejects are shown: by state, job, reason, day, person. */
export function RejectFilters({ count: many }: { count?: number }) {
  const { part, put, query } = useFilter();
  const jobs = useQuery({ queryKey: ["jobs"], queryFn: () => ask(api.GET("/api/v1/jobs")) });
  const reasons = useReasons(query);
  const chosen = [part("code"), part("reason")].filter(Boolean).join(" ");
  const options = (reasons.data ?? []).map((r) => ({
    value: `${r.code} ${r.reason}`,
    label: `${r.reason} (${count(r.count)})`,
  }));
  if (chosen && !options.some((o) => o.value === chosen))
    options.unshift({ value: chosen, label: part("reason") ?? `all of ${chosen}` });
  const narrowed = parts.some((p) => part(p));
  const fields = [...new Set((reasons.data ?? []).flatMap((r) => (r.field ? [r.field] : [])))].sort();
  return (
    <div className="flex flex-wrap items-end gap-3 px-6 py-4">
      <h1 className="mr-auto leading-tight">
        Rejects
        <span className="block text-sm font-normal text-faint">
          <Link to="/rejects/reasons" className="mr-2 text-pine underline">
            over time
          </Link>
          {many !== undefined && plural(many, "record")}
          {narrowed && (
            <button
              type="button"
              className="ml-2 text-pine underline"
              onClick={() => put(Object.fromEntries([...parts, "at"].map((p) => [p, undefined])))}
            >
              {part("run") ? `of run ${part("run")}; show all` : "show all"}
            </button>
          )}
        </span>
      </h1>
      <Select
        label="State"
        className="w-24"
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
        className="w-40"
        value={part("job") ?? ""}
        onChange={(job) => put({ job, code: undefined, reason: undefined, at: undefined })}
        options={[{ value: "", label: "all" }, ...(jobs.data ?? []).map((j) => ({ value: j.name, label: j.title }))]}
      />
      <Select
        label="Reason"
        className="w-40"
        value={chosen}
        onChange={(v) => {
          const at = v.indexOf(" ");
          put({ code: v ? v.slice(0, at) : undefined, reason: v ? v.slice(at + 1) : undefined, at: undefined });
        }}
        options={[{ value: "", label: "all" }, ...options]}
      />
      <Select
        label="Field"
        className="w-28"
        value={part("field") ?? ""}
        onChange={(field) => put({ field, at: undefined })}
        options={[{ value: "", label: "all" }, ...fields.map((f) => ({ value: f, label: f }))]}
      />
      <Day label="From day" value={part("since")} put={(since) => put({ since, at: undefined })} />
      <Day label="To day" value={part("until")} put={(until) => put({ until, at: undefined })} />
      <Written label="Person" value={part("who")} put={(who) => put({ who, at: undefined })} />
    </div>
  );
}

/** A day in ISO 8601; taken as soon as it is whole. */
function Day({ label, value, put }: { label: string; value?: string; put: (day?: string) => void }) {
  return <Written label={label} value={value} put={put} whole={/^\d{4}-\d\d-\d\d$/} placeholder="any" />;
}

type WrittenProps = {
  label: string;
  value?: string;
  put: (value?: string) => void;
  whole?: RegExp;
  placeholder?: string;
};

/** A text that is taken when it is whole, or empty. */
function Written({ label, value, put, whole = /./, placeholder }: WrittenProps) {
  const [text, setText] = useState(value ?? "");
  return (
    <TextBox
      label={label}
      className="w-28"
      value={text}
      placeholder={placeholder}
      onChange={(now) => {
        setText(now);
        if (now === "" || whole.test(now)) put(now || undefined);
      }}
      data
    />
  );
}
