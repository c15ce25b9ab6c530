import { useQuery } from "@tanstack/react-query";
import { api, ask } from "../api/client";

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
