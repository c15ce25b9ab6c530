import { useMutation, useQuery, useQueryClient } from "@tanstack/react-query";
import { CircleCheck, CircleX } from "lucide-react";
import { useState } from "react";
import { toast } from "sonner";
import { api, ask, type Schemas } from "../api/client";
import { Button, TextBox, Trouble } from "../ui/basics";
import { Dialog } from "../ui/dialog";
import { Menu } from "../ui/menu";
import { count, plural } from "../ui/words";

type Proof = Schemas["ProofView"];

/** The proofs of a job, each proved by its draft as it is saved. */
export function useProofs(name: string, revision: number) {
  return useQuery({
    queryKey: ["proofs", name, revision],
    placeholderData: (before) => before,
    retry: false,
    queryFn: () => ask(api.GET("/api/v1/jobs/{job}/proofs", { params: { path: { job: name } } })),
  });
}

type Props = { name: string; revision: number; hasSample: boolean; onClose: () => void };

/** Samples kept with the job, and whether it still makes of them what it should. */
export function ProofsDialog({ name, revision, hasSample, onClose }: Props) {
  const queries = useQueryClient();
  const proofs = useProofs(name, revision);
  const again = () => queries.invalidateQueries({ queryKey: ["proofs", name] });
  const accept = useMutation({
    mutationFn: (proof: string) =>
      ask(api.POST("/api/v1/jobs/{job}/proofs/{proof}/accept", { params: { path: { job: name, proof: proof } } })),
    onSuccess: again,
  });
  const remove = useMutation({
    mutationFn: (proof: string) =>
      ask(api.DELETE("/api/v1/jobs/{job}/proofs/{proof}", { params: { path: { job: name, proof: proof } } })),
    onSuccess: again,
  });
  const failed = proofs.error ?? accept.error ?? remove.error;
  return (
    <Dialog
      open
      wide
      onClose={onClose}
      title="Proofs"
      actions={
        <>
          <a
            href={`/api/v1/jobs/${name}/proofs/archive`}
            download
            className="mr-auto self-center text-sm text-pine underline underline-offset-2"
          >
            Job and proofs for the command line
          </a>
          <Button onClick={onClose}>Close</Button>
        </>
      }
    >
      <div className="flex flex-col gap-4">
        {failed && <Trouble error={failed} />}
        {proofs.isPending && <p className="text-faint">Proving…</p>}
        {proofs.data?.length === 0 && (
          <p className="text-faint">
            None yet. A proof keeps the sample with what the job makes of it now. From then on every change shows
            whether that is still so, and a draft that makes something else does not go live.
          </p>
        )}
        {proofs.data && proofs.data.length > 0 && (
          <ul className="divide-y divide-line border-y border-line">
            {proofs.data.map((p) => (
              <ProofRow
                key={p.name}
                proof={p}
                accept={() => accept.mutate(p.name)}
                remove={() => remove.mutate(p.name)}
              />
            ))}
          </ul>
        )}
        {hasSample ? (
          <KeepAsProof name={name} kept={again} />
        ) : (
          <p className="text-faint">The job has no sample to keep.</p>
        )}
      </div>
    </Dialog>
  );
}

function ProofRow({ proof, accept, remove }: { proof: Proof; accept: () => void; remove: () => void }) {
  const [open, setOpen] = useState(!proof.green);
  return (
    <li className="py-2.5">
      <div className="flex items-center gap-3">
        {proof.green ? (
          <CircleCheck size={18} className="shrink-0 text-moss" aria-hidden />
        ) : (
          <CircleX size={18} className="shrink-0 text-brick" aria-hidden />
        )}
        <div className="min-w-0 flex-1">
          <p>
            <strong>{proof.name}</strong>{" "}
            <span className={proof.green ? "text-moss" : "text-brick"}>
              {proof.green
                ? "green"
                : proof.trouble
                  ? "cannot be proved"
                  : plural(proof.differencesInAll, "difference")}
            </span>
          </p>
          <p className="text-sm text-faint">
            <span className="data">{proof.fileName}</span>: {plural(proof.records, "record")},{" "}
            {plural(proof.rows, "row")}, {plural(proof.findings, "finding")}; by {proof.madeBy}
            {proof.ended !== "finished" && `; it ends ${proof.ended}`}
          </p>
        </div>
        {!proof.green && !proof.trouble && (
          <>
            <Button look="quiet" aria-expanded={open} onClick={() => setOpen(!open)}>
              {open ? "Hide" : "Show"}
            </Button>
            <Button onClick={accept}>Expect this from now on</Button>
          </>
        )}
        <Menu label="More" items={[{ word: "Remove this proof", onSelect: remove, brick: true }]} />
      </div>
      {proof.trouble && <p className="mt-1 text-sm text-brick">{proof.trouble}</p>}
      {open && proof.differences.length > 0 && (
        <div
          className="mt-2 max-h-72 overflow-auto rounded border border-line"
          tabIndex={0}
          role="region"
          aria-label="Differences"
        >
          <table className="w-full border-collapse text-sm">
            <thead className="sticky top-0 bg-sunk text-left text-xs text-faint">
              <tr>
                <th className="px-2 py-1 font-normal">Where</th>
                <th className="px-2 font-normal">Expected</th>
                <th className="px-2 font-normal">Made now</th>
              </tr>
            </thead>
            <tbody>
              {proof.differences.map((d, i) => (
                <tr key={`${i} ${d.place}`} className="border-t border-line align-top">
                  <td className="data px-2 py-1">{d.place}</td>
                  <td className="data px-2 py-1 text-moss">{d.expected ?? "nothing"}</td>
                  <td className="data px-2 py-1 text-brick">{d.made ?? "nothing"}</td>
                </tr>
              ))}
            </tbody>
          </table>
          {proof.differencesInAll > proof.differences.length && (
            <p className="p-2 text-sm text-faint">
              and {count(proof.differencesInAll - proof.differences.length)} more
            </p>
          )}
        </div>
      )}
    </li>
  );
}

/** Keeps the sample, and what the draft makes of it, as a proof. */
export function KeepAsProof({ name, kept }: { name: string; kept: () => void }) {
  const [proof, setProof] = useState("");
  const make = useMutation({
    mutationFn: () =>
      ask(api.POST("/api/v1/jobs/{job}/proofs", { params: { path: { job: name }, query: { name: proof } } })),
    onSuccess: () => {
      toast(`The sample is kept as the proof ${proof}.`);
      setProof("");
      kept();
    },
  });
  const fits = /^[a-z0-9]([a-z0-9-]{0,62}[a-z0-9])?$/.test(proof);
  return (
    <form
      className="flex flex-col gap-2"
      onSubmit={(e) => {
        e.preventDefault();
        if (fits) make.mutate();
      }}
    >
      <div className="flex items-end gap-2">
        <TextBox
          label="Keep the sample as a proof named"
          className="flex-1"
          placeholder="three-rounds"
          value={proof}
          onChange={(v) => setProof(v.toLowerCase().replace(/[ _]/g, "-"))}
          data
        />
        <Button type="submit" disabled={!fits || make.isPending}>
          Keep it
        </Button>
      </div>
      {make.isError && <Trouble error={make.error} />}
    </form>
  );
}
