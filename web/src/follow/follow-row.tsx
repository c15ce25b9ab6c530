import { useMutation } from "@tanstack/react-query";
import { useNavigate } from "react-router";
import { toast } from "sonner";
import { api, ask } from "../api/client";
import { plural } from "../ui/words";

type Props = { connection: string; table: string; keys: string[][]; columns: string[]; row: (string | null)[] };

/** Leads from a row of a table to the record that it was made of. */
export function FollowRow({ connection, table, keys, columns, row }: Props) {
  const navigate = useNavigate();
  const key = keys.find((k) => k.every((c) => row[columns.indexOf(c)] !== null && columns.includes(c)));
  const find = useMutation({
    mutationFn: () =>
      ask(
        api.POST("/api/v1/follow", {
          body: {
            connection,
            table,
            key: Object.fromEntries((key ?? []).map((c) => [c, row[columns.indexOf(c)] ?? ""])),
          },
        }),
      ),
    onSuccess: (found) => {
      if (found.run) navigate(`/runs/${found.run}/follow?record=${found.record}`);
      else toast(`None of the ${plural(found.lookedAt, "run")} whose files are kept has made this row.`);
    },
    onError: (e) => toast.error(e.message),
  });
  if (!key) return null;
  return (
    <button
      type="button"
      className="font-sans text-sm text-pine underline disabled:opacity-50"
      disabled={find.isPending}
      onClick={() => find.mutate()}
      aria-label={`Follow the row ${key.map((c) => row[columns.indexOf(c)]).join(", ")}`}
    >
      {find.isPending ? "looking …" : "follow"}
    </button>
  );
}
