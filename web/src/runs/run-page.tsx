import { useMutation, useQuery, useQueryClient } from "@tanstack/react-query";
import { useEffect, useRef, useState } from "react";
import { Link, useNavigate, useParams } from "react-router";
import { toast } from "sonner";
import { api, ask, download, type Schemas, sendFile } from "../api/client";
import { FollowLine } from "../follow/follow-page";
import { Button, Trouble } from "../ui/basics";
import { Menu } from "../ui/menu";
import { isUnderWay, StateMark } from "../ui/state";
import { bytes, clock, count, duration, moment, plural } from "../ui/words";
import { Deliveries } from "./deliveries";
import { Reasons } from "./reasons";
import { TakeBack, TakenBack } from "./take-back";
import { TallyAccount } from "./tally-account";

const TRY_AGAIN = 4_000;

/** A run, kept up to date by server-sent events while it is under way; and since when nothing has been heard of it. */
function useRun(id: number) {
  const queries = useQueryClient();
  const run = useQuery({
    queryKey: ["run", id],
    queryFn: () => ask(api.GET("/api/v1/runs/{run}", { params: { path: { run: id } } })),
  });
  const underWay = run.data !== undefined && isUnderWay(run.data.state);
  const [cut, setCut] = useState<string>();
  const [tries, setTries] = useState(0);
  useEffect(() => {
    if (!underWay) return;
    let again: number | undefined;
    const source = new EventSource(`/api/v1/runs/${id}/events`);
    source.onopen = () => setCut(undefined);
    source.onerror = () => {
      setCut((since) => since ?? new Date().toISOString());
      // The browser tries again by itself, but not where Ninepin itself refused.
      if (source.readyState === EventSource.CLOSED) {
        queries.invalidateQueries({ queryKey: ["run", id] });
        again = window.setTimeout(() => setTries((n) => n + 1), TRY_AGAIN);
      }
    };
    source.addEventListener("run", (e) => {
      const now = JSON.parse((e as MessageEvent).data) as Schemas["RunView"];
      queries.setQueryData(["run", id], now);
      if (!isUnderWay(now.state)) {
        source.close();
        queries.invalidateQueries({ queryKey: ["run-part", id] });
      }
    });
    return () => {
      window.clearTimeout(again);
      source.close();
    };
  }, [id, underWay, queries, tries]);
  return { run, underWay, cut: underWay ? cut : undefined };
}

/** Whether what halted it stands in its file; a limit is another matter, which a person may pass over. */
const haltedByFile = (r: Schemas["RunView"]) => r.state === "HALTED" && r.code !== "LIM-01";

