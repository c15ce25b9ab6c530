import clsx from "clsx";
import {
  Ban,
  CheckCircle2,
  CircleDashed,
  CirclePause,
  CircleStop,
  Clock3,
  OctagonAlert,
  PlugZap,
  TriangleAlert,
  Undo2,
} from "lucide-react";

/** The states of runs and the weights of findings: a word, a shape and a colour together. */
const states = {
  WAITING: { word: "waiting", tone: "text-faint", icon: Clock3 },
  RUNNING: { word: "running", tone: "text-slate", icon: CircleDashed },
  PAUSED: { word: "paused", tone: "text-ochre", icon: CirclePause },
  FINISHED: { word: "finished", tone: "text-moss", icon: CheckCircle2 },
  STOPPED: { word: "stopped", tone: "text-ochre", icon: CircleStop },
  HALTED: { word: "halted", tone: "text-brick", icon: OctagonAlert },
  FAILED: { word: "failed", tone: "text-brick", icon: TriangleAlert },
  INTERRUPTED: { word: "interrupted", tone: "text-brick", icon: PlugZap },
  TAKING_BACK: { word: "being taken back", tone: "text-ochre", icon: Undo2 },
  TAKEN_BACK: { word: "taken back", tone: "text-ochre", icon: Undo2 },
  REFUSED: { word: "refused", tone: "text-ochre", icon: Ban },
} as const;

export type State = keyof typeof states;

/** Whether a run may still change by itself. */
export function isUnderWay(state: string) {
  return ["WAITING", "RUNNING", "PAUSED", "TAKING_BACK"].includes(state);
}

export function StateMark({ state, rejected = 0 }: { state: string; rejected?: number }) {
  const s = states[state as State] ?? states.WAITING;
  const Icon = s.icon;
  return (
    <span className={clsx("inline-flex items-center gap-1.5 whitespace-nowrap", s.tone)}>
      <Icon size={15} aria-hidden />
      {s.word}
      {state === "FINISHED" && rejected > 0 && <span className="text-brick">with rejects</span>}
    </span>
  );
}

/** How much a check weighs; one that does not say rejects. */
export function Weight({ severity = "reject" }: { severity?: string }) {
  const tone =
    severity === "note"
      ? "bg-ochre-wash text-ochre"
      : severity === "halt"
        ? "bg-brick text-on-pine"
        : "bg-brick-wash text-brick";
  return <span className={clsx("inline-block rounded px-1.5 text-xs leading-5 font-semibold", tone)}>{severity}</span>;
}
