import { useMutation, useQuery, useQueryClient } from "@tanstack/react-query";
import { toast } from "sonner";
import { api, ask } from "../api/client";
import { Button, Trouble } from "../ui/basics";
import { ChangesTable } from "../ui/changes-table";
import { Dialog } from "../ui/dialog";
import { Shortcomings } from "./shortcomings";

/** Checks the draft against the real target, shows how it differs from what is live, then puts it live. */
export function LiveDialog({ name, live, onClose }: { name: string; live: number | null; onClose: () => void }) {
  const queries = useQueryClient();
  const params = { path: { job: name } };
  const check = useQuery({
    queryKey: ["job-part", name, "check", "live"],
    queryFn: () => ask(api.GET("/api/v1/jobs/{job}/check", { params: { ...params, query: { live: true } } })),
    retry: false,
  });
  const changes = useQuery({
    queryKey: ["job-part", name, "changes"],
    queryFn: () => ask(api.GET("/api/v1/jobs/{job}/changes", { params })),
    retry: false,
  });
  const put = useMutation({
    mutationFn: () => ask(api.POST("/api/v1/jobs/{job}/live", { params })),
    onSuccess: (result) => {
      queries.invalidateQueries({ queryKey: ["job-part", name] });
      queries.invalidateQueries({ queryKey: ["job", name] });
      if (result.version) {
        toast(`Version ${result.version} is live.`);
        onClose();
      }
    },
  });
  const blocked = !check.data || check.data.some((s) => s.blocks);
  return (
    <Dialog
      open
      wide
      onClose={onClose}
      title="Put live"
      actions={
        <>
          <Button onClick={onClose}>Not yet</Button>
          <Button look="main" disabled={blocked || put.isPending} onClick={() => put.mutate()}>
            Put live
          </Button>
        </>
      }
    >
      <div className="flex flex-col gap-4">
        {(check.isError || put.isError) && <Trouble error={check.error ?? put.error} />}
        {check.data && <Shortcomings list={put.data && !put.data.version ? put.data.shortcomings : check.data} />}
        <div>
          <h2 className="mb-1 text-sm font-semibold">
            {live ? `What changes against version ${live}` : "The first version"}
          </h2>
          {live && changes.data?.length === 0 && <p className="text-faint">Nothing.</p>}
          {changes.data && changes.data.length > 0 && (
            <ChangesTable changes={changes.data} before="Live" after="Draft" />
          )}
        </div>
      </div>
    </Dialog>
  );
}
