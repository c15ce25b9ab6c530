import { useQuery } from "@tanstack/react-query";
import { api, ask } from "../api/client";

/** The connections there are. */
export function useConnections() {
  return useQuery({ queryKey: ["connections"], queryFn: () => ask(api.GET("/api/connections")) });
}

/** The tables of a connection. */
export function useTables(connection?: string) {
  return useQuery({
    queryKey: ["tables", connection],
    enabled: !!connection,
    retry: false,
    queryFn: () => ask(api.GET("/api/connections/{name}/tables", { params: { path: { name: connection ?? "" } } })),
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
        api.GET("/api/connections/{name}/tables/{table}", {
          params: { path: { name: of?.connection ?? "", table: of?.table ?? "" } },
        }),
      ),
  });
}
