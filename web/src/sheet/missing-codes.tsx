import { useMutation, useQuery, useQueryClient } from "@tanstack/react-query";
import { Plus } from "lucide-react";
import { useState } from "react";
import { Link } from "react-router";
import { toast } from "sonner";
import { api, ask, type Schemas } from "../api/client";
import { Button } from "../ui/basics";
import { count, plural } from "../ui/words";

const shown = 6;

/** Values of the sample that are not in a code list, each to be added where it stands. */
export function MissingCodes({ missing, sample }: { missing: Schemas["MissingCode"][]; sample: string }) {
  const lists = useQuery({ queryKey: ["code-lists"], queryFn: () => ask(api.GET("/api/v1/code-lists")) });
  if (missing.length === 0) return null;
  const names = [...new Set(missing.map((m) => m.list))];
  return (
    <section aria-label="Values that are not in a code list" className="rounded border border-ochre bg-ochre-wash p-2">
      {names.map((name) => {
        const own = missing.filter((m) => m.list === name);
        const byQuery = lists.data?.find((l) => l.name === name)?.byQuery;
        return (
          <div key={name}>
            <p className="text-sm text-ochre">
              {plural(own.length, "value")} of the sample {own.length === 1 ? "is" : "are"} not in{" "}
              <Link className="font-semibold underline" to={`/code-lists/${name}`}>
                {name}
              </Link>
              {byQuery && ", which a query reads"}
            </p>
            {byQuery ? (
              <p className="data truncate text-sm">{own.map((m) => m.value).join(", ")}</p>
            ) : (
              <ul>
                {own.slice(0, shown).map((m) => (
                  <Missing key={m.value} code={m} sample={sample} />
                ))}
              </ul>
            )}
            {!byQuery && own.length > shown && (
              <p className="text-xs text-faint">and {count(own.length - shown)} more</p>
            )}
          </div>
        );
      })}
    </section>
  );
}

function Missing({ code, sample }: { code: Schemas["MissingCode"]; sample: string }) {
  const queries = useQueryClient();
  const [meaning, setMeaning] = useState("");
  const add = useMutation({
    mutationFn: () =>
      ask(
        api.POST("/api/v1/code-lists/{list}/entries", {
          params: { path: { list: code.list } },
          body: {
            entries: [meaning === "" ? [code.value] : [code.value, meaning]],
            note: `${code.value} added from ${sample}`,
          },
        }),
      ),
    onSuccess: (list) => {
      toast(`${code.value} is in ${code.list} now, version ${list.version}.`);
      for (const key of ["bench", "rules", "code-lists", "code-list", "job-part"])
        queries.invalidateQueries({ queryKey: [key] });
    },
    onError: (e) => toast.error(e.message),
  });
  return (
    <li className="flex items-center gap-2 py-0.5 text-sm">
      <span className="data font-semibold">{code.value === "" ? "(blank)" : code.value}</span>
      <span className="text-faint">{count(code.count)}×</span>
      <input
        aria-label={`Meaning of ${code.value}`}
        placeholder="meaning"
        value={meaning}
        onChange={(e) => setMeaning(e.target.value)}
        onKeyDown={(e) => e.key === "Enter" && add.mutate()}
        className="data ml-auto h-7 w-28 min-w-0 rounded border border-line bg-card px-2 text-sm"
      />
      <Button
        className="h-7 px-2"
        aria-label={`Add ${code.value} to ${code.list}`}
        disabled={add.isPending}
        onClick={() => add.mutate()}
      >
        <Plus size={13} aria-hidden /> Add
      </Button>
    </li>
  );
}
