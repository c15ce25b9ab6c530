import { useMutation, useQuery } from "@tanstack/react-query";
import { useState } from "react";
import { api, ask, sendFile } from "../api/client";
import type { Layout } from "../definitions";
import { Button, TextBox, Trouble } from "../ui/basics";
import { Dialog } from "../ui/dialog";
import { few, slug, titleOf } from "../ui/words";
import { OriginChoice, origins } from "./origin-choice";
import { ProposalView } from "./proposal";
import { type Proposal, proposeFrom } from "./propose";
import type { Origin } from "./recognise";

/** Makes a layout from what there is: samples, a schema, a copybook or a header row. */
export function NewLayout({ onClose, onMade }: { onClose: () => void; onMade: (name: string) => void }) {
  const [origin, setOrigin] = useState<Origin>({ from: "sample", files: [] });
  const [title, setTitle] = useState("");
  const [taken, setTaken] = useState<Layout>();
  const name = slug(title);
  const layouts = useQuery({ queryKey: ["layouts"], queryFn: () => ask(api.GET("/api/v1/layouts")) });
  const known = layouts.data?.some((l) => l.name === name) ?? false;
  const proposal = useMutation<Proposal, Error, Origin>({
    mutationFn: (o) => proposeFrom(o, title),
    onSuccess: (p) => setTaken(p.layout),
  });
  const choose = (next: Origin) => {
    setOrigin(next);
    setTaken(undefined);
    proposal.reset();
    const file = next.files[0];
    if (!title && file) setTitle(titleOf(file.name));
    if (next.files.length > 0 || next.text?.trim()) proposal.mutate(next);
  };
  const make = useMutation({
    mutationFn: async () => {
      const layout = { ...taken, name, title } as Layout;
      await ask(api.POST("/api/v1/layouts", { body: { layout: layout, revision: 0 } }));
      if (origin.from === "sample" && origin.files[0])
        await sendFile("PUT", `/api/v1/layouts/${name}/sample`, origin.files[0]);
      return name;
    },
    onSuccess: onMade,
  });
  const trouble = make.error ?? proposal.error;
  return (
    <Dialog
      open
      wide
      onClose={onClose}
      title="New layout"
      actions={
        <>
          <Button onClick={onClose}>Cancel</Button>
          <Button look="main" disabled={!name || !taken || known || make.isPending} onClick={() => make.mutate()}>
            Make the layout
          </Button>
        </>
      }
    >
      <div className="flex flex-col gap-3">
        {proposal.data && !proposal.isPending ? (
          <p className="flex items-center gap-2 text-sm">
            {origin.files.length > 0
              ? `From the ${origins[origin.from].what} ${few(origin.files.map((f) => f.name))}`
              : `From the pasted ${origins[origin.from].what}`}
            <Button
              look="quiet"
              className="h-7 px-2"
              onClick={() => {
                proposal.reset();
                setTaken(undefined);
                setOrigin({ from: origin.from, files: [] });
              }}
            >
              Start again
            </Button>
          </p>
        ) : (
          <OriginChoice origin={origin} choose={choose} />
        )}
        <TextBox
          label="Title"
          value={title}
          onChange={setTitle}
          hint={name && `It will be known as ${name}.`}
          problem={taken && known ? `There is a layout named ${name} already; give this one another title.` : undefined}
        />
        {proposal.isPending && <p className="text-faint">Looking at the {origins[origin.from].what}…</p>}
        {proposal.data && taken && (
          <ProposalView
            key={JSON.stringify(proposal.data)}
            proposal={proposal.data}
            put={setTaken}
            again={(taken) => choose({ ...origin, taken })}
          />
        )}
        {taken && (
          <p className="text-sm text-faint">Everything can be changed on the layout's page, with a sample beside it.</p>
        )}
        {trouble && <Trouble error={trouble} />}
      </div>
    </Dialog>
  );
}
