import { useQuery } from "@tanstack/react-query";
import { api, ask } from "../api/client";
import { useOperation, useTable } from "../connections/use-described";
import { type Target, targetPlace } from "../definitions";

/** What rules of a delivery may fill. */
export function useTarget(to?: Target) {
  const own = to?.kind === undefined && to?.mode === "statement";
  const table = useTable(to?.kind === undefined && !own ? to : undefined);
  const operation = useOperation(to?.kind === "application" ? to : undefined);
  const described = useQuery({
    queryKey: [
      "described target",
      to?.kind === "file" ? [to.file.layout, to.record, to.stands] : own && [to.connection, to.statement],
    ],
    enabled: (own || (to?.kind === "file" && !!to.file.layout)) && !!targetPlace(to),
    retry: false,
    queryFn: () => ask(api.POST("/api/v1/target", { body: to as Target })),
  });
  return to?.kind === "file" || own ? described : to?.kind === "application" ? operation : table;
}
