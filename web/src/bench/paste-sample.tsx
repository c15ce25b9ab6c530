import { useState } from "react";
import { Button, Labelled } from "../ui/basics";
import { Dialog } from "../ui/dialog";

/** Takes pasted text as a sample. */
export function PasteSample({ onPaste, onClose }: { onPaste: (file: File) => void; onClose: () => void }) {
  const [text, setText] = useState("");
  return (
    <Dialog
      open
      wide
      onClose={onClose}
      title="A sample from pasted text"
      actions={
        <>
          <Button onClick={onClose}>Cancel</Button>
          <Button
            look="main"
            disabled={!text}
            onClick={() => {
              onPaste(new File([text], "pasted.txt"));
              onClose();
            }}
          >
            Take it
          </Button>
        </>
      }
    >
      <Labelled label="The text, as it stands in the file (it is kept as UTF-8)">
        {(control) => (
          <textarea
            {...control}
            rows={14}
            value={text}
            spellCheck={false}
            onChange={(e) => setText(e.target.value)}
            className="data w-full rounded border border-line bg-card px-2 py-1 text-sm whitespace-pre"
          />
        )}
      </Labelled>
    </Dialog>
  );
}
