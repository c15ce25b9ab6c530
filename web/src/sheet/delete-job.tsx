import { useMutation, useQuery, useQueryClient } from "@tanstack/react-query";
import { useNavigate } from "react-router";
import { toast } from "sonner";
import { api, ask } from "../api/client";
import { DeleteDialog } from "../ui/delete-dialog";
import { plural } from "../ui/words";

/** Deletes a job, after saying what goes with it and what stays. */
export function DeleteJob({ name, title, onClose }: { name: string; title: string; onClose: () => void }) {
  const navigate = useNavigate();
  const queries = useQueryClient();
  const params = { path: { job: name } };
  const dependents = useQuery({
    queryKey: ["dependents", name],
    queryFn: () => ask(api.GET("/api/v1/jobs/{job}/dependents", { params })),
    gcTime: 0,
  });
  const remove = useMutation({
    mutationFn: () => ask(api.DELETE("/api/v1/jobs/{job}", { params })),
    onSuccess: () => {
      navigate("/jobs");
      toast(`${title} is deleted.`);
      queries.removeQueries({ queryKey: ["job", name] });
      queries.invalidateQueries();
    },
  });
  const d = dependents.data;
  return (
    <DeleteDialog
      what={title}
      refused={!d || d.underWay > 0}
      pending={remove.isPending}
      error={remove.error ?? dependents.error}
      onDelete={() => remove.mutate()}
      onClose={onClose}
    >
      {d && d.underWay > 0 && (
        <p className="text-brick">
          {plural(d.underWay, "run")} waiting or under way. Stop it before you delete the job.
        </p>
      )}
      {d && (
        <p>
          With it go its draft, {plural(d.versions, "version")}, and the record of {plural(d.runs, "run")} with{" "}
          {plural(d.rejects, "reject")}. This cannot be undone.
        </p>
      )}
      <p className="text-faint">The rows in the target and the files in done and failed stay where they are.</p>
    </DeleteDialog>
  );
}
