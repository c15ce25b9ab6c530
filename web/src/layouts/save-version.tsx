import { useMutation, useQuery, useQueryClient } from "@tanstack/react-query";
import { useState } from "react";
import { toast } from "sonner";
import { api, ask, type Schemas } from "../api/client";
import type { Layout } from "../definitions";
import { Button, TextBox, Tick, Trouble } from "../ui/basics";
import { ChangesTable } from "../ui/changes-table";
import { Dialog } from "../ui/dialog";

type Props = {
  name: string;
  layout: Layout;
  /** The job in whose sheet this was opened: it has the layout already. */
  own?: string;
  onClose: () => void;
  onSaved: (view: Schemas["LayoutView"]) => void;
};

/** Saves a layout as a new version, after showing what changes and which jobs that touches. */
export function SaveVersion({ name, layout, own, onClose, onSaved }: Props) {
  const queries = useQueryClient();
  const [note, setNote] = useState("");
  const [chosen, setChosen] = useState<string[]>();
  const params = { path: { layout: name } };
  const body = layout;
  const impact = useQuery({
    queryKey: ["layout-impact", name, "save", JSON.stringify(layout)],
    queryFn: () => ask(api.POST("/api/v1/layouts/{layout}/impact", { params, body })),
    gcTime: 0,
    retry: false,
  });
  const others = impact.data?.jobs.filter((j) => j.job !== own) ?? [];
  // A job that works with a version of the library, and loses nothing, gets the new one unless one says otherwise.
  const handed = chosen ?? others.filter((j) => j.version !== null && j.breaks.length === 0).map((j) => j.job);
  const save = useMutation({
    mutationFn: () =>
      ask(
        api.POST("/api/v1/layouts/{layout}/versions", {
          params,
          body: { layout: body, basedOn: impact.data?.latest ?? null, note, jobs: handed } as Schemas["NewVersion"],
        }),
      ),
    onSuccess: (view) => {
      toast(`Version ${view.version} of ${name} is saved.`);
      queries.invalidateQueries({ queryKey: ["layouts"] });
      queries.invalidateQueries({ queryKey: ["layout-impact", name] });
      queries.invalidateQueries({ queryKey: ["layout-versions", name] });
      for (const job of handed) queries.removeQueries({ queryKey: ["job", job] });
      onSaved(view);
      onClose();
    },
  });
  const d = impact.data;
  return (
    <Dialog
      open
      wide
      onClose={onClose}
      title={`Save version ${(d?.latest ?? 0) + 1} of ${name}`}
      actions={
        <>
          <Button onClick={onClose}>Not yet</Button>
          <Button look="main" disabled={!d || save.isPending} onClick={() => save.mutate()}>
            Save the version
          </Button>
        </>
      }
    >
      <div className="flex flex-col gap-4">
        {(impact.isError || save.isError) && <Trouble error={impact.error ?? save.error} />}
        {d && (
          <section>
            <h2 className="mb-1 text-sm font-semibold">
              {d.latest ? `What changes against version ${d.latest}` : "The first version"}
            </h2>
            {d.latest !== null && d.changes.length === 0 && <p className="text-faint">Nothing.</p>}
            {d.changes.length > 0 && (
              <ChangesTable changes={d.changes} before={`Version ${d.latest}`} after="To be saved" />
            )}
          </section>
        )}
        {d && (
          <section>
            <h2 className="mb-1 text-sm font-semibold">The jobs it touches</h2>
            {others.length === 0 && <p className="text-faint">No {own ? "other " : ""}job works with this layout.</p>}
            {others.length > 0 && (
              <p className="text-sm text-faint">
                Those ticked get the new version in their drafts. What is live stays as it is until the job is put live.
              </p>
            )}
            <ul>
              {others.map((j) => (
                <li key={j.job} className="border-b border-line py-1">
                  <div className="flex items-center gap-3">
                    <Tick
                      label={j.title}
                      checked={handed.includes(j.job)}
                      onChange={(on) => setChosen(on ? [...handed, j.job] : handed.filter((n) => n !== j.job))}
                    />
                    <span className="text-sm text-faint">
                      {j.version === null
                        ? "its draft has changes of its own, which would go"
                        : `works with version ${j.version}`}
                      {j.liveVersion !== null && "; live"}
                    </span>
                  </div>
                  {j.breaks.map((b) => (
                    <p key={b} className="pl-6 text-sm text-brick">
                      {b}
                    </p>
                  ))}
                </li>
              ))}
            </ul>
          </section>
        )}
        <TextBox
          label="What it is for (a note in the list of versions)"
          value={note}
          onChange={setNote}
          maxLength={500}
        />
      </div>
    </Dialog>
  );
}
