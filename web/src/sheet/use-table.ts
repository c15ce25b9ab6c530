import { useQuery } from "@tanstack/react-query";
import { api, ask } from "../api/client";
import { type Target, targetPlace } from "../definitions";

/** The connections there are. */
export function useConnections() {
  return useQuery({ queryKey: ["connections"], queryFn: () => ask(api.GET("/api/v1/connections")) });
}

/** The tables of a connection. */
export function useTables(connection?: string) {
  return useQuery({
    queryKey: ["tables", connection],
    enabled: !!connection,
    retry: false,
    queryFn: () =>
      ask(api.GET("/api/v1/connections/{connection}/tables", { params: { path: { connection: connection ?? "" } } })),
  });
}

/** What an application takes. */
export function useOperations(connection?: string) {
  return useQuery({
    queryKey: ["operations", connection],
    enabled: !!connection,
    retry: false,
    queryFn: () =>
      ask(
        api.GET("/api/v1/connections/{connection}/operations", { params: { path: { connection: connection ?? "" } } }),
      ),
  });
}

/** The body of an operation, or a list of it, described as a table is. */
export function useOperation(of?: { connection: string; method?: string; path: string; part?: string }) {
  return useQuery({
    queryKey: ["operation", of?.connection, of?.method, of?.path, of?.part],
    enabled: !!of?.connection && !!of.path,
    retry: false,
    queryFn: () =>
      ask(
        api.GET("/api/v1/connections/{connection}/operation", {
          params: {
            path: { connection: of?.connection ?? "" },
            query: { method: of?.method ?? "POST", path: of?.path ?? "", part: of?.part },
          },
        }),
      ),
  });
}

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

/** A table as its database describes it. */
export function useTable(of?: { connection: string; table: string }) {
  return useQuery({
    queryKey: ["table", of?.connection, of?.table],
    enabled: !!of?.connection && !!of.table,
    retry: false,
    queryFn: () =>
      ask(
        api.GET("/api/v1/connections/{connection}/tables/{table}", {
          params: { path: { connection: of?.connection ?? "", table: of?.table ?? "" } },
        }),
      ),
  });
}
