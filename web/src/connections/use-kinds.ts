import { useQuery } from "@tanstack/react-query";
import { api, ask } from "../api/client";

/** The kinds of databases that connections can lead to, with those that the operator has put a driver there for. */
export function useKinds() {
  return useQuery({
    queryKey: ["kinds of databases"],
    staleTime: Number.POSITIVE_INFINITY,
    queryFn: () => ask(api.GET("/api/v1/connections/kinds")),
  });
}
