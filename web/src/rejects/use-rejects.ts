import { useInfiniteQuery, useQuery } from "@tanstack/react-query";
import { useSearchParams } from "react-router";
import { api, ask, type Schemas } from "../api/client";
import { instant } from "../ui/words";

export type RejectLine = Schemas["RejectLine"];
export type RejectKey = Schemas["RejectKey"];

export const keyOf = (r: { run: number; leg: number; record: number }): RejectKey => ({
  run: r.run,
  leg: r.leg,
  record: r.record,
});

export const nameOf = (k: RejectKey) => `${k.run}-${k.leg}-${k.record}`;

export function keyNamed(name: string | null): RejectKey | undefined {
  const parts = name?.split("-").map(Number);
  return parts?.length === 3 && parts.every(Number.isFinite)
    ? { run: parts[0] ?? 0, leg: parts[1] ?? 0, record: parts[2] ?? 0 }
    : undefined;
}

/** Which rejects are looked at, kept in the address. */
export function useFilter() {
  const [search, setSearch] = useSearchParams();
  const part = (name: string) => search.get(name) ?? undefined;
  const put = (parts: Record<string, string | undefined>) => {
    const next = new URLSearchParams(search);
    for (const [name, value] of Object.entries(parts)) {
      if (value) next.set(name, value);
      else next.delete(name);
    }
    setSearch(next, { replace: true });
  };
  const since = part("since");
  const until = part("until");
  const query = {
    state: part("state") === "all" ? undefined : (part("state") ?? "open"),
    job: part("job"),
    run: part("run") ? Number(part("run")) : undefined,
    code: part("code"),
    reason: part("reason"),
    field: part("field"),
    who: part("who"),
    since: instant(since, "00:00:00"),
    until: instant(until, "23:59:59.999"),
  };
  return { part, put, query };
}

export type Query = ReturnType<typeof useFilter>["query"];

export function useRejects(query: Query) {
  return useInfiniteQuery({
    queryKey: ["rejects", "list", query],
    initialPageParam: undefined as string | undefined,
    queryFn: ({ pageParam }) => ask(api.GET("/api/v1/rejects", { params: { query: { ...query, after: pageParam } } })),
    getNextPageParam: (last) => last.next ?? undefined,
  });
}

export function useReasons({ state, job, run, since, until }: Query) {
  return useQuery({
    queryKey: ["rejects", "reasons", state, job, run, since, until],
    queryFn: () => ask(api.GET("/api/v1/rejects/reasons", { params: { query: { state, job, run, since, until } } })),
  });
}
