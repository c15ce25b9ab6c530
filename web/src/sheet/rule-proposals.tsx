import { useQuery } from "@tanstack/react-query";
import { useParams } from "react-router";
import { api, ask, type Schemas } from "../api/client";
import type { Rule, Sheet } from "../definitions";
import { Button, Trouble } from "../ui/basics";
import { Dialog } from "../ui/dialog";
import { Sure } from "../ui/sure";

type Props = { sheet: Sheet; delivery: number; take: (rules: Rule[]) => void; onClose: () => void };

/** Rules proposed by name, type and values, to be taken one by one or all; what is set is left alone. */
export function RuleProposals({ sheet, delivery, take, onClose }: Props) {
  const { name = "" } = useParams();
  const proposals = useQuery({
    queryKey: ["rule-proposals", name, delivery, JSON.stringify(sheet)],
    retry: false,
    gcTime: 0,
    placeholderData: (before) => before,
    queryFn: () =>
      ask(
        api.POST("/api/v1/jobs/{job}/proposal", {
          params: { path: { job: name } },
          body: { ...sheet, delivery, record: 0, conditions: [] },
        }),
      ),
  });
  const list = proposals.data ?? [];
  const rule = (p: Schemas["ProposedRule"]) => p.rule;
  const sure = list.filter((p) => p.sureness !== "unsure");
  return (
    <Dialog
      open
      wide
      onClose={onClose}
      title="Proposed rules"
      actions={
        <>
          <Button onClick={onClose}>Close</Button>
          {sure.length > 0 && sure.length < list.length && (
            <Button onClick={() => take(sure.map(rule))}>Take the {sure.length} sure and likely ones</Button>
          )}
          {list.length > 0 && (
            <Button look="main" onClick={() => take(list.map(rule))}>
              {list.length === 1 ? "Take it" : `Take all ${list.length}`}
            </Button>
          )}
        </>
      }
    >
      {proposals.isError && <Trouble error={proposals.error} />}
      {proposals.data && list.length === 0 && (
        <p className="text-faint">
          No further rule suggests itself: every target field has one, or no field is like those left.
        </p>
      )}
      {list.length > 0 && (
        <table className="w-full border-collapse text-sm">
          <thead>
            <tr className="border-b border-line text-xs text-faint">
              <th className="py-1 pr-4">Rule</th>
              <th className="pr-4">How sure</th>
              <th className="pr-4">Why</th>
              <td />
            </tr>
          </thead>
          <tbody>
            {list.map((p) => (
              <tr key={rule(p).target} className="border-b border-line align-baseline">
                <td className="py-1.5 pr-4">{p.sentence}</td>
                <td className="pr-4 whitespace-nowrap">
                  <Sure word={p.sureness} />
                </td>
                <td className="pr-4 text-faint">{p.why}</td>
                <td className="text-right">
                  <Button
                    look="quiet"
                    className="h-7 px-2"
                    aria-label={`Take the rule of ${rule(p).target}`}
                    onClick={() => take([rule(p)])}
                  >
                    Take
                  </Button>
                </td>
              </tr>
            ))}
          </tbody>
        </table>
      )}
    </Dialog>
  );
}
