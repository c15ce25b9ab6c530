import { useMutation, useQuery, useQueryClient } from "@tanstack/react-query";
import { api, ask, type Schemas } from "../api/client";
import { Button, Trouble } from "../ui/basics";
import { count, moment, plural } from "../ui/words";

type Written = Schemas["WrittenView"];

const waits = (f: Written) => f.sending?.state === "waiting";

/** The files that were written, those that are not complete yet among them, and how those for other machines get there. */
export function WrittenFiles({ id, state }: { id: number; state: string }) {
  const files = useQuery({
    queryKey: ["run-part", id, "written", state],
    refetchInterval: ({ state: { data } }) => (data?.some(waits) ? 2_000 : false),
    queryFn: () => ask(api.GET("/api/v1/runs/{run}/written", { params: { path: { run: id } } })),
  });
  if (!files.data || files.data.length === 0) return null;
  const waiting = files.data.filter(waits);
  return (
    <section aria-label="Files written" className="mt-3">
      <h3 className="mb-1 font-semibold">
        {plural(files.data.length, "file")} written
        {files.data.length === 200 && ", the first ones"}
      </h3>
      {waiting.length > 0 && <Unsent id={id} waiting={waiting} />}
      <ul className="max-h-60 overflow-auto text-sm" tabIndex={0}>
        {files.data.map((f) => (
          <li key={`${f.leg} ${f.number}`} className="flex items-baseline gap-4 border-b border-line py-1">
            {f.there ? (
              <a
                href={`/api/v1/runs/${id}/written/${f.leg}/${f.number}`}
                className="data flex-1 text-pine underline underline-offset-2"
                download
              >
                {f.name}
              </a>
            ) : (
              <span className="data flex-1">
                {f.name}
                <span className="text-faint">{absent(f)}</span>
              </span>
            )}
            {f.sending && <span className={waits(f) ? "text-ochre" : "text-faint"}>{progress(f.sending)}</span>}
            <span className="text-faint">{f.folder}</span>
            <span className="data w-32 text-right">{plural(f.records, "record")}</span>
            <span className="data w-32 text-right">{count(f.length)} bytes</span>
          </li>
        ))}
      </ul>
    </section>
  );
}

function absent(f: Written): string {
  if (!f.complete) return " (not complete yet)";
  return f.sending?.state === "taken back" ? "" : " (moved away since)";
}

function progress(sending: NonNullable<Written["sending"]>): string {
  if (sending.state === "waiting") return "to be sent";
  return sending.state === "sent" && sending.sentAt ? `sent ${moment(sending.sentAt)}` : sending.state;
}

/** What keeps files from being sent, and a way to try at once. */
function Unsent({ id, waiting }: { id: number; waiting: Written[] }) {
  const client = useQueryClient();
  const send = useMutation({
    mutationFn: () => ask(api.POST("/api/v1/runs/{run}/written/send", { params: { path: { run: id } } })),
    onSettled: () => client.invalidateQueries({ queryKey: ["run-part", id, "written"] }),
  });
  const troubled = waiting.find((f) => f.sending?.trouble)?.sending;
  return (
    <div className="mb-2 flex items-center gap-4 rounded bg-ochre-wash px-3 py-2 text-sm">
      <p className="min-w-0 flex-1">
        <strong>{plural(waiting.length, "file")} to be sent.</strong>{" "}
        {troubled && `${troubled.trouble} Tried ${plural(troubled.tries, "time")}${again(troubled.nextAt)}`}
      </p>
      {troubled && (
        <Button onClick={() => send.mutate()} disabled={send.isPending}>
          Send now
        </Button>
      )}
      {send.isError && <Trouble error={send.error} />}
    </div>
  );
}

function again(nextAt: string | null): string {
  return nextAt ? `, next ${moment(nextAt)}.` : "; send it when that is mended.";
}
