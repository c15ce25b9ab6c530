import { useMutation, useQueryClient } from "@tanstack/react-query";
import { useState } from "react";
import { useNavigate } from "react-router";
import { toast } from "sonner";
import { api, ask } from "../api/client";
import { Button, Empty, Trouble } from "../ui/basics";
import { useSearchValue } from "../ui/use-search-value";
import { count, plural } from "../ui/words";
import { AsideDialog } from "./aside-dialog";
import { ChangeMany } from "./change-many";
import { RejectDetail } from "./reject-detail";
import { RejectFilters } from "./reject-filters";
import { RejectList } from "./reject-list";
import { useCorrections } from "./use-corrections";
import { keyNamed, keyOf, nameOf, type RejectKey, useFilter, useRejects } from "./use-rejects";

/** The reject desk: what runs have refused, to be corrected, sent again, or set aside for good. */
export function RejectsPage() {
  const { query } = useFilter();
  const queries = useQueryClient();
  const navigate = useNavigate();
  const rejects = useRejects(query);
  const [at, setAt] = useSearchValue("at");
  const [chosen, setChosen] = useState<Set<string>>(new Set());
  const [dialog, setDialog] = useState<"change" | "aside" | undefined>();
  const lines = rejects.data?.pages.flatMap((p) => p.items) ?? [];
  const known = new Map(lines.map((l) => [nameOf(keyOf(l)), l]));
  const keys: RejectKey[] = [...chosen].flatMap((n) => {
    const line = known.get(n);
    return line && line.state === "open" ? [keyOf(line)] : [];
  });
  const current = keyNamed(at) ?? (lines[0] && keyOf(lines[0]));
  const done = () => {
    setDialog(undefined);
    queries.invalidateQueries({ queryKey: ["rejects"] });
  };
  const corrections = useCorrections(() => queries.invalidateQueries({ queryKey: ["rejects", "list"] }));
  const resubmit = useMutation({
    mutationFn: async (which: RejectKey[]) => {
      // What goes out is what the screen shows.
      if (!(await corrections.flush())) throw new Error("A correction is not kept, so nothing was sent again.");
      return ask(api.POST("/api/v1/rejects/resubmit", { body: { keys: which } }));
    },
    onSuccess: ({ runs }) => {
      setChosen(new Set());
      done();
      toast.success(`Sent again with run ${runs.join(", ")}.`, {
        action: { label: "See it", onClick: () => navigate(`/runs/${runs[0]}`) },
      });
    },
    onError: (e) => toast.error(e.message),
  });
  return (
    <div className="flex h-full flex-col">
      <RejectFilters count={rejects.data?.pages[0]?.count} />
      {rejects.isError && (
        <div className="px-6">
          <Trouble error={rejects.error} />
        </div>
      )}
      {rejects.data && lines.length === 0 && (
        <Empty title="No rejects like that">
          Records that a check or a target refuses come here, from all jobs, until somebody corrects them and sends them
          again, or sets them aside.
        </Empty>
      )}
      {lines.length > 0 && (
        <div className="grid min-h-0 flex-1 grid-cols-[minmax(340px,5fr)_minmax(0,7fr)] border-t border-line">
          <div className="flex min-h-0 flex-col border-r border-line">
            <div className="flex flex-wrap items-center gap-2 border-b border-line px-3 py-2">
              <label className="mr-auto flex items-center gap-2 text-sm whitespace-nowrap">
                <input
                  type="checkbox"
                  className="accent-pine"
                  checked={keys.length > 0 && keys.length === lines.filter((l) => l.state === "open").length}
                  onChange={(e) =>
                    setChosen(
                      new Set(
                        e.target.checked ? lines.filter((l) => l.state === "open").map((l) => nameOf(keyOf(l))) : [],
                      ),
                    )
                  }
                />
                {keys.length ? `${count(keys.length)} chosen` : `Choose all ${count(lines.length)}`}
              </label>
              <Button
                disabled={!keys.length}
                onClick={() => corrections.flush().then((all) => all && setDialog("change"))}
              >
                Change in all…
              </Button>
              <Button disabled={!keys.length} onClick={() => setDialog("aside")}>
                Set aside…
              </Button>
              <Button
                look="main"
                disabled={!keys.length || resubmit.isPending}
                onClick={() => resubmit.mutate(keys)}
                title={keys.length ? `with the whole documents of ${plural(keys.length, "record")}` : undefined}
              >
                Send again
              </Button>
            </div>
            <RejectList
              lines={lines}
              current={current && nameOf(current)}
              chosen={chosen}
              choose={setChosen}
              open={setAt}
              more={rejects.hasNextPage ? () => rejects.fetchNextPage() : undefined}
            />
          </div>
          {current && (
            <RejectDetail
              key={nameOf(current)}
              at={current}
              corrections={corrections}
              resubmit={() => resubmit.mutate([current])}
              busy={resubmit.isPending}
            />
          )}
        </div>
      )}
      {dialog === "change" && <ChangeMany keys={keys} onClose={() => setDialog(undefined)} onDone={done} />}
      {dialog === "aside" && <AsideDialog keys={keys} onClose={() => setDialog(undefined)} onDone={done} />}
    </div>
  );
}