export function RunPage() {
  const id = Number(useParams().id);
  const queries = useQueryClient();
  const navigate = useNavigate();
  const { run, underWay, cut } = useRun(id);
  const [taking, setTaking] = useState(false);
  const timeline = useQuery({
    queryKey: ["run-part", id, "timeline", run.data?.state],
    queryFn: () => ask(api.GET("/api/v1/runs/{run}/timeline", { params: { path: { run: id } } })),
  });
  const act = useMutation({
    mutationFn: async (what: "stop" | "restart" | "restart-live") => {
      if (what === "stop") await ask(api.POST("/api/v1/runs/{run}/stop", { params: { path: { run: id } } }));
      else {
        const query = { live: what === "restart-live" };
        await ask(api.POST("/api/v1/runs/{run}/restart", { params: { path: { run: id }, query } }));
      }
      return what;
    },
    onSuccess: (what) => {
      toast(
        what === "stop"
          ? run.data?.state === "RUNNING"
            ? "It stops at the next commit."
            : "Stopped."
          : run.data?.commits
            ? "It goes on from the last commit."
            : "It begins anew.",
      );
      queries.invalidateQueries({ queryKey: ["run", id] });
    },
  });
  const asSample = useMutation({
    mutationFn: () => ask(api.POST("/api/v1/runs/{run}/sample", { params: { path: { run: id } } })),
    onSuccess: () => {
      queries.removeQueries({ queryKey: ["job", run.data?.job] });
      queries.removeQueries({ queryKey: ["bench", "job", run.data?.job] });
      navigate(`/jobs/${run.data?.job}?section=2&view=file`);
    },
    onError: (e) => toast.error(e.message),
  });
  if (run.isError && !(cut && run.data))
    return (
      <div className="p-6">
        <Trouble error={run.error} />
      </div>
    );
  if (!run.data) return null;
  const r = run.data;
  const told = r.message && (r.state !== "FINISHED" || r.undoes);
  const stoppable = r.state === "RUNNING" || r.state === "WAITING" || r.state === "PAUSED";
  return (
    <div className="mx-auto flex max-w-6xl flex-col gap-5 px-6 py-5">
      <div className="flex items-start gap-3">
        <div className="mr-auto min-w-0">
          <h1 className="flex items-center gap-3">
            Run {r.id}{" "}
            <span className="text-base font-normal">
              <StateMark state={r.state} rejected={r.tally.rejected} />
            </span>
          </h1>
          <p className="mt-0.5 text-faint">
            <Link to={`/jobs/${r.job}`} className="text-pine underline underline-offset-2">
              {r.title}
            </Link>
            , version {r.version},{" "}
            {r.undoes ? (
              <>
                take back of{" "}
                <Link to={`/runs/${r.undoes}`} className="text-pine underline">
                  run {r.undoes}
                </Link>
              </>
            ) : (
              <>
                on{" "}
                <Link to={`/runs/${id}/file`} className="data text-pine underline">
                  {r.fileName}
                </Link>{" "}
                ({bytes(r.fileSize)})
              </>
            )}
            , started by {r.startedBy} {moment(r.startedAt ?? r.createdAt)}
          </p>
        </div>
        {r.tally.rejected > 0 && (
          <Link
            to={`/rejects?run=${id}`}
            className="inline-flex h-8 items-center rounded border border-line bg-card px-3 text-sm hover:border-pine"
          >
            Rejects on the desk
          </Link>
        )}
        <More run={r} takeBack={!underWay && !r.undoes && r.commits > 0 ? () => setTaking(true) : undefined} />
        {!underWay && !r.undoes && (
          <Button onClick={() => asSample.mutate()} disabled={asSample.isPending}>
            Use as sample
          </Button>
        )}
        {r.state === "PAUSED" && (
          <Button look="main" onClick={() => act.mutate("restart")} disabled={act.isPending}>
            Try now
          </Button>
        )}
        {stoppable && (
          <Button look="brick" onClick={() => act.mutate("stop")} disabled={act.isPending}>
            Stop
          </Button>
        )}
        {r.restartable && (
          <>
            {!r.undoes && (
              <Button onClick={() => act.mutate("restart-live")} disabled={act.isPending}>
                Restart with the live version
              </Button>
            )}
            <Button
              look={haltedByFile(r) ? "plain" : "main"}
              onClick={() => act.mutate("restart")}
              disabled={act.isPending}
            >
              Restart
            </Button>
          </>
        )}
      </div>
      {taking && <TakeBack run={r} onClose={() => setTaking(false)} />}
      {act.isError && <Trouble error={act.error} />}
      {cut && (
        <p role="status" className="rounded border border-ochre bg-ochre-wash px-3 py-2">
          Nothing has been heard of this run since {clock(cut)}; what stands here is of then. Ninepin is asked again by
          itself.
        </p>
      )}
      {told && (
        <p className={`rounded border px-3 py-2 ${tones[r.state] ?? "border-brick bg-brick-wash text-brick"}`}>
          {r.message} {r.code && !r.message?.includes(r.code) && <span className="data">[{r.code}]</span>}
          {haltedByFile(r) && (
            <span className="block">
              A restart reads the same file and halts at the same place. Have the file corrected and give it to the job
              again, or change its layout or checks, put that live, and restart with the live version.
            </span>
          )}
          {r.resumeAt && (
            <span className="block">
              Paused. It goes on by itself: next try {moment(r.resumeAt)}. Other runs of this job wait until then.
            </span>
          )}
        </p>
      )}
      <Family run={r} />
      {r.state === "RUNNING" && <Progress run={r} />}
      <div className="grid grid-cols-[minmax(0,1fr)_340px] gap-8">
        {r.undoes ? <TakenBack id={id} state={r.state} /> : <TallyAccount run={r} />}
        <section aria-labelledby="timeline">
          <h2 id="timeline" className="mb-2">
            What happened
          </h2>
          <ol className="flex flex-col gap-1.5 border-l-2 border-line pl-4 text-sm">
            {timeline.data?.map((e) => (
              <li key={`${e.at}${e.kind}`} className="relative">
                <span className="absolute top-1.5 -left-[21px] size-2 rounded-full bg-pine" />
                <span className="data text-faint">{moment(e.at)}</span>
                <br />
                <span className="line-clamp-3">{e.text}</span>
                {e.read > 0 && <span className="text-faint"> after {plural(e.read, "record")}</span>}
              </li>
            ))}
          </ol>
          {!r.undoes && (
            <div className="mt-3">
              <FollowLine id={id} />
            </div>
          )}
          <p className="mt-3 text-sm text-faint">
            {!r.undoes && `${plural(r.commits, "commit")}, `}
            {r.restarts ? plural(r.restarts, "restart") : "no restart"}, {duration(r.busyMillis)} at work
          </p>
        </section>
      </div>
      <Deliveries id={id} state={r.state} read={r.tally.read} />
      {!r.undoes && <Reasons id={id} state={r.state} findings={r.tally.rejected + r.tally.notes} />}
    </div>
  );
}

