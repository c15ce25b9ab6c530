import { useQuery } from "@tanstack/react-query";
import { useParams } from "react-router";
import { api, ask, type Schemas } from "../api/client";
import type { Sheet } from "../definitions";
import { useSettled } from "../ui/use-settled";

/** A formula that is no rule; unless it may give anything, it is a condition. */
export type Condition = { of?: string; formula: string; any?: boolean };

/** What there is to say of a rule or condition, and what it can name. */
export type Said = Schemas["Said"];

type Asked = { job: Sheet["job"]; layout: Sheet["layout"]; delivery: number; record: number; conditions: Condition[] };

const key = (c: Condition) => `${c.of ?? ""}|${c.formula}`;

/**
 * Tries the rules of a delivery, and conditions, on the chosen record of the sample as they are typed. What is returned
 * is looked up by target field and by the text of a condition, so that an answer to an earlier state does no harm.
 */
export function useRules(sheet: Sheet, delivery: number, record: number, conditions: Condition[] = []) {
  const { name = "" } = useParams();
  const asked: Asked = { job: sheet.job, layout: sheet.layout, delivery, record, conditions };
  const settled = useSettled(JSON.stringify(asked), 150);
  const probe = useQuery({
    queryKey: ["rules", name, settled],
    placeholderData: (before) => before,
    retry: false,
    queryFn: async () => {
      const body = JSON.parse(settled) as Asked;
      const said = await ask(
        api.POST("/api/v1/jobs/{job}/rules", {
          params: { path: { job: name } },
          body: body,
        }),
      );
      const targets = (body.job.deliveries?.[delivery]?.shaping ?? []).map((r) => r.target);
      return {
        said,
        rules: new Map(targets.map((t, i) => [t, said.rules[i]])),
        conditions: new Map(body.conditions.map((c, i) => [key(c), said.conditions[i]])),
      };
    },
  });
  return {
    record: probe.data?.said.record ?? 0,
    names: probe.data?.said.names ?? [],
    unread: probe.data?.said.unread ?? [],
    error: probe.error,
    rule: (target: string) => probe.data?.rules.get(target),
    condition: (c: Condition) => probe.data?.conditions.get(key(c)),
  };
}

export type Rules = ReturnType<typeof useRules>;
