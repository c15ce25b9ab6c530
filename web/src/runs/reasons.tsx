import { useInfiniteQuery, useQuery } from "@tanstack/react-query";
import { Link } from "react-router";
import { api, ask, type Schemas } from "../api/client";
import { Marked } from "../rejects/marked";
import { Button } from "../ui/basics";
import { Weight } from "../ui/state";
import { useSearchValue } from "../ui/use-search-value";
import { count } from "../ui/words";

type Props = { id: number; state: string; findings: number };

/** Findings grouped by reason; those of the chosen reason beside, each with its record and the bad place marked. */
export function Reasons({ id, state, findings }: Props) {
  const [asked, setAsked] = useSearchValue("reason");
  const reasons = useQuery({
    queryKey: ["run-part", id, "reasons", state, findings],
    queryFn: () => ask(api.GET("/api/v1/runs/{run}/reasons", { params: { path: { run: id } } })),
  });
  if (!reasons.data) return null;
  if (reasons.data.length === 0)
    return (
      <p className="text-faint">
        {state === "HALTED" ? "No findings beside the one above that halted it." : "No findings."}
      </p>
    );
  const chosen = reasons.data.find((r) => `${r.code} ${r.reason}` === asked) ?? reasons.data[0];
  const choose = (r: Schemas["Reason"]) => setAsked(`${r.code} ${r.reason}`);
  return (
    <section aria-labelledby="findings">
      <h2 id="findings" className="mb-2">
        Findings by reason
      </h2>
      <div className="grid grid-cols-[380px_minmax(0,1fr)] gap-6">
        <ul className="divide-y divide-line border-y border-line">
          {reasons.data.map((r) => (
            <li key={r.code + r.reason + r.severity}>
              <button
                type="button"
                onClick={() => choose(r)}
                aria-pressed={r === chosen}
                className={`flex w-full items-baseline gap-2 px-2 py-1.5 text-left ${r === chosen ? "bg-pine-wash" : "hover:bg-card"}`}
              >
                <span className="w-14 shrink-0">
                  <Weight severity={r.severity} />
                </span>
                <span className="min-w-0 flex-1">
                  {r.reason}
                  <span className="data block truncate text-xs text-faint">
                    such as {r.example} on line {count(r.firstLine)} · {r.code}
                  </span>
                </span>
                <span className="data font-semibold">{count(r.count)}</span>
              </button>
            </li>
          ))}
        </ul>
        {chosen.severity === "note" ? <Notes id={id} reason={chosen} /> : <Rejects id={id} reason={chosen} />}
      </div>
    </section>
  );
}

function Rejects({ id, reason }: { id: number; reason: Schemas["Reason"] }) {
  const rejects = useInfiniteQuery({
    queryKey: ["run-part", id, "rejects", reason.code, reason.reason],
    initialPageParam: undefined as string | undefined,
    queryFn: ({ pageParam }) =>
      ask(
        api.GET("/api/v1/runs/{run}/rejects", {
          params: { path: { run: id }, query: { code: reason.code, reason: reason.reason, after: pageParam } },
        }),
      ),
    getNextPageParam: (page) => page.next ?? undefined,
  });
  return (
    <div className="min-w-0">
      <ul className="flex flex-col gap-3">
        {rejects.data?.pages
          .flatMap((page) => page.items)
          .map((r) => (
            <li key={`${r.record}-${r.place}`} className="min-w-0 rounded border border-line bg-card">
              <div className="flex gap-4 border-b border-line px-3 py-1 text-xs text-faint">
                <span>line {count(r.line)}</span>
                <span>record {count(r.record)}</span>
                <span>byte {count(r.offset)}</span>
                <Link to={`/runs/${id}/follow?record=${r.record}`} className="ml-auto text-pine underline">
                  follow
                </Link>
              </div>
              <pre
                tabIndex={0}
                aria-label={`Record ${r.record}`}
                role="region"
                className="data px-3 py-2 wrap-anywhere whitespace-pre-wrap"
              >
                <Marked text={r.text} bad={r.bad} />
              </pre>
              <ul className="px-3 pb-2 text-sm">
                {r.bad.map((b) => (
                  <li key={b.code + b.from + b.message}>{b.message}</li>
                ))}
              </ul>
            </li>
          ))}
      </ul>
      {rejects.hasNextPage && (
        <Button className="mt-3" onClick={() => rejects.fetchNextPage()}>
          More
        </Button>
      )}
    </div>
  );
}

function Notes({ id, reason }: { id: number; reason: Schemas["Reason"] }) {
  const notes = useInfiniteQuery({
    queryKey: ["run-part", id, "notes", reason.code, reason.reason],
    initialPageParam: undefined as string | undefined,
    queryFn: ({ pageParam }) =>
      ask(
        api.GET("/api/v1/runs/{run}/findings", {
          params: { path: { run: id }, query: { code: reason.code, reason: reason.reason, after: pageParam } },
        }),
      ),
    getNextPageParam: (page) => page.next ?? undefined,
  });
  return (
    <div>
      <ul className="divide-y divide-line text-sm">
        {notes.data?.pages
          .flatMap((page) => page.items)
          .map((n) => (
            <li key={n.seq} className="py-1.5">
              {n.message}
            </li>
          ))}
      </ul>
      {notes.hasNextPage && (
        <Button className="mt-3" onClick={() => notes.fetchNextPage()}>
          More
        </Button>
      )}
    </div>
  );
}
