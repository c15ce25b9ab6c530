import { useQuery } from "@tanstack/react-query";
import { MessageSquareText } from "lucide-react";
import { useEffect, useRef, useState } from "react";
import { useParams } from "react-router";
import { api, ask, type Schemas } from "../api/client";
import type { Delivery, Rule, SetAside, Sheet } from "../definitions";
import { Button, Trouble } from "../ui/basics";
import { useSettled } from "../ui/use-settled";
import { visible } from "../ui/words";

type Props = {
  sheet: Sheet;
  delivery: number;
  record: number;
  take: (rules: Rule[], aside: SetAside[], deliveries: Delivery[]) => void;
};

/** A box for instructions in ordinary English, one on a line; each shows the rules it stands for before they are taken. */
export function PlainWords({ sheet, delivery, record, take }: Props) {
  const { name = "" } = useParams();
  const [text, setText] = useState("");
  const [open, setOpen] = useState(false);
  const box = useRef<HTMLTextAreaElement>(null);
  useEffect(() => {
    if (open) box.current?.focus();
  }, [open]);
  const settled = useSettled(text, 250);
  const examples = useQuery({
    queryKey: ["wordings"],
    enabled: open,
    staleTime: Number.POSITIVE_INFINITY,
    queryFn: () => ask(api.GET("/api/v1/formulas/wordings")),
  });
  const read = useQuery({
    queryKey: ["wording", name, delivery, record, settled, JSON.stringify(sheet)],
    enabled: open && settled.trim() !== "",
    retry: false,
    gcTime: 0,
    placeholderData: (before) => before,
    queryFn: () =>
      ask(
        api.POST("/api/v1/jobs/{job}/wording", {
          params: { path: { job: name } },
          body: { ...sheet, delivery, record, text: settled },
        }),
      ),
  });
  if (!open) {
    return (
      <Button look="quiet" className="self-start" onClick={() => setOpen(true)}>
        <MessageSquareText size={15} aria-hidden /> Say it in words
      </Button>
    );
  }
  const list = text.trim() ? (read.data ?? []) : [];
  const good = list.filter((i) => !i.problem);
  const accept = (items: Schemas["InstructionView"][]) => {
    take(
      items.flatMap((i) => i.rules),
      items.flatMap((i) => (i.aside ? [i.aside] : [])),
      items.flatMap((i) => (i.delivery ? [i.delivery] : [])),
    );
    const taken = new Set(items.map((i) => i.line));
    setText(
      text
        .split("\n")
        .filter((l) => !taken.has(l))
        .join("\n"),
    );
  };
  return (
    <section aria-label="Say it in words" className="flex flex-col gap-2 rounded border border-line bg-card p-3">
      <textarea
        aria-label="Instructions, one on a line"
        ref={box}
        rows={2}
        value={text}
        onChange={(e) => setText(e.target.value)}
        placeholder={"join tanker and driver with a dash into crew\nwrite collected on as 23 Nov 2026"}
        className="w-full rounded border border-line bg-paper px-2 py-1 text-sm placeholder:text-faint"
      />
      {read.isError && <Trouble error={read.error} />}
      {list.length > 0 && (
        <ul className="flex flex-col">
          {list.map((i, n) => (
            <li key={`${n} ${i.line}`} className="flex items-start gap-2 border-t border-line py-1.5 text-sm">
              <div className="min-w-0 flex-1">
                {i.problem ? (
                  <>
                    <p className="text-brick">{i.problem}</p>
                    <p className="text-faint">
                      The nearest that is understood:{" "}
                      <button
                        type="button"
                        className="text-pine underline"
                        onClick={() => setText(text.replace(i.line, i.nearest ?? ""))}
                      >
                        {i.nearest}
                      </button>
                    </p>
                  </>
                ) : (
                  i.sentences.map((s, k) => (
                    <p key={s} className="flex flex-wrap items-baseline gap-x-2">
                      {s}
                      {i.gives[k] && (
                        <span className={`data text-xs ${i.gives[k].problem ? "text-brick" : "text-pine"}`}>
                          {i.gives[k].problem ?? (i.gives[k].value === null ? "NULL" : visible(i.gives[k].value ?? ""))}
                        </span>
                      )}
                    </p>
                  ))
                )}
              </div>
              {!i.problem && (
                <Button look="quiet" className="h-7 px-2" aria-label={`Take: ${i.line}`} onClick={() => accept([i])}>
                  Take
                </Button>
              )}
            </li>
          ))}
        </ul>
      )}
      <div className="flex items-center gap-2">
        <details className="min-w-0 flex-1 text-sm text-faint">
          <summary className="cursor-default">What is understood</summary>
          <ul className="mt-1 max-h-40 overflow-auto">
            {examples.data?.map((e) => (
              <li key={e}>
                <button type="button" className="text-left hover:text-pine" onClick={() => setText(e)}>
                  {e}
                </button>
              </li>
            ))}
          </ul>
        </details>
        <Button onClick={() => setOpen(false)}>Close</Button>
        {good.length > 1 && (
          <Button look="main" onClick={() => accept(good)}>
            Take all {good.length}
          </Button>
        )}
      </div>
    </section>
  );
}
