import { useQuery } from "@tanstack/react-query";
import { Ban, CirclePause, Clock3, FileWarning, OctagonAlert } from "lucide-react";
import { Link } from "react-router";
import { api, ask, type Schemas } from "../api/client";
import { Empty, Trouble } from "../ui/basics";
import { count, moment, plural } from "../ui/words";
import { DayStrip } from "./day-strip";

export function TodayPage() {
  const today = useQuery({ queryKey: ["today"], queryFn: () => ask(api.GET("/api/v1/today")), refetchInterval: 5_000 });
  if (today.isError && !today.data)
    return (
      <div className="p-6">
        <Trouble error={today.error} />
      </div>
    );
  if (!today.data) return null;
  const t = today.data;
  return (
    <div className="mx-auto flex max-w-6xl flex-col gap-6 px-6 py-5">
      {today.isError && <Trouble error={today.error} />}
      <div className="flex items-baseline gap-6">
        <h1>Today</h1>
        <p className="text-faint">
          The last 24 hours: {plural(t.runs, "run")}, {plural(t.delivered, "record")} delivered,{" "}
          {plural(t.rejected, "reject")}, {plural(t.notes, "note")}.
        </p>
      </div>
      {t.strips.length === 0 ? (
        <Empty title="No job yet">
          A job picks up files, checks and shapes their records and loads them into a table.{" "}
          <Link to="/jobs" className="text-pine underline">
            Make the first job
          </Link>
        </Empty>
      ) : (
        <>
          <section aria-labelledby="needs">
            <h2 id="needs" className="mb-2">
              Needs a person
            </h2>
            {t.needs.length === 0 ? (
              <p className="text-faint">Nothing does. All that ran was delivered whole.</p>
            ) : (
              <ul className="divide-y divide-line border-y border-line">
                {t.needs.slice(0, 12).map((n) => (
                  <NeedLine key={`${n.kind}${n.run}${n.job}`} need={n} />
                ))}
              </ul>
            )}
            {t.needs.length > 12 && (
              <p className="mt-2 text-faint">and {count(t.needs.length - 12)} more under Runs.</p>
            )}
          </section>
          <DayStrip today={t} />
        </>
      )}
    </div>
  );
}

const kinds: Record<string, { icon: typeof Ban; tone: string; word: string; help: string }> = {
  failed: { icon: OctagonAlert, tone: "text-brick", word: "failed", help: "Look and restart" },
  halted: { icon: OctagonAlert, tone: "text-brick", word: "halted", help: "Look and restart" },
  interrupted: { icon: OctagonAlert, tone: "text-brick", word: "interrupted", help: "Restart" },
  paused: { icon: CirclePause, tone: "text-ochre", word: "paused", help: "See why" },
  stopped: { icon: Clock3, tone: "text-ochre", word: "stopped", help: "Restart" },
  refused: { icon: Ban, tone: "text-ochre", word: "refused", help: "See why" },
  rejects: { icon: FileWarning, tone: "text-brick", word: "rejects", help: "Look at the rejects" },
  unsent: { icon: CirclePause, tone: "text-ochre", word: "not sent", help: "See why" },
  late: { icon: Clock3, tone: "text-brick", word: "late", help: "Open the job" },
};

function NeedLine({ need }: { need: Schemas["Need"] }) {
  const kind = kinds[need.kind] ?? kinds.failed;
  const Icon = kind.icon;
  const to = need.run ? `/runs/${need.run}` : `/jobs/${need.job}`;
  return (
    <li className="flex items-center gap-4 py-2">
      <span className={`flex w-28 shrink-0 items-center gap-2 font-semibold ${kind.tone}`}>
        <Icon size={16} aria-hidden /> {kind.word}
      </span>
      <span className="w-36 shrink-0 truncate">{need.title}</span>
      <span className="min-w-0 flex-1 truncate text-faint" title={need.text}>
        {need.text}
      </span>
      <span className="data text-faint">{moment(need.at)}</span>
      <Link to={to} className="w-36 shrink-0 text-right text-pine underline underline-offset-2">
        {kind.help}
      </Link>
    </li>
  );
}