/** The colours of what a run says, by its state. */
const tones: Record<string, string> = {
  TAKEN_BACK: "border-ochre bg-ochre-wash text-ochre",
  PAUSED: "border-ochre bg-ochre-wash text-ochre",
  STOPPED: "border-ochre bg-ochre-wash text-ochre",
  FINISHED: "border-line bg-card",
};

/** What else can be done with a run. */
function More({ run, takeBack }: { run: Schemas["RunView"]; takeBack?: () => void }) {
  const navigate = useNavigate();
  const get = (what: string) => () => {
    download(`/api/v1/runs/${run.id}/${what}`).catch((e) => toast.error(e.message));
  };
  const chosen = useRef<HTMLInputElement>(null);
  const again = useMutation({
    mutationFn: (file: File) => sendFile<Schemas["Imported"]>("POST", `/api/v1/rejects/${run.id}/file`, file),
    onSuccess: (done) => {
      toast(
        `${plural(done.corrected, "record")} corrected, ${done.sent} sent again${done.left ? `, ${done.left} left open` : ""}.`,
      );
      navigate(`/runs/${done.runs[0]}`);
    },
    onError: (e) => toast.error(e.message),
  });
  const none = run.tally.rejected === 0;
  const open = () => {
    download(`/api/v1/rejects/${run.id}/file`).catch((e) => toast.error(e.message));
  };
  return (
    <>
      <input
        ref={chosen}
        type="file"
        className="hidden"
        aria-label="Corrected file of rejects"
        onChange={(e) => {
          const file = e.target.files?.[0];
          if (file) again.mutate(file);
          e.target.value = "";
        }}
      />
      <Menu
        label="More"
        items={[
          { word: "Download the rejects with their reasons", onSelect: get("rejects.csv"), disabled: none },
          { word: "Open rejects, to be corrected elsewhere", onSelect: open, disabled: none },
          { word: "Send a corrected file of rejects…", onSelect: () => chosen.current?.click(), disabled: none },
          { word: "Compare with another run", onSelect: () => navigate(`/runs/compare?a=${run.id}`) },
          { word: "Report as a page", onSelect: () => window.open(`/api/v1/runs/${run.id}/report.html`) },
          { word: "Report as a delimited file", onSelect: get("report.csv") },
          { word: "Take back…", onSelect: () => takeBack?.(), disabled: !takeBack, brick: true },
        ]}
      />
    </>
  );
}

/** The run whose rejects it has, and the runs that its own rejects were sent again with, each with its account. */
function Family({ run }: { run: Schemas["RunView"] }) {
  const again = useQuery({
    queryKey: ["run-part", run.id, "resubmissions", run.state],
    queryFn: () => ask(api.GET("/api/v1/runs/{run}/resubmissions", { params: { path: { run: run.id } } })),
  });
  if (!run.parentRun && !again.data?.length) return null;
  return (
    <div className="flex flex-col gap-1 text-sm">
      {run.parentRun && (
        <p>
          Rejects of{" "}
          <Link to={`/runs/${run.parentRun}`} className="text-pine underline">
            run {run.parentRun}
          </Link>
          , sent again.
        </p>
      )}
      {again.data?.map((r) => (
        <p key={r.id} className="flex items-center gap-2">
          {r.undoes ? "Taken back by" : `${plural(r.tally.read, "reject")} sent again with`}{" "}
          <Link to={`/runs/${r.id}`} className="text-pine underline">
            run {r.id}
          </Link>
          <StateMark state={r.state} rejected={r.tally.rejected} />
          {!r.undoes && (
            <span className="text-faint">
              {count(r.tally.delivered)} delivered, {count(r.tally.rejected)} rejected
            </span>
          )}
        </p>
      ))}
    </div>
  );
}

function Progress({ run }: { run: Schemas["RunView"] }) {
  const sorting = run.gathering >= 0;
  const share = sorting ? run.gathering : run.fileSize === 0 ? 0 : (run.offset / run.fileSize) * 100;
  return (
    <div>
      <div
        role="progressbar"
        aria-label="Progress"
        aria-valuenow={Math.round(share)}
        className="h-2 overflow-hidden rounded bg-sunk"
      >
        <div className="h-full bg-slate transition-[width]" style={{ width: `${share}%` }} />
      </div>
      {run.waitsFor && (
        <p className="mt-1 text-sm text-ochre" role="status">
          Waiting. {run.waitsFor}
        </p>
      )}
      <p className="mt-1 text-sm text-faint">
        {sorting
          ? `${run.undoes ? "Reading the file again" : "Sorting the records by their documents"}: ${share.toFixed(0)} %`
          : share >= 100
            ? "Read to its end; deliveries are still under way."
            : `${share.toFixed(0)} %, ${count(run.perSecond)} records a second`}
        {!sorting &&
          !run.waitsFor &&
          share < 100 &&
          run.secondsLeft >= 0 &&
          `, about ${duration(Math.max(1, run.secondsLeft) * 1000)} left`}
      </p>
    </div>
  );
}
