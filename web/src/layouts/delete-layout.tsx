import { useMutation, useQueryClient } from "@tanstack/react-query";
import { useNavigate } from "react-router";
import { toast } from "sonner";
import { api, ask } from "../api/client";
import { DeleteDialog } from "../ui/delete-dialog";

type Props = { name: string; title: string; usedBy: string[]; onClose: () => void };

/** Deletes a layout that no job works with. */
export function DeleteLayout({ name, title, usedBy, onClose }: Props) {
  const navigate = useNavigate();
  const queries = useQueryClient();
  const remove = useMutation({
    mutationFn: () => ask(api.DELETE("/api/v1/layouts/{layout}", { params: { path: { layout: name } } })),
    onSuccess: () => {
      navigate("/layouts");
      toast(`${title} is deleted.`);
      queries.removeQueries({ queryKey: ["layout", name] });
      queries.invalidateQueries({ queryKey: ["layouts"] });
    },
  });
  return (
    <DeleteDialog
      what={title}
      refused={usedBy.length > 0}
      pending={remove.isPending}
      error={remove.error}
      onDelete={() => remove.mutate()}
      onClose={onClose}
    >
      {usedBy.length > 0 ? (
        <p className="text-brick">
          It is used by {usedBy.join(", ")}. Give {usedBy.length === 1 ? "that job" : "those jobs"} another layout
          first.
        </p>
      ) : (
        <p>With it go its draft, all its versions and its sample. This cannot be undone.</p>
      )}
    </DeleteDialog>
  );
}
