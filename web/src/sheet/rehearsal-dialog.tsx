import { useQuery, useQueryClient } from "@tanstack/react-query";
import { api, ask } from "../api/client";
import { PlacesTable } from "../runs/places-table";
import { Button, Trouble } from "../ui/basics";
import { Dialog } from "../ui/dialog";
import { Weight } from "../ui/state";
import { count, plural } from "../ui/words";
import { KeepAsProof } from "./proofs-dialog";
import { Shortcomings } from "./shortcomings";

/** Runs the draft on the sample against an empty copy of the target: what the server itself would say, nothing kept. */
export function RehearsalDialog({ name, onClose }: { name: string; onClose: () => void }) {
  const queries = useQueryClient();
  const rehearsal = useQuery({
    queryKey: ["rehearsal", name],
    queryFn: () => ask(api.POST("/api/v1/jobs/{job}/rehearsal", { params: { path: { job: name } } })),
    retry: false,
    gcTime: 0,
  });
  const r = rehearsal.data;
  const tally = r?.account.tally;
  return (
    <Dialog open wide onClose={onClose} title="Rehearsal" actions={<Button onClick={onClose}>Close</Button>}>
      {rehearsal.isPending && <p className="text-faint">Rehearsing on the sample…</p>}
      {rehearsal.isError && <Trouble error={rehearsal.error} />}
      {r && tally && (
        <div className="flex flex-col gap-4">
          {r.state === "not ready" ? (
            <p className="font-semibold text-brick">Not rehearsed: this has to be mended first.</p>
          ) : (
            <p>
              <strong>{count(tally.read)}</strong> read ={" "}
              <strong className="text-moss">{count(tally.delivered)}</strong> would be delivered +{" "}
              <strong className="text-brick">{count(tally.rejected)}</strong> would be rejected
              {tally.setAside > 0 && ` + ${count(tally.setAside)} would be set aside`}
              {tally.withoutRows > 0 && ` + ${count(tally.withoutRows)} without rows`}
              {r.account.open > 0 && ` + ${count(r.account.open)} not in all places`}
              {tally.blank > 0 && `; ${plural(tally.blank, "blank row")} passed over`}. Nothing was delivered.
            </p>
          )}
          {r.state !== "not ready" && <PlacesTable places={r.account.places} />}
          {r.message && <p className="text-brick">{r.message}</p>}
          {r.state === "not ready" && <Shortcomings list={r.shortcomings} />}
          {r.reasons.length > 0 && (
            <ul className="divide-y divide-line border-y border-line text-sm">
              {r.reasons.map((reason) => (
                <li key={reason.code + reason.reason} className="flex items-baseline gap-3 py-1.5">
                  <Weight severity={reason.severity} />
                  <span className="min-w-0 flex-1">
                    {reason.reason}
                    <span className="data block truncate text-xs text-faint">
                      such as {reason.example} on line {count(reason.firstLine)} · {reason.code}
                    </span>
                  </span>
                  <span className="data font-semibold">{count(reason.count)}</span>
                </li>
              ))}
            </ul>
          )}
          {r.reasons.length === 0 && r.state === "finished" && <p className="text-moss">No findings.</p>}
          {r.state !== "not ready" && (
            <KeepAsProof name={name} kept={() => queries.invalidateQueries({ queryKey: ["proofs", name] })} />
          )}
        </div>
      )}
    </Dialog>
  );
}
