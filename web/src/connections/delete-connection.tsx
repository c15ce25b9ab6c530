import { useMutation, useQuery, useQueryClient } from "@tanstack/react-query";
import { Link } from "react-router";
import { api, ask } from "../api/client";
import { DeleteDialog } from "../ui/delete-dialog";

/** Deletes a connection that nothing uses, and names the jobs and code lists that keep it. */
export function DeleteConnection(props: { name: string; title: string; onDeleted: () => void; onClose: () => void }) {
  const queries = useQueryClient();
  const params = { path: { connection: props.name } };
  const uses = useQuery({
    queryKey: ["connection-uses", props.name],
    queryFn: () => ask(api.GET("/api/v1/connections/{connection}/uses", { params })),
    gcTime: 0,
  });
  const remove = useMutation({
    mutationFn: () => ask(api.DELETE("/api/v1/connections/{connection}", { params })),
    onSuccess: () => {
      queries.invalidateQueries({ queryKey: ["connections"] });
      props.onDeleted();
    },
  });
  const used = uses.data ?? [];
  return (
    <DeleteDialog
      what={props.title}
      refused={!uses.data || used.length > 0}
      pending={remove.isPending}
      error={remove.error ?? uses.error}
      onDelete={() => remove.mutate()}
      onClose={props.onClose}
    >
      {used.length > 0 ? (
        <p>
          It is used, in a draft or live, by{" "}
          {used.map((use, i) => (
            <span key={use.kind + use.name}>
              {i > 0 && (i === used.length - 1 ? " and " : ", ")}
              {use.kind === "code list" && "the code list "}
              <Link
                to={use.kind === "job" ? `/jobs/${use.name}?section=5` : `/code-lists/${use.name}`}
                className="text-pine underline"
              >
                {use.name}
              </Link>
            </span>
          ))}
          . Give each another connection first.
        </p>
      ) : (
        <p>Nothing uses it. Its address and its sealed password are forgotten; the database is not touched.</p>
      )}
    </DeleteDialog>
  );
}
