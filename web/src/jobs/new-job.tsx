import { useMutation, useQuery, useQueryClient } from "@tanstack/react-query";
import { useState } from "react";
import { api, ask, type Schemas, sendFile } from "../api/client";
import type { Job, Layout } from "../definitions";
import { ProposalView } from "../layouts/proposal";
import { propose } from "../layouts/propose";
import { Button, Labelled, Select, TextBox, Trouble } from "../ui/basics";
import { Dialog } from "../ui/dialog";
import { FileBox } from "../ui/file-box";
import { slug, titleOf } from "../ui/words";

/** Makes a job from a title and a sample: a layout is proposed from the sample and shown before it is taken. */
export function NewJob(props: { open: boolean; onClose: () => void; onMade: (name: string) => void }) {
  const queries = useQueryClient();
  const [title, setTitle] = useState("");
  const [file, setFile] = useState<File>();
  const name = slug(title);
  const [taken, setTaken] = useState<Layout>();
  const [known, setKnown] = useState("");
  const library = useQuery({
    queryKey: ["layouts"],
    queryFn: () => ask(api.GET("/api/v1/layouts")),
    enabled: props.open,
  });
  const proposal = useMutation({
    mutationFn: (chosen: File) => propose([chosen], "proposed", title),
    onSuccess: (p) => setTaken(p.layout),
  });
  const choose = (chosen: File | undefined) => {
    setFile(chosen);
    if (!chosen) return;
    setTaken(undefined);
    proposal.mutate(chosen);
    if (!title) setTitle(titleOf(chosen.name));
  };
  const make = useMutation({
    mutationFn: async () => {
      const layout = known
        ? (await ask(api.GET("/api/v1/layouts/{layout}", { params: { path: { layout: known } } }))).layout
        : { ...taken, name, title };
      const job: Job = { name, title, layout: known || name, deliveries: [], afterCrash: "restart" };
      await ask(api.POST("/api/v1/jobs", { body: { job, layout, revision: 0 } as Schemas["Draft"] }));
      if (file) await sendFile("PUT", `/api/v1/jobs/${name}/sample`, file);
      return name;
    },
    onSuccess: (made) => {
      // The layout that was proposed stands in the library now.
      queries.invalidateQueries({ queryKey: ["layouts"] });
      props.onMade(made);
    },
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
          <Button look="main" disabled={!name || !(known || taken) || make.isPending} onClick={() => make.mutate()}>
            Make the job
          </Button>
        </>
      }
    >
      <div
        role="group"
        aria-label="Takes what is dropped here"
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
            hint="Choose it or drop it here: delimited, fixed-length, JSON, XML or a workbook. A layout is proposed from it."
          >
            {(control) => <FileBox {...control} onFiles={(files) => choose(files[0])} />}
          </Labelled>
          <TextBox label="Title" value={title} onChange={setTitle} hint={name && `It will be known as ${name}.`} />
        </div>
        {(library.data?.length ?? 0) > 0 && (
          <Select
            label="Layout"
            value={known}
            onChange={setKnown}
            options={[
              { value: "", label: "proposed from the sample" },
              ...(library.data ?? []).map((l) => ({ value: l.name, label: `${l.title}, from the library` })),
            ]}
          />
        )}
        {proposal.isPending && <p className="text-faint">Looking at the sample…</p>}
        {!known && proposal.data && taken && (
          <ProposalView key={JSON.stringify(proposal.data)} proposal={proposal.data} put={setTaken} />
        )}
        {!known && taken && (
          <p className="text-sm text-faint">Everything can be changed on the sheet, with the sample beside it.</p>
        )}
        {trouble && <Trouble error={trouble} />}
      </div>
    </Dialog>
  );
}
