import type { ReactNode } from "react";
import { Button, Trouble } from "./basics";
import { Dialog } from "./dialog";

/** Asks before something is deleted, saying what depends on it. */
export function DeleteDialog(props: {
  what: string;
  children: ReactNode;
  refused?: boolean;
  pending: boolean;
  error?: unknown;
  onDelete: () => void;
  onClose: () => void;
}) {
  return (
    <Dialog
      open
      onClose={props.onClose}
      title={`Delete ${props.what}`}
      actions={
        <>
          <Button onClick={props.onClose}>Keep</Button>
          <Button look="brick" disabled={props.refused || props.pending} onClick={props.onDelete}>
            Delete
          </Button>
        </>
      }
    >
      <div className="flex flex-col gap-3">
        {props.children}
        {props.error != null && <Trouble error={props.error} />}
      </div>
    </Dialog>
  );
}
