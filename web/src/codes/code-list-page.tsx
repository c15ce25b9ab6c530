import { useMutation, useQuery, useQueryClient } from "@tanstack/react-query";
import { useRef, useState } from "react";
import { Link, useNavigate, useParams } from "react-router";
import { toast } from "sonner";
import { api, ask, download, Problem, type Schemas, sendFile } from "../api/client";
import type { CodeEntry, CodeList } from "../definitions";
import { Button, Empty, Select, TextBox, Trouble } from "../ui/basics";
import { ChangesTable } from "../ui/changes-table";
import { type Conflict, ConflictDialog } from "../ui/conflict-dialog";
import { DeleteDialog } from "../ui/delete-dialog";
import { Dialog } from "../ui/dialog";
import { AskBeforeLeaving } from "../ui/leaving";
import { Menu } from "../ui/menu";
import { Standing } from "../ui/standing";
import { count, moment } from "../ui/words";
import { CodeGrid } from "./code-grid";
import { QueryForm } from "./query-form";
import { useCodeList } from "./use-code-list";

/** A code list: its lines in a grid, what happens to other values, its versions and where it is used. */
export function CodeListPage() {
  const { name = "" } = useParams();
  return <CodeListEditor key={name} name={name} />;
}

function CodeListEditor({ name }: { name: string }) {
  const queries = useQueryClient();
  const navigate = useNavigate();
  const editor = useCodeList(name);
  const [dialog, setDialog] = useState<"versions" | "delete">();
  const file = useRef<HTMLInputElement>(null);
  const params = { path: { list: name } };
  const saved = (view: Schemas["CodeListView"], sent: CodeList) => {
    queries.setQueryData(["code-list", name], view);
    for (const key of ["code-lists", "code-list-versions", "bench", "rules", "job-part"])
      queries.invalidateQueries({ queryKey: [key] });
    editor.saved(sent, view.version);
    toast(`Version ${view.version} is saved. Runs that start from now on take it.`);
  };
  const save = useMutation({
    mutationFn: (sent: CodeList) =>
      ask(api.PUT("/api/v1/code-lists/{list}", { params, body: { list: sent, basedOn: editor.basedOn, note: "" } })),
    onSuccess: saved,
    onError: async (e) => {
      if (e instanceof Problem && e.status === 409) await editor.view.refetch();
    },
  });
  const newer = editor.changed && editor.view.data && editor.view.data.version > editor.basedOn;
  const conflict: Conflict | undefined =
    newer && editor.view.data
      ? {
          by: editor.view.data.savedBy,
          at: editor.view.data.savedAt,
          difference: () =>
            ask(
              api.POST("/api/v1/code-lists/{list}/difference", {
                params,
                body: { list: editor.list as CodeList, basedOn: editor.basedOn, note: "" },
              }),
            ),
          takeMine: () => {
            save.reset();
            editor.baseOn(editor.view.data?.version ?? 0);
          },
          takeTheirs: () => {
            save.reset();
            editor.reset();
          },
        }
      : undefined;
  const remove = useMutation({
    mutationFn: () => ask(api.DELETE("/api/v1/code-lists/{list}", { params })),
    onSuccess: () => {
      navigate("/code-lists");
      queries.invalidateQueries({ queryKey: ["code-lists"] });
    },
  });
  const read = useMutation({
    mutationFn: (from: File) => sendFile<Schemas["CodeLines"]>("POST", "/api/v1/code-lists/read", from),
    onSuccess: (lines) => {
      if (!editor.list) return;
      editor.change({ ...editor.list, columns: lines.columns, entries: lines.entries as CodeEntry[] });
      toast(`${count(lines.entries.length)} lines are read. Save them as a version, or undo.`);
    },
    onError: (e) => toast.error(e.message),
  });
  if (editor.view.isError)
    return (
      <div className="p-6">
        <Trouble error={editor.view.error} />
      </div>
    );
  const list = editor.list;
  const view = editor.view.data;
  if (!list || !view) return null;
  const missing = list.missing ?? { policy: "reject" };
  return (
    <div className="flex h-full flex-col">
      <div className="flex flex-wrap items-center gap-x-3 gap-y-2 border-b border-line px-5 py-2.5">
        <div className="mr-auto min-w-0">
          <h1 className="truncate">{list.title ?? name}</h1>
          <p className="text-xs text-faint">
            version {view.version}, saved {moment(view.savedAt)} by {view.savedBy}
            {view.note && ` · ${view.note}`}
            {editor.changed && (
              <>
                {" · "}
                <Standing
                  keeping={editor.trouble ? { trouble: editor.trouble } : "kept"}
                  next="not saved as a version yet"
                />
              </>
            )}
          </p>
        </div>
        <input
          ref={file}
          type="file"
          className="hidden"
          aria-label="A delimited file of lines"
          onChange={(e) => {
            const chosen = e.target.files?.[0];
            if (chosen) read.mutate(chosen);
            e.target.value = "";
          }}
        />
        <Menu
          label="More"
          items={[
            {
              word: "Read the lines from a delimited file…",
              onSelect: () => file.current?.click(),
              disabled: !!list.query,
            },
            {
              word: "Download the lines as a delimited file",
              onSelect: () =>
                download(`/api/v1/code-lists/${name}/export`, `${name}.csv`).catch((e) => toast.error(e.message)),
            },
            { word: "Delete this code list…", onSelect: () => setDialog("delete"), brick: true },
          ]}
        />
        <Button onClick={() => setDialog("versions")}>Versions</Button>
        <Button onClick={editor.undo} disabled={!editor.undo}>
          Undo
        </Button>
        {editor.changed && <Button onClick={editor.reset}>Discard changes</Button>}
        <Button look="main" disabled={!editor.changed || save.isPending} onClick={() => save.mutate(list)}>
          Save a version
        </Button>
      </div>
      <div className="grid min-h-0 flex-1 grid-cols-[300px_minmax(0,1fr)]">
        <div className="flex min-h-0 flex-col gap-3 overflow-auto border-r border-line px-5 py-4">
          {save.isError && !conflict && <Trouble error={save.error} />}
          <TextBox label="Title" value={list.title ?? ""} onChange={(title) => editor.change({ ...list, title })} />
          <TextBox
            label="What it is for"
            value={list.description ?? ""}
            onChange={(description) => editor.change({ ...list, description: description || undefined })}
          />
          <Select
            label="A value that is not in the list"
            value={missing.policy}
            onChange={(policy) => editor.change({ ...list, missing: { policy: policy, value: undefined } })}
            options={[
              { value: "reject", label: "rejects its record" },
              { value: "pass", label: "is passed on, with a note" },
              { value: "value", label: "becomes another value" },
            ]}
          />
          {missing.policy === "value" && (
            <TextBox
              label="It becomes"
              placeholder="NULL"
              data
              value={missing.value ?? ""}
              onChange={(value) => editor.change({ ...list, missing: { policy: "value", value: value || undefined } })}
            />
          )}
          <QueryForm list={list} change={editor.change} />
          <section>
            <h2 className="mb-1 text-xs font-semibold text-faint">Used by</h2>
            {view.usedBy.length === 0 && <p className="text-sm text-faint">No job names it yet.</p>}
            <ul className="text-sm">
              {view.usedBy.map((job) => (
                <li key={job}>
                  <Link to={`/jobs/${job}?section=4`} className="text-pine hover:underline">
                    {job}
                  </Link>
                </li>
              ))}
            </ul>
          </section>
          <p className="text-xs text-faint">
            In a formula: <span className="data">TRANSLATE(field USING {quoted(name)})</span>
          </p>
        </div>
        {list.query ? (
          <Empty title="The lines are read by a query">
            Each run reads them once, when it first starts. Press “Read it now” to see what they are.
          </Empty>
        ) : (
          <CodeGrid list={list} change={editor.change} />
        )}
      </div>
      {conflict && <ConflictDialog conflict={conflict} what={list.title ?? name} />}
      <AskBeforeLeaving unkept={editor.trouble !== undefined} what={list.title ?? name} />
      {dialog === "versions" && <Versions name={name} onClose={() => setDialog(undefined)} />}
      {dialog === "delete" && (
        <DeleteDialog
          what={list.title ?? name}
          refused={view.usedBy.length > 0}
          pending={remove.isPending}
          error={remove.error}
          onDelete={() => remove.mutate()}
          onClose={() => setDialog(undefined)}
        >
          {view.usedBy.length > 0 ? (
            <p className="text-brick">It is used by {view.usedBy.join(", ")}. Take it out of those rules first.</p>
          ) : (
            <p>With it go all its versions. This cannot be undone.</p>
          )}
        </DeleteDialog>
      )}
    </div>
  );
}

