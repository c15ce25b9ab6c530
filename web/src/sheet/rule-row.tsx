import { ChevronDown } from "lucide-react";
import type { Schemas } from "../api/client";
import type { Rule } from "../definitions";
import { RemoveButton } from "../ui/remove-button";
import { visible } from "../ui/words";
import { RuleForm } from "./rule-form";
import type { Said } from "./use-rules";

type Props = {
  rule: Rule;
  label?: string;
  fields: string[];
  asked: string[];
  tables: string[];
  put: (rule: Rule) => void;
  askNew: () => void;
  remove: () => void;
  said?: Said;
  names: Schemas["Named"][];
  record: number;
  open: boolean;
  setOpen: (open: boolean) => void;
  lit: boolean;
};

/** A rule: a sentence with its value for the chosen record when closed, a form when open. */
export function RuleRow(props: Props) {
  const { rule, said, open, lit } = props;
  const sentence = said?.sentence?.replace(`${rule.target} is `, "");
  return (
    <li
      ref={lit ? (e) => e?.scrollIntoView({ block: "nearest" }) : undefined}
      className={`border-b border-line ${lit ? "bg-pine-wash" : ""} ${open ? "border-l-2 border-l-pine bg-card pl-2" : ""}`}
    >
      <div className="flex items-start">
        <button
          type="button"
          aria-expanded={open}
          aria-label={`Rule of ${rule.target}`}
          onClick={() => props.setOpen(!open)}
          className="grid min-w-0 flex-1 grid-cols-[minmax(96px,30%)_minmax(0,1fr)_auto] items-baseline gap-2 px-1 py-1.5 text-left hover:bg-card"
        >
          <span className="min-w-0">
            <span className="data block font-semibold break-all">{rule.target}</span>
            <span className="data block text-xs text-faint">{props.label}</span>
          </span>
          <span className="min-w-0">
            <span className="block text-sm break-words">{sentence ?? "…"}</span>
            {said?.problem ? (
              <span className="block text-xs text-brick">{said.problem}</span>
            ) : (
              props.record > 0 &&
              rule.take.from !== "default" && (
                <span className="data block truncate text-xs text-pine" title={`For record ${props.record}`}>
                  {said?.value == null ? "NULL" : visible(said.value)}
                </span>
              )
            )}
          </span>
          <ChevronDown size={14} aria-hidden className={`self-center text-faint ${open ? "rotate-180" : ""}`} />
        </button>
        <RemoveButton label={`Remove the rule of ${rule.target}`} remove={props.remove} className="mt-1.5" />
      </div>
      {open && (
        <div className="pr-1 pb-3 pl-1">
          <RuleForm {...props} />
        </div>
      )}
    </li>
  );
}
