import { Link } from "react-router";
import type { Schemas } from "../api/client";
import { bytes, clock, coming, plural } from "../ui/words";

/** Where a label stands to its hour: in the middle, but inside of the strip at its edges. */
function within(percent: number) {
  if (percent > 97) return "-translate-x-full";
  return percent < 3 ? "" : "-translate-x-1/2";
}

/** A row for each job over 24 hours: runs as marks at their time, expected files that have not come as hollow ones. */
export function DayStrip({ today }: { today: Schemas["Today"] }) {
  const from = Date.parse(today.from);
  const to = Date.parse(today.now);
  const place = (iso: string) => Math.min(100, Math.max(0, ((Date.parse(iso) - from) / (to - from)) * 100));
  const hours: number[] = [];
  for (let h = Math.ceil(from / 10_800_000) * 10_800_000; h < to; h += 10_800_000) hours.push(h);
  return (
    <section aria-labelledby="strip">
      <h2 id="strip" className="mb-2">
        What ran
      </h2>
      <div className="grid grid-cols-[180px_1fr_auto] gap-x-3">
        <span />
        <div className="relative h-5">
          {hours.map((h) => (
            <span
              key={h}
              className={`data absolute text-xs text-faint ${within(place(new Date(h).toISOString()))}`}
              style={{ left: `${place(new Date(h).toISOString())}%` }}
            >
              {clock(new Date(h).toISOString()).slice(0, 5)}
            </span>
          ))}
        </div>
        <span className="text-xs text-faint">looks next</span>
        {today.strips.map((s) => (
          <div key={s.job} className="contents">
            <Link to={`/jobs/${s.job}`} className="truncate border-t border-line py-2 text-pine hover:underline">
              {s.title}
            </Link>
            <div className="relative border-t border-line bg-card">
              {hours.map((h) => (
                <span
                  key={h}
                  className="absolute inset-y-0 border-l border-line"
                  style={{ left: `${place(new Date(h).toISOString())}%` }}
                />
              ))}
              {s.marks.map((m) => (
                <RunMark key={m.run} mark={m} left={place(m.from)} right={place(m.to ?? today.now)} />
              ))}
              {s.expected && (
                <span
                  title={`A file was expected by ${clock(s.expected)}`}
                  className="absolute top-2 size-4 -translate-x-1/2 rounded-sm border-2 border-dashed border-brick"
                  style={{ left: `${place(s.expected)}%` }}
                />
              )}
            </div>
            <span className="data border-t border-line py-2 text-faint">
              {s.next ? coming(s.next) : "not scheduled"}
            </span>
          </div>
        ))}
      </div>
      {today.strips.flatMap((s) =>
        s.waiting.map((w) => (
          <p key={`${s.job}/${w.name}`} className="mt-2 text-sm text-faint">
            Still being written, not picked up yet: <span className="data">{w.name}</span>, {bytes(w.size)}, changed{" "}
            <span className="data">{clock(w.changedAt)}</span>
          </p>
        )),
      )}
      <p className="mt-2 flex gap-5 text-xs text-faint">
        <Legend className="bg-moss" word="delivered whole" />
        <Legend className="bg-moss border-b-4 border-brick" word="with rejects" />
        <Legend className="bg-brick" word="halted or failed" />
        <Legend className="bg-ochre" word="refused or stopped" />
        <Legend className="bg-slate" word="running" />
        <Legend className="border-2 border-dashed border-brick" word="expected, has not come" />
      </p>
    </section>
  );
}

function Legend({ className, word }: { className: string; word: string }) {
  return (
    <span className="inline-flex items-center gap-1.5">
      <span className={`inline-block size-3 rounded-sm ${className}`} /> {word}
    </span>
  );
}

function tone(mark: Schemas["Mark"]): string {
  if (mark.state === "FINISHED") return mark.rejected > 0 ? "bg-moss border-b-4 border-brick" : "bg-moss";
  if (mark.state === "RUNNING" || mark.state === "WAITING") return "bg-slate";
  return ["REFUSED", "STOPPED", "PAUSED", "TAKING_BACK", "TAKEN_BACK"].includes(mark.state) ? "bg-ochre" : "bg-brick";
}

function RunMark({ mark, left, right }: { mark: Schemas["Mark"]; left: number; right: number }) {
  return (
    <Link
      to={`/runs/${mark.run}`}
      aria-label={`Run ${mark.run}, ${mark.state.toLowerCase()}`}
      title={`${clock(mark.from)}  ${mark.file}: ${mark.state.toLowerCase()}, ${plural(mark.delivered, "record")} delivered, ${plural(mark.rejected, "reject")}`}
      className={`absolute top-1.5 h-5 min-w-2 rounded-sm hover:opacity-80 ${tone(mark)}`}
      style={{ left: `min(${left}%, 100% - 8px)`, width: `${right - left}%` }}
    />
  );
}
