import { useQuery } from "@tanstack/react-query";
import { useParams } from "react-router";
import { api, ask, type Schemas } from "../api/client";
import type { Sheet } from "../definitions";
import { useSettled } from "../ui/use-settled";
import { FormulaEditor } from "./formula-editor";

/** What a formula is tried on: the sheet, the record type that gives the rows, and the record that is chosen. */
export type Probe = { sheet: Sheet; type: number; record: number };

/** A formula with what it gives for the chosen record of the sample, or why it gives nothing. */
export function FormulaBox(props: Probe & { label: string; formula: string; change: (formula: string) => void }) {
  const { name = "" } = useParams();
  const { sheet, type, record, label, formula, change } = props;
  const settled = useSettled(JSON.stringify({ job: sheet.job, layout: sheet.layout, type, record, formula }), 150);
  const functions = useQuery({
    queryKey: ["formula-functions"],
    staleTime: Number.POSITIVE_INFINITY,
    queryFn: () => ask(api.GET("/api/formulas/functions")),
  });
  const probe = useQuery({
    queryKey: ["formula", name, settled],
    placeholderData: (before) => before,
    retry: false,
    queryFn: () =>
      ask(
        api.POST("/api/jobs/{name}/formula", {
          params: { path: { name } },
          body: JSON.parse(settled) as Schemas["FormulaAsked"],
        }),
      ),
  });
  const said = probe.data;
  return (
    <div className="col-span-3 flex min-w-0 flex-col gap-1">
      <FormulaEditor
        label={label}
        text={formula}
        change={change}
        problem={said?.problem ? { from: said.from, to: said.to, message: said.problem } : undefined}
        names={said?.names ?? []}
        functions={functions.data ?? []}
      />
      {said && <Outcome said={said} />}
    </div>
  );
}

function Outcome({ said }: { said: Schemas["FormulaProbe"] }) {
  if (said.problem) {
    return (
      <p className="text-sm text-brick" role="status">
        {said.problem}
      </p>
    );
  }
  return (
    <p className="flex min-w-0 items-baseline gap-2 text-sm" role="status">
      {said.record ? (
        <>
          <span className="shrink-0 text-faint">record {said.record}</span>
          <span className="data min-w-0 truncate font-semibold">{said.value ?? "NULL"}</span>
        </>
      ) : (
        <span className="text-faint">The sample has no record to try it on.</span>
      )}
      <span className="data ml-auto shrink-0 text-xs text-faint">{said.type}</span>
    </p>
  );
}
