import { useMutation, useQueryClient } from "@tanstack/react-query";
import { Plus } from "lucide-react";
import { useState } from "react";
import { Link } from "react-router";
import { toast } from "sonner";
import { api, ask, type Schemas } from "../api/client";
import { Button } from "../ui/basics";
import { count } from "../ui/words";

const shown = 12;

/** Values of the sample that are not in a code list, each to be added where it stands. */
export function MissingCodes({ missing, sample }: { missing: Schemas["MissingCode"][]; sample: string }) {
  if (missing.length === 0) return null;
  return (
    <section aria-label="Values that are not in a code list" className="rounded border border-ochre bg-ochre-wash p-2">
      <p className="text-sm text-ochre">Values of the sample that are not in their code list</p>
      <ul>
        {missing.slice(0, shown).map((m) => (
          <Missing key={`${m.list} ${m.value}`} code={m} sample={sample} />
        ))}
      </ul>
      {missing.length > shown && <p className="text-xs text-faint">and {count(missing.length - shown)} more</p>}
    </section>
  );
}

function Missing({ code, sample }: { code: Schemas["MissingCode"]; sample: string }) {
  const queries = useQueryClient();
  const [meaning, setMeaning] = useState("");
  const add = useMutation({
    mutationFn: () =>
      ask(
        api.POST("/api/code-lists/{name}/entries", {
          params: { path: { name: code.list } },
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
      <span className="text-faint">
        {count(code.count)}× in{" "}
        <Link className="text-pine hover:underline" to={`/code-lists/${code.list}`}>
          {code.list}
        </Link>
      </span>
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
