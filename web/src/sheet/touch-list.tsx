import { X } from "lucide-react";
import type { Touch, TouchKind } from "../definitions";
import { Select } from "../ui/basics";

const kinds: { value: TouchKind; label: string }[] = [
  { value: "trim", label: "trim both ends" },
  { value: "trim-left", label: "trim the start" },
  { value: "trim-right", label: "trim the end" },
  { value: "leading-zeros", label: "drop leading zeros" },
  { value: "upper", label: "upper case" },
  { value: "lower", label: "lower case" },
  { value: "pad-left", label: "fill at the start" },
  { value: "pad-right", label: "fill at the end" },
  { value: "cut", label: "cut" },
  { value: "round", label: "round" },
  { value: "number", label: "write the number as" },
  { value: "date", label: "write the date as" },
  { value: "encode", label: "encode" },
  { value: "decode", label: "decode" },
  { value: "hash", label: "hash" },
];

const methods = ["base64", "hex", "url", "xml"];
const hashes = ["sha-256", "sha-512", "sha-1", "md5"];

/** A touch with what it needs to know at first. */
function fresh(kind: TouchKind): Touch {
  switch (kind) {
    case "pad-left":
      return { do: kind, to: 5, with: "0" };
    case "pad-right":
      return { do: kind, to: 10, with: " " };
    case "cut":
      return { do: kind, to: 20 };
    case "round":
      return { do: kind, to: 2 };
    case "number":
      return { do: kind, with: "1234.50" };
    case "date":
      return { do: kind, with: "dd.MM.yyyy" };
    case "encode":
    case "decode":
      return { do: kind, with: "base64" };
    case "hash":
      return { do: kind, with: "sha-256" };
    default:
      return { do: kind };
  }
}

/** The finishing touches of a rule, in order. */
export function TouchList(props: {
  target: string;
  touches: (Touch | TouchKind)[];
  put: (touches: Touch[] | undefined) => void;
}) {
  const touches = props.touches.map((t) => (typeof t === "string" ? { do: t } : t));
  const put = (list: Touch[]) => props.put(list.length ? list : undefined);
  const set = (i: number, t: Touch) => put(touches.map((x, k) => (k === i ? t : x)));
  return (
    <div className="flex flex-wrap items-center gap-1.5">
      {touches.map((t, i) => (
        <span
          key={`${i} ${t.do}`}
          className="inline-flex h-7 items-center gap-1 rounded border border-line bg-card pl-2 text-sm"
        >
          {kinds.find((k) => k.value === t.do)?.label}
          <Needs target={props.target} touch={t} put={(n) => set(i, n)} />
          <button
            type="button"
            aria-label={`Remove ${t.do} of ${props.target}`}
            className="rounded p-1 text-faint hover:text-brick"
            onClick={() => put(touches.filter((_, k) => k !== i))}
          >
            <X size={13} aria-hidden />
          </button>
        </span>
      ))}
      <Select
        aria-label={`Add a finishing touch to ${props.target}`}
        className="w-44"
        value=""
        onChange={(kind) => kind && put([...touches, fresh(kind)])}
        options={[{ value: "", label: touches.length ? "and then …" : "finishing touch …" }, ...kinds]}
      />
    </div>
  );
}

const box = "data h-6 rounded border border-line bg-paper px-1 text-sm";

function Needs({ target, touch, put }: { target: string; touch: Touch; put: (t: Touch) => void }) {
  const sized = touch.to !== undefined;
  const listed = touch.do === "hash" ? hashes : touch.do === "encode" || touch.do === "decode" ? methods : undefined;
  return (
    <>
      {sized && (
        <>
          <span className="text-faint">to</span>
          <input
            aria-label={`${touch.do} of ${target} to`}
            className={`${box} w-12 text-right`}
            inputMode="numeric"
            value={touch.to}
            onChange={(e) => put({ ...touch, to: Math.max(0, Number.parseInt(e.target.value, 10) || 0) })}
          />
        </>
      )}
      {listed && (
        <select
          aria-label={`Method of ${touch.do} of ${target}`}
          className={box}
          value={touch.with}
          onChange={(e) => put({ ...touch, with: e.target.value })}
        >
          {listed.map((m) => (
            <option key={m}>{m}</option>
          ))}
        </select>
      )}
      {!listed && touch.with !== undefined && (
        <>
          {sized && <span className="text-faint">with</span>}
          <input
            aria-label={`${touch.do} of ${target} with`}
            className={`${box} ${sized ? "w-8 text-center" : "w-28"}`}
            value={touch.with}
            onChange={(e) => put({ ...touch, with: e.target.value })}
          />
        </>
      )}
    </>
  );
}
