import { useMutation } from "@tanstack/react-query";
import { useState } from "react";
import { useNavigate } from "react-router";
import { api, ask, type Schemas, sendFile } from "../api/client";
import { Button, Labelled, TextBox, Trouble } from "../ui/basics";
import { Dialog } from "../ui/dialog";
import { FileBox } from "../ui/file-box";

type Asked = { name: string; prompt?: string; value?: string };

type Props = {
  name: string;
  asked: Asked[];
  /** Whether the job asks a database. */
  query: boolean;
  onClose: () => void;
};

/** Runs the live version on a file from this computer, with what is asked at start. */
export function StartDialog({ name, asked, query, onClose }: Props) {
  const navigate = useNavigate();
  const [file, setFile] = useState<File>();
  const [values, setValues] = useState<Record<string, string>>(
    Object.fromEntries(asked.map((a) => [a.name, a.value ?? ""])),
  );
  const start = useMutation({
    mutationFn: () => {
      const fields = Object.fromEntries(Object.entries(values).map(([k, v]) => [`asked.${k}`, v]));
      return sendFile<Schemas["RunView"]>("POST", `/api/v1/jobs/${name}/runs`, file as File, fields);
    },
    onSuccess: (run) => navigate(`/runs/${run.id}`),
  });
  const askNow = useMutation({
    mutationFn: () => ask(api.POST("/api/v1/jobs/{job}/ask", { params: { path: { job: name } }, body: values })),
    onSuccess: ({ run }) => {
      if (run) navigate(`/runs/${run}`);
    },
  });
  const none = askNow.data && !askNow.data.run;
  return (
    <Dialog
      open
      onClose={onClose}
      title={query ? "Run" : "Run a file"}
      actions={
        <>
          <Button onClick={onClose}>Cancel</Button>
          {query && (
            <Button look={file ? "plain" : "main"} disabled={askNow.isPending} onClick={() => askNow.mutate()}>
              {askNow.isPending ? "Asking…" : "Ask the database now"}
            </Button>
          )}
          {(!query || file) && (
            <Button look="main" disabled={!file || start.isPending} onClick={() => start.mutate()}>
              {start.isPending ? "Sending…" : query ? "Run the file" : "Run"}
            </Button>
          )}
        </>
      }
    >
      <div className="flex flex-col gap-3">
        <p className="text-faint">
          {query
            ? "The live version asks its database and delivers the rows; or a file of them, given by hand."
            : "The live version runs on it and delivers its records."}
        </p>
        {none && <p className="text-ochre">The query gives no rows to take now: there is nothing to run.</p>}
        <Labelled label={query ? "Or a file" : "File"}>
          {(control) => <FileBox {...control} onFiles={(files) => setFile(files[0])} />}
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
        {askNow.isError && <Trouble error={askNow.error} />}
      </div>
    </Dialog>
  );
}
