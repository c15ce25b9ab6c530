import { useQuery } from "@tanstack/react-query";
import { Suspense } from "react";
import { api, ask, type Schemas } from "../api/client";
import { later } from "../ui/later";
import type { Said } from "./use-rules";

const FormulaEditor = later(() => import("./formula-editor").then((m) => m.FormulaEditor));

type Props = {
  label: string;
  formula: string;
  change: (formula: string) => void;
  said?: Said;
  names: Schemas["Named"][];
  record: number;
  className?: string;
};

/** A formula with what it gives for the chosen record of the sample, or why it gives nothing. */
export function FormulaBox({ label, formula, change, said, names, record, className }: Props) {
  const functions = useQuery({
    queryKey: ["formula-functions"],
    staleTime: Number.POSITIVE_INFINITY,
    queryFn: () => ask(api.GET("/api/v1/formulas/functions")),
  });
  return (
    <div className={`flex min-w-0 flex-col gap-1 ${className ?? ""}`}>
      <Suspense fallback={<Fetched label={label} formula={formula} />}>
        <FormulaEditor
          label={label}
          text={formula}
          change={change}
          problem={said?.problem ? { from: said.from, to: said.to, message: said.problem } : undefined}
          names={names}
          functions={functions.data ?? []}
        />
      </Suspense>
      {said && formula && <Outcome said={said} record={record} />}
    </div>
  );
}

/** The formula while its editor is fetched. */
function Fetched({ label, formula }: { label: string; formula: string }) {
  return (
    <textarea
      aria-label={label}
      readOnly
      rows={Math.max(1, formula.split("\n").length)}
      value={formula}
      className="data w-full resize-none rounded border border-line bg-card px-2 py-1.5"
    />
  );
}

/** What a rule or condition gives for a record, or why it gives nothing. */
export function Outcome({ said, record }: { said: Said; record: number }) {
  if (said.problem) {
    return (
      <p className="text-sm text-brick" role="status">
        {said.problem}
      </p>
    );
  }
  return (
    <p className="flex min-w-0 flex-wrap items-baseline gap-x-2 text-sm" role="status">
      {record ? (
        <>
          <span className="shrink-0 text-faint">record {record}</span>
          <span className="data min-w-0 font-semibold break-words">{said.value ?? "NULL"}</span>
        </>
      ) : (
        <span className="text-faint">The sample has no record to try it on.</span>
      )}
      <span className="data ml-auto shrink-0 text-xs text-faint">{said.type}</span>
    </p>
  );
}
