import { useMutation } from "@tanstack/react-query";
import { useState } from "react";
import { api, ask, sendFile } from "../api/client";
import type { Job, Layout } from "../definitions";
import { Button, Labelled, TextBox, Trouble } from "../ui/basics";
import { Dialog } from "../ui/dialog";
import { ProposalView, propose } from "./proposal";

/** Makes a job from a title and a sample: a layout is proposed from the sample and shown before it is taken. */
export function NewJob(props: { open: boolean; onClose: () => void; onMade: (name: string) => void }) {
  const [title, setTitle] = useState("");
  const [file, setFile] = useState<File>();
  const name = title
    .toLowerCase()
    .normalize("NFKD")
    .replace(/[^a-z0-9]+/g, "-")
    .replace(/^-+|-+$/g, "")
    .slice(0, 60)
    .replace(/-+$/, "");
  const proposal = useMutation({ mutationFn: (chosen: File) => propose(chosen, "proposed", title) });
  const choose = (chosen: File | undefined) => {
    setFile(chosen);
    if (!chosen) return;
    proposal.mutate(chosen);
    if (!title) setTitle(titleOf(chosen.name));
  };
  const make = useMutation({
    mutationFn: async () => {
      const layout = { ...(proposal.data?.layout as Layout), name, title };
      const job: Job = { name, title, layout: name, deliveries: [], afterCrash: "restart" };
      await ask(api.POST("/api/jobs", { body: { job, layout, revision: 0 } }));
      if (file) await sendFile("PUT", `/api/jobs/${name}/sample`, file);
      return name;
    },
    onSuccess: props.onMade,
  });
  const trouble = make.error ?? proposal.error;
  return (
    <Dialog
      open={props.open}
      wide
      onClose={props.onClose}
      title="New job"
      actions={
        <>
          <Button onClick={props.onClose}>Cancel</Button>
          <Button look="main" disabled={!name || !proposal.data || make.isPending} onClick={() => make.mutate()}>
            Make the job
          </Button>
        </>
      }
    >
      <div
        className="flex flex-col gap-3"
        onDragOver={(e) => e.preventDefault()}
        onDrop={(e) => {
          e.preventDefault();
          choose(e.dataTransfer.files[0]);
        }}
      >
        <div className="grid grid-cols-2 gap-4">
          <Labelled
            label="A sample: a file like the ones that will come"
            hint="Choose it or drop it here: delimited, fixed-length or XML. A layout is proposed from it."
          >
            {(id) => <input id={id} type="file" onChange={(e) => choose(e.target.files?.[0])} className="text-sm" />}
          </Labelled>
          <TextBox label="Title" value={title} onChange={setTitle} hint={name && `It will be known as ${name}.`} />
        </div>
        {proposal.isPending && <p className="text-faint">Looking at the sample…</p>}
        {proposal.data && <ProposalView proposal={proposal.data} />}
        {proposal.data && (
          <p className="text-sm text-faint">Everything can be changed on the sheet, with the sample beside it.</p>
        )}
        {trouble && <Trouble error={trouble} />}
      </div>
    </Dialog>
  );
}

function titleOf(fileName: string): string {
  const words = fileName
    .replace(/\.[^.]*$/, "")
    .replace(/[_\d-]+$/g, "")
    .replace(/[_-]+/g, " ")
    .replace(/ [A-Z]?\d+.*$/, "")
    .trim();
  return words.charAt(0).toUpperCase() + words.slice(1);
}
