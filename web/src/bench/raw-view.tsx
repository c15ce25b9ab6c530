import { keepPreviousData, useMutation, useQuery } from "@tanstack/react-query";
import { useState } from "react";
import { toast } from "sonner";
import { api, ask } from "../api/client";
import { Button, TextBox, Tick, Trouble } from "../ui/basics";
import { useSearchValue } from "../ui/use-search-value";
import { bytes, count, visible } from "../ui/words";

type Props = { owner: "job" | "layout" | "run"; id: string; file: string };

const piece = 300;

/** A file as it is, by piece, whatever its size: found by line, by byte, or by what stands in it. */
export function RawView({ owner, id, file }: Props) {
  const [asked] = useSearchValue("line");
  const [place, setPlace] = useState<{ line?: number; offset?: number }>({
    line: Math.max(1, Number(asked ?? 1) - 5) || 1,
  });
  const [line, setLine] = useState("");
  const [offset, setOffset] = useState("");
  const [wanted, setWanted] = useState("");
  const [controls, setControls] = useState(false);
  const [hit, setHit] = useState<number | undefined>(asked ? Number(asked) : undefined);
  const params = { path: { owner, id } };
  const view = useQuery({
    queryKey: ["raw", owner, id, file, place],
    placeholderData: keepPreviousData,
    queryFn: () =>
      ask(api.GET("/api/v1/raw/{owner}/{id}", { params: { ...params, query: { ...place, count: piece } } })),
  });
  const find = useMutation({
    mutationFn: async (from: number) => {
      let at = from;
      for (;;) {
        const found = await ask(
          api.GET("/api/v1/raw/{owner}/{id}/find", { params: { ...params, query: { text: wanted, from: at } } }),
        );
        if (found.offset >= 0 || found.lookedTo <= at || found.lookedTo >= (view.data?.piece.size ?? 0)) return found;
        at = found.lookedTo;
      }
    },
    onSuccess: (found) => {
      if (found.offset < 0) {
        toast(
          hit === undefined
            ? `"${wanted}" does not stand in the file.`
            : "No further place; the next search starts at the top.",
        );
        setHit(undefined);
        return;
      }
      setHit(found.offset);
      setPlace({ line: Math.max(1, found.line - 5) });
    },
    onError: (e) => toast.error(e.message),
  });
  const number = (text: string) => Number.parseInt(text.replace(/\D/g, ""), 10);
  const data = view.data;
  const lines = data?.piece.lines ?? [];
  const first = lines[0]?.number ?? 1;
  const last = lines.at(-1)?.number ?? 0;
  const go = (e: React.FormEvent, to: () => void) => {
    e.preventDefault();
    to();
  };
  return (
    <div className="flex h-full flex-col">
      <div className="flex flex-wrap items-end gap-3 border-b border-line px-4 py-1.5">
        <form onSubmit={(e) => go(e, () => line && setPlace({ line: number(line) }))}>
          <TextBox label="Go to line" value={line} onChange={setLine} className="w-24" inputMode="numeric" data />
        </form>
        <form onSubmit={(e) => go(e, () => offset && setPlace({ offset: number(offset) }))}>
          <TextBox label="Go to byte" value={offset} onChange={setOffset} className="w-28" inputMode="numeric" data />
        </form>
        <form
          className="flex min-w-0 flex-1 items-end gap-2"
          onSubmit={(e) => go(e, () => wanted && find.mutate(hit === undefined ? 0 : hit + 1))}
        >
          <TextBox
            label="Find a text, or bytes as x'0D0A'"
            value={wanted}
            onChange={(v) => {
              setWanted(v);
              setHit(undefined);
            }}
            className="max-w-64 flex-1"
            data
          />
          <Button type="submit" disabled={!wanted || find.isPending}>
            {find.isPending ? "Looking…" : hit === undefined ? "Find" : "Next"}
          </Button>
        </form>
        <Tick label="Control characters" checked={controls} onChange={setControls} />
      </div>
      {view.isError && (
        <div className="p-3">
          <Trouble error={view.error} />
        </div>
      )}
      <div className="data min-h-0 flex-1 overflow-auto" tabIndex={0} role="region" aria-label="The file as it is">
        <div className="min-w-max">
          {lines.map((l) => {
            const found = hit !== undefined && hit >= l.offset && hit < l.offset + Math.max(1, l.length);
            return (
              <div key={l.offset} className={`flex h-6 items-center whitespace-pre ${found ? "bg-pine-wash" : ""}`}>
                <span className="sticky left-0 flex shrink-0 gap-2 border-r border-line bg-sunk px-2 text-right text-xs leading-6 text-faint">
                  <span className="w-14">{count(l.number)}</span>
                  <span className="w-24" title="the byte at which the line starts">
                    {count(l.offset)}
                  </span>
                </span>
                <span className="pl-2">
                  <Shown text={l.text} wanted={found ? wanted : ""} controls={controls} />
                  {l.cut && <span className="text-faint"> … {count(l.length)} bytes</span>}
                </span>
              </div>
            );
          })}
          {data && lines.length === 0 && <p className="p-4 text-faint">The file is empty.</p>}
        </div>
      </div>
      {data && (
        <div className="flex items-center gap-2 border-t border-line px-4 py-1 text-xs text-faint">
          <Button
            look="quiet"
            className="h-6"
            disabled={first <= 1}
            onClick={() => setPlace({ line: Math.max(1, first - piece) })}
          >
            Earlier
          </Button>
          lines {count(first)} to {count(last)} of {count(data.lines)} · {bytes(data.piece.size)} · {data.charset}
          <Button
            look="quiet"
            className="h-6"
            disabled={data.piece.next >= data.piece.size}
            onClick={() => setPlace({ offset: data.piece.next })}
          >
            Later
          </Button>
        </div>
      )}
    </div>
  );
}

/** Text with what was looked for marked, its control characters as names or as small marks. */
function Shown({ text, wanted, controls }: { text: string; wanted: string; controls: boolean }) {
  const show = (t: string) => (controls ? visible(t).replaceAll(" ", "·") : t.replace(/[\u0000-\u001f\u007f]/g, "▯"));
  if (!wanted || !text.includes(wanted)) return <>{show(text)}</>;
  const at = text.indexOf(wanted);
  return (
    <>
      {show(text.slice(0, at))}
      <mark className="rounded-xs bg-pine text-on-pine">{show(wanted)}</mark>
      {show(text.slice(at + wanted.length))}
    </>
  );
}
