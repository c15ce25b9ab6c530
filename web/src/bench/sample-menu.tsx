import { useMutation } from "@tanstack/react-query";
import { useRef, useState } from "react";
import { toast } from "sonner";
import { api, ask } from "../api/client";
import { Menu } from "../ui/menu";
import { PasteSample } from "./paste-sample";
import { type ServerFile, ServerFiles } from "./server-files";

type Props = {
  owner: "job" | "layout";
  name: string;
  giveSample: (file: File) => void;
  /** Told when the server has taken one of its own files. */
  taken: () => void;
};

/** Where the sample of a job or a layout comes from: this machine, the server, a past run, or pasted text. */
export function SampleMenu({ owner, name, giveSample, taken }: Props) {
  const [dialog, setDialog] = useState<"server" | "paste">();
  const filePicker = useRef<HTMLInputElement>(null);
  const close = () => setDialog(undefined);
  const take = useMutation({
    mutationFn: (file: ServerFile) => {
      const whose = owner === "job" ? { job: name } : { layout: name };
      return "run" in file
        ? ask(api.POST("/api/v1/runs/{run}/sample", { params: { path: { run: file.run }, query: whose } }))
        : ask(
            api.POST("/api/v1/roots/{root}/sample", {
              params: { path: { root: file.root }, query: { file: file.path, ...whose } },
            }),
          );
    },
    onSuccess: taken,
    onError: (e) => toast.error(e.message),
  });
  return (
    <>
      <input
        ref={filePicker}
        type="file"
        aria-label="Sample"
        className="hidden"
        onChange={(e) => e.target.files?.[0] && giveSample(e.target.files[0])}
      />
      <Menu
        label="Sample"
        items={[
          { word: "A file of this machine…", onSelect: () => filePicker.current?.click() },
          { word: "A file on the server, or of a past run…", onSelect: () => setDialog("server") },
          { word: "Pasted text…", onSelect: () => setDialog("paste") },
        ]}
      />
      {dialog === "server" && (
        <ServerFiles
          onClose={close}
          onChoose={(file) => {
            close();
            take.mutate(file);
          }}
        />
      )}
      {dialog === "paste" && <PasteSample onClose={close} onPaste={giveSample} />}
    </>
  );
}
