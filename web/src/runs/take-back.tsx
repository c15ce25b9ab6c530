import { useMutation, useQuery, useQueryClient } from "@tanstack/react-query";
import { useNavigate } from "react-router";
import { api, ask, type Schemas } from "../api/client";
import { Button, Trouble } from "../ui/basics";
import { Dialog } from "../ui/dialog";
import { count, plural } from "../ui/words";

/** Takes back what a run has delivered, after saying what that comes to. */
export function TakeBack({ run, onClose }: { run: Schemas["RunView"]; onClose: () => void }) {
  const queries = useQueryClient();
  const navigate = useNavigate();
  const params = { path: { run: run.id } };
  const outlook = useQuery({
    queryKey: ["run-part", run.id, "take-back", run.state],
    retry: false,
    queryFn: () => ask(api.GET("/api/v1/runs/{run}/take-back", { params })),
  });
  const take = useMutation({
    mutationFn: () => ask(api.POST("/api/v1/runs/{run}/take-back", { params })),
    onSuccess: (started) => {
      queries.invalidateQueries({ queryKey: ["run", run.id] });
      queries.invalidateQueries({ queryKey: ["run-part", run.id] });
      navigate(`/runs/${started.id}`);
      onClose();
    },
  });
  const o = outlook.data;
  return (
    <Dialog
      open
      wide
      onClose={onClose}
      title={`Take back what run ${run.id} has delivered`}
      actions={
        <>
          <Button onClick={onClose}>Close</Button>
          <Button look="brick" disabled={!o?.possible || take.isPending} onClick={() => take.mutate()}>
            Take back
          </Button>
        </>
      }
    >
      {(outlook.isError || take.isError) && <Trouble error={take.error ?? outlook.error} />}
      {o && (
        <div className="flex flex-col gap-3">
          {o.possible ? (
            <p>
              Its file is read once more, and the rows that it added to{" "}
              <span className="data">{o.tables.join(", ")}</span> are removed: those that are known by a unique key and
              are as they were delivered. Rows that were changed since stay, and are listed. It can be restarted from
              the beginning afterwards. This is done by a run of its own, which can be stopped and restarted.
            </p>
          ) : (
            <p>It cannot be taken back.</p>
          )}
          <ul className="flex flex-col gap-1 text-ochre">
            {o.obstacles.map((text) => (
              <li key={text}>{text}</li>
            ))}
          </ul>
        </div>
      )}
    </Dialog>
  );
}

/** What a run that takes another one back has removed so far, and what it left. */
export function TakenBack({ id, state }: { id: number; state: string }) {
  const outcomes = useQuery({
    queryKey: ["run-part", id, "taken-back", state],
    queryFn: () => ask(api.GET("/api/v1/runs/{run}/taken-back", { params: { path: { run: id } } })),
  });
  return (
    <section aria-labelledby="taken-back">
      <h2 id="taken-back" className="mb-2">
        What was taken back
      </h2>
      {outcomes.data?.length === 0 && <p className="text-faint">Nothing yet.</p>}
      {outcomes.data?.map((t) => (
        <div key={t.table} className="mb-3">
          <p>
            <span className="data font-semibold">{t.table}</span>:{" "}
            <strong className="text-moss">{plural(t.removed, "row")} removed</strong>
            {t.changed > 0 && <span className="text-ochre">, {count(t.changed)} changed since and left</span>}
            {t.gone > 0 && <span className="text-faint">, {count(t.gone)} not there any more</span>}
          </p>
          {t.left.length > 0 && (
            <ul className="data mt-1 max-h-48 overflow-auto text-sm text-faint" tabIndex={0} aria-label="Left">
              {t.left.map((l) => (
                <li key={l}>{l}</li>
              ))}
            </ul>
          )}
        </div>
      ))}
    </section>
  );
}
