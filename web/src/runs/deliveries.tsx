import { useInfiniteQuery, useQuery } from "@tanstack/react-query";
import { api, ask, type Schemas } from "../api/client";
import { Button } from "../ui/basics";
import { StateMark } from "../ui/state";
import { count, duration, plural } from "../ui/words";
import { PlacesTable } from "./places-table";
import { WrittenFiles } from "./written-files";

type Place = Schemas["PlaceView"];

/** The places that a run delivers to: when each was at work, against one time axis, and the account of each. */
export function Deliveries({ id, state, read }: { id: number; state: string; read: number }) {
  const places = useQuery({
    queryKey: ["run-part", id, "places", state, read],
    placeholderData: (before) => before,
    queryFn: () => ask(api.GET("/api/v1/runs/{run}/places", { params: { path: { run: id } } })),
  });
  if (!places.data || places.data.length === 0) return null;
  const all = places.data;
  const sendsAgain = all.some((p) => p.sentAgain > 0);
  const begun = all.flatMap((p) => (p.startedAt ? [Date.parse(p.startedAt)] : []));
  const from = Math.min(...begun);
  const to = Math.max(from + 1, ...all.map((p) => (p.endedAt ? Date.parse(p.endedAt) : Date.now())));
  return (
    <section aria-labelledby="deliveries">
      <h2 id="deliveries" className="mb-2">
        {all.length > 1 ? `Deliveries to ${all.length} places` : "Deliveries"}
      </h2>
      <PlacesTable
        places={all}
        more={[
          ...(sendsAgain
            ? [{ head: "sent again", className: "data pl-3 text-right", of: (p: Place) => count(p.sentAgain) }]
            : []),
          {
            head: "State",
            className: "w-32 pl-6 text-left",
            of: (p: Place) => <StateMark state={p.state} rejected={p.tally.rejected} />,
          },
          ...(all.length > 1
            ? [
                {
                  head: `When, in ${duration(to - from)}`,
                  className: "w-44 pl-4 text-left",
                  of: (p: Place) => <When place={p} from={from} to={to} />,
                },
              ]
            : []),
        ]}
      />
      <Answers id={id} state={state} places={all} />
      {all.some((p) => p.kind === "files" && p.tally.delivered > 0) && <WrittenFiles id={id} state={state} />}
    </section>
  );
}

function When({ place, from, to }: { place: Place; from: number; to: number }) {
  const begin = place.startedAt ? Date.parse(place.startedAt) : from;
  const end = place.endedAt ? Date.parse(place.endedAt) : place.startedAt ? to : from;
  const percent = (at: number) => ((at - from) / (to - from)) * 100;
  return (
    <>
      <span className="sr-only">{duration(end - begin)}</span>
      <span className="mt-1 block h-3 rounded bg-sunk" title={duration(end - begin)} aria-hidden>
        <span
          className="block h-full min-w-0.5 rounded bg-slate"
          style={{ marginLeft: `${percent(begin)}%`, width: `${Math.max(0.5, percent(end) - percent(begin))}%` }}
        />
      </span>
    </>
  );
}

/** What applications answered to the documents they took. */
function Answers({ id, state, places }: { id: number; state: string; places: Place[] }) {
  const delivered = places.reduce((n, p) => n + (p.kind === "application" ? p.tally.delivered : 0), 0);
  const answers = useInfiniteQuery({
    queryKey: ["run-part", id, "answers", state],
    enabled: delivered > 0 && state !== "RUNNING",
    initialPageParam: undefined as string | undefined,
    queryFn: ({ pageParam }) =>
      ask(api.GET("/api/v1/runs/{run}/answers", { params: { path: { run: id }, query: { after: pageParam } } })),
    getNextPageParam: (page) => page.next ?? undefined,
  });
  const all = answers.data?.pages.flatMap((page) => page.items) ?? [];
  if (all.length === 0) return null;
  return (
    <details className="mt-2">
      <summary className="cursor-pointer text-sm text-pine">
        What was answered to {plural(all.length, "document")}
        {answers.hasNextPage && ", the first ones"}
      </summary>
      <ul className="mt-1 grid max-h-60 grid-cols-3 gap-x-6 overflow-auto text-sm" tabIndex={0} aria-label="Answers">
        {all.map((a) => (
          <li key={`${a.place} ${a.record}`} className="flex gap-3">
            <span className="w-24 text-faint">record {count(a.record)}</span>
            <span className="data">{Object.values(a.values).join(" · ")}</span>
          </li>
        ))}
      </ul>
      {answers.hasNextPage && (
        <Button className="mt-2" onClick={() => answers.fetchNextPage()}>
          More
        </Button>
      )}
    </details>
  );
}
