import { useQuery } from "@tanstack/react-query";
import { useState } from "react";
import { useParams } from "react-router";
import { api, ask } from "../api/client";
import type { Sheet } from "../definitions";
import { Trouble } from "../ui/basics";
import { Chips } from "../ui/chips";
import { Dialog } from "../ui/dialog";
import { count, plural } from "../ui/words";

/** The files that the sample would give, as they would be written. */
export function FilePreview({ sheet, delivery, onClose }: { sheet: Sheet; delivery: number; onClose: () => void }) {
  const { name = "" } = useParams();
  const [at, setAt] = useState(0);
  const preview = useQuery({
    queryKey: ["files-preview", name, delivery, JSON.stringify(sheet)],
    retry: false,
    gcTime: 0,
    queryFn: () =>
      ask(
        api.POST("/api/v1/jobs/{job}/files", {
          params: { path: { job: name } },
          body: { ...sheet, delivery },
        }),
      ),
  });
  const files = preview.data?.files ?? [];
  const file = files[Math.min(at, files.length - 1)];
  return (
    <Dialog title="What the sample gives" wide open onClose={onClose}>
      <div className="flex flex-col gap-3">
        {preview.isPending && <p className="text-faint">Writing …</p>}
        {preview.isError && <Trouble error={preview.error} />}
        {preview.data && (
          <p>
            {plural(preview.data.count, "file")}
            {preview.data.rejected > 0 && (
              <span className="text-brick">, {plural(preview.data.rejected, "record")} rejected</span>
            )}
            {preview.data.message && <span className="text-brick">. {preview.data.message}</span>}
          </p>
        )}
        {files.length > 1 && (
          <Chips label="Files" value={at} onChange={setAt} chips={files.map((f, i) => ({ value: i, label: f.name }))} />
        )}
        {file && (
          <>
            <p className="data text-sm text-faint">
              {file.name} · {count(file.length)} bytes{file.cut && ", its beginning"}
            </p>
            <pre
              className="data max-h-96 overflow-auto rounded border border-line bg-sunk p-3 text-sm"
              role="region"
              tabIndex={0}
              aria-label={`Content of ${file.name}`}
            >
              {file.text}
            </pre>
          </>
        )}
      </div>
    </Dialog>
  );
}