/** A name as a formula writes it. */
function quoted(name: string): string {
  return /^[a-z_][a-z0-9_]*$/.test(name) ? name : `"${name}"`;
}

/** The versions of a code list and what each changed. */
function Versions({ name, onClose }: { name: string; onClose: () => void }) {
  const params = { path: { list: name } };
  const versions = useQuery({
    queryKey: ["code-list-versions", name],
    queryFn: () => ask(api.GET("/api/v1/code-lists/{list}/versions", { params })),
  });
  const [chosen, setChosen] = useState<number>();
  const version = chosen ?? versions.data?.[0]?.version;
  const changes = useQuery({
    queryKey: ["code-list-versions", name, "changes", version],
    enabled: version !== undefined,
    queryFn: () =>
      ask(api.GET("/api/v1/code-lists/{list}/changes", { params: { ...params, query: { version: version ?? 0 } } })),
  });
  return (
    <Dialog open wide onClose={onClose} title={`Versions of ${name}`}>
      {versions.isError && <Trouble error={versions.error} />}
      <table className="mb-4 w-full border-collapse text-sm">
        <thead>
          <tr className="border-b border-line text-xs text-faint">
            {["Version", "Saved", "By", "Lines", "Note"].map((h) => (
              <th key={h} className="py-1 pr-4">
                {h}
              </th>
            ))}
          </tr>
        </thead>
        <tbody>
          {versions.data?.map((v) => (
            <tr
              key={v.version}
              className={`cursor-default border-b border-line ${v.version === version ? "bg-pine-wash" : "hover:bg-sunk"}`}
            >
              <td className="py-1 pr-4">
                <button type="button" className="data text-pine underline" onClick={() => setChosen(v.version)}>
                  {v.version}
                </button>
              </td>
              <td className="data pr-4 whitespace-nowrap">{moment(v.savedAt)}</td>
              <td className="pr-4">{v.savedBy}</td>
              <td className="data pr-4">{count(v.entries)}</td>
              <td className="text-faint">{v.note ?? ""}</td>
            </tr>
          ))}
        </tbody>
      </table>
      {changes.data?.length === 0 && <p className="text-sm text-faint">Version {version} is the first.</p>}
      {changes.data && changes.data.length > 0 && (
        <ChangesTable changes={changes.data} before={`Version ${(version ?? 1) - 1}`} after={`Version ${version}`} />
      )}
    </Dialog>
  );
}
