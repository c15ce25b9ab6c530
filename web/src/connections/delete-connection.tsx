import { useMutation, useQuery, useQueryClient } from "@tanstack/react-query";
import { Link } from "react-router";
import { api, ask } from "../api/client";
import { DeleteDialog } from "../ui/delete-dialog";

/** Deletes a connection that no job delivers through, and names the jobs that keep it. */
export function DeleteConnection(props: { name: string; title: string; onDeleted: () => void; onClose: () => void }) {
  const queries = useQueryClient();
  const params = { path: { name: props.name } };
  const jobs = useQuery({
    queryKey: ["connection-jobs", props.name],
    queryFn: () => ask(api.GET("/api/connections/{name}/jobs", { params })),
    gcTime: 0,
  });
  const remove = useMutation({
    mutationFn: () => ask(api.DELETE("/api/connections/{name}", { params })),
    onSuccess: () => {
      queries.invalidateQueries({ queryKey: ["connections"] });
      props.onDeleted();
    },
  });
  const used = jobs.data ?? [];
  return (
    <DeleteDialog
      what={props.title}
      refused={!jobs.data || used.length > 0}
      pending={remove.isPending}
      error={remove.error ?? jobs.error}
      onDelete={() => remove.mutate()}
      onClose={props.onClose}
    >
      {used.length > 0 ? (
        <p>
          These jobs deliver through it, in their draft or live:{" "}
          {used.map((job, i) => (
            <span key={job}>
              {i > 0 && ", "}
              <Link to={`/jobs/${job}?section=5`} className="text-pine underline">
                {job}
              </Link>
            </span>
          ))}
          . Give them another connection first.
        </p>
      ) : (
        <p>
          No job delivers through it. Its address and its sealed password are forgotten; the database is not touched.
        </p>
      )}
    </DeleteDialog>
  );
}
