import { useQuery } from "@tanstack/react-query";
import { FileText, Folder } from "lucide-react";
import { useState } from "react";
import { api, ask } from "../api/client";
import { Button, Select, Trouble } from "../ui/basics";
import { Dialog } from "../ui/dialog";
import { bytes, count, moment } from "../ui/words";

/** A file on the server: below a root folder, or the one of a past run. */
export type ServerFile = { root: string; path: string } | { run: number };

/** Chooses a file of a root folder or of a past run. */
export function ServerFiles({
  onChoose,
  onClose,
}: {
  onChoose: (file: ServerFile, name: string) => void;
  onClose: () => void;
}) {
  const roots = useQuery({ queryKey: ["roots"], queryFn: () => ask(api.GET("/api/v1/roots")) });
  const [chosen, setChosen] = useState<string>();
  const [folder, setFolder] = useState("");
  const root = chosen ?? roots.data?.[0] ?? "";
  const runs = root === "runs:";
  const entries = useQuery({
    queryKey: ["entries", root, folder],
    enabled: !!root && !runs,
    retry: false,
    queryFn: () => ask(api.GET("/api/v1/roots/{root}/entries", { params: { path: { root }, query: { folder } } })),
  });
  const past = useQuery({ queryKey: ["runs", "recent"], enabled: runs, queryFn: () => ask(api.GET("/api/v1/runs")) });
  const up = folder.includes("/") ? folder.slice(0, folder.lastIndexOf("/")) : "";
  const line = "flex w-full items-center gap-3 border-b border-line px-2 py-1 text-left text-sm hover:bg-pine-wash";
  return (
    <Dialog open onClose={onClose} title="A file on the server">
      <div className="flex flex-col gap-2">
        <Select
          label="Where"
          value={root}
          options={[
            ...(roots.data ?? []).map((r) => ({ value: r, label: `folder ${r}` })),
            { value: "runs:", label: "files of past runs" },
          ]}
          onChange={(r) => {
            setChosen(r);
            setFolder("");
          }}
        />
        {entries.isError && !runs && <Trouble error={entries.error} />}
        {!runs && folder && (
          <Button look="quiet" className="self-start" onClick={() => setFolder(up)}>
            Up from {folder}
          </Button>
        )}
        <ul>
          {!runs &&
            entries.data?.map((e) => (
              <li key={e.name}>
                <button
                  type="button"
                  className={line}
                  onClick={() => {
                    const path = folder ? `${folder}/${e.name}` : e.name;
                    if (e.folder) setFolder(path);
                    else onChoose({ root, path }, e.name);
                  }}
                >
                  {e.folder ? <Folder size={14} aria-label="folder" /> : <FileText size={14} aria-label="file" />}
                  <span className="data min-w-0 flex-1 truncate">{e.name}</span>
                  <span className="text-xs text-faint">{e.folder ? "" : bytes(e.size)}</span>
                  <span className="data text-xs text-faint">{moment(e.changedAt)}</span>
                </button>
              </li>
            ))}
          {!runs && entries.data?.length === 0 && <li className="p-2 text-faint">The folder is empty.</li>}
          {runs &&
            past.data?.items.map((r) => (
              <li key={r.id}>
                <button type="button" className={line} onClick={() => onChoose({ run: r.id }, r.fileName)}>
                  <FileText size={14} aria-label="file" />
                  <span className="data min-w-0 flex-1 truncate">{r.fileName}</span>
                  <span className="text-xs text-faint">run {count(r.id)}</span>
                </button>
              </li>
            ))}
        </ul>
      </div>
    </Dialog>
  );
}
