import { useState } from "react";
import { toast } from "sonner";
import { fetchFile } from "../api/client";
import { ServerFiles } from "../bench/server-files";
import { Button } from "../ui/basics";

/** Fetches the start of a file on the server, as if it had been chosen in the browser. */
export function FromFolder({ onFile }: { onFile: (file: File) => void }) {
  const [open, setOpen] = useState(false);
  return (
    <>
      <Button look="quiet" className="self-start px-0" onClick={() => setOpen(true)}>
        Or one on the server…
      </Button>
      {open && (
        <ServerFiles
          onClose={() => setOpen(false)}
          onChoose={(file, name) => {
            setOpen(false);
            const path =
              "run" in file
                ? `/api/v1/runs/${file.run}/start`
                : `/api/v1/roots/${encodeURIComponent(file.root)}/start?file=${encodeURIComponent(file.path)}`;
            fetchFile(path, name).then(onFile, (e) => toast.error(e.message));
          }}
        />
      )}
    </>
  );
}
