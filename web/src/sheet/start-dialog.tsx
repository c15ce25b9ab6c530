import { useMutation } from "@tanstack/react-query";
import { useState } from "react";
import { useNavigate } from "react-router";
import { type Schemas, sendFile } from "../api/client";
import { Button, Labelled, TextBox, Trouble } from "../ui/basics";
import { Dialog } from "../ui/dialog";

type Asked = { name: string; prompt?: string; value?: string };

/** Runs the live version on a file from this computer, with what is asked at start. */
export function StartDialog({ name, asked, onClose }: { name: string; asked: Asked[]; onClose: () => void }) {
  const navigate = useNavigate();
  const [file, setFile] = useState<File>();
  const [values, setValues] = useState<Record<string, string>>(
    Object.fromEntries(asked.map((a) => [a.name, a.value ?? ""])),
  );
  const start = useMutation({
    mutationFn: () => {
      const fields = Object.fromEntries(Object.entries(values).map(([k, v]) => [`asked.${k}`, v]));
      return sendFile<Schemas["RunView"]>("POST", `/api/jobs/${name}/runs`, file as File, fields);
    },
    onSuccess: (run) => navigate(`/runs/${run.id}`),
  });
  return (
    <Dialog
      open
      onClose={onClose}
      title="Run a file"
      actions={
        <>
          <Button onClick={onClose}>Cancel</Button>
          <Button look="main" disabled={!file || start.isPending} onClick={() => start.mutate()}>
            {start.isPending ? "Sending…" : "Run"}
          </Button>
        </>
      }
    >
      <div className="flex flex-col gap-3">
        <p className="text-faint">The live version runs on it and delivers its records.</p>
        <Labelled label="File">
          {(id) => <input id={id} type="file" className="text-sm" onChange={(e) => setFile(e.target.files?.[0])} />}
        </Labelled>
        {asked.map((a) => (
          <TextBox
            key={a.name}
            label={a.prompt ?? a.name}
            value={values[a.name] ?? ""}
            onChange={(v) => setValues({ ...values, [a.name]: v })}
          />
        ))}
        {start.isError && <Trouble error={start.error} />}
      </div>
    </Dialog>
  );
}
