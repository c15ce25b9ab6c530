import { useMutation, useQuery, useQueryClient } from "@tanstack/react-query";
import { useState } from "react";
import { Link, useNavigate } from "react-router";
import { api, ask } from "../api/client";
import { Button, Empty, TextBox, Trouble } from "../ui/basics";
import { Dialog } from "../ui/dialog";
import { count, moment } from "../ui/words";

/** All code lists: what they translate into, how many lines they have, who uses them. */
export function CodeListsPage() {
  const [making, setMaking] = useState(false);
  const lists = useQuery({ queryKey: ["code-lists"], queryFn: () => ask(api.GET("/api/v1/code-lists")) });
  return (
    <div className="px-6 py-5">
      <div className="mb-4 flex items-center justify-between">
        <h1>Code lists</h1>
        <Button look="main" onClick={() => setMaking(true)}>
          New code list
        </Button>
      </div>
      {lists.isError && <Trouble error={lists.error} />}
      {lists.data?.length === 0 && (
        <Empty title="No code list yet">
          A code list says what the values of a file mean elsewhere: route R7 is the South valley. Rules and formulas
          translate by it. Make one and paste its lines from a spreadsheet.
        </Empty>
      )}
      {lists.data && lists.data.length > 0 && (
        <table className="w-full border-collapse text-sm">
          <thead>
            <tr className="border-b border-line text-xs text-faint">
              {["Code list", "Columns", "Lines", "A value that is not in it", "Version", "Used by", "Changed"].map(
                (h) => (
                  <th key={h} className="py-1.5 pr-4">
                    {h}
                  </th>
                ),
              )}
            </tr>
          </thead>
          <tbody>
            {lists.data.map((l) => (
              <tr key={l.name} className="border-b border-line align-top hover:bg-card">
                <td className="py-2 pr-4">
                  <Link to={`/code-lists/${l.name}`} className="font-semibold text-pine hover:underline">
                    {l.title}
                  </Link>
                  {l.title !== l.name && <div className="data text-xs text-faint">{l.name}</div>}
                </td>
                <td className="py-2 pr-4">
                  <span className="data">{l.columns[0]}</span>
                  {l.columns.length > 1 && (
                    <>
                      {" → "}
                      <span className="data">{l.columns.slice(1).join(", ")}</span>
                    </>
                  )}
                </td>
                <td className="py-2 pr-4">
                  {l.byQuery ? "by a query" : <span className="data">{count(l.entries)}</span>}
                </td>
                <td className="py-2 pr-4">{l.missing}</td>
                <td className="py-2 pr-4 whitespace-nowrap">version {l.version}</td>
                <td className="py-2 pr-4">{l.usedBy.join(", ") || <span className="text-faint">no job yet</span>}</td>
                <td className="py-2 whitespace-nowrap">
                  <span className="data">{moment(l.savedAt)}</span>
                  <div className="text-xs text-faint">{l.savedBy}</div>
                </td>
              </tr>
            ))}
          </tbody>
        </table>
      )}
      {making && <NewCodeList onClose={() => setMaking(false)} />}
    </div>
  );
}

function NewCodeList({ onClose }: { onClose: () => void }) {
  const navigate = useNavigate();
  const queries = useQueryClient();
  const [title, setTitle] = useState("");
  const name = title
    .toLowerCase()
    .normalize("NFKD")
    .replace(/[^a-z0-9]+/g, "-")
    .replace(/^-|-$/g, "");
  const make = useMutation({
    mutationFn: () =>
      ask(
        api.POST("/api/v1/code-lists", {
          body: { list: { name, title, columns: ["value", "meaning"] }, basedOn: 0, note: "" },
        }),
      ),
    onSuccess: () => {
      queries.invalidateQueries({ queryKey: ["code-lists"] });
      navigate(`/code-lists/${name}`);
    },
  });
  return (
    <Dialog
      open
      onClose={onClose}
      title="New code list"
      actions={
        <>
          <Button onClick={onClose}>Cancel</Button>
          <Button look="main" disabled={!name || make.isPending} onClick={() => make.mutate()}>
            Make it
          </Button>
        </>
      }
    >
      <form
        onSubmit={(e) => {
          e.preventDefault();
          if (name) make.mutate();
        }}
      >
        <TextBox
          label="Title"
          value={title}
          onChange={setTitle}
          placeholder="Routes"
          hint={name && `It will be known as ${name}.`}
        />
      </form>
      {make.isError && <Trouble error={make.error} />}
    </Dialog>
  );
}
