import { useMutation } from "@tanstack/react-query";
import { useState } from "react";
import { toast } from "sonner";
import { api, ask } from "../api/client";
import { Button, TextBox, Trouble } from "../ui/basics";
import { Dialog } from "../ui/dialog";
import { plural } from "../ui/words";
import type { RejectKey } from "./use-rejects";

/** Sets rejects aside for good, with a reason that stays on record. */
export function AsideDialog({ keys, onClose, onDone }: { keys: RejectKey[]; onClose: () => void; onDone: () => void }) {
  const [reason, setReason] = useState("");
  const aside = useMutation({
    mutationFn: () => ask(api.POST("/api/v1/rejects/aside", { body: { keys, reason } })),
    onSuccess: ({ records }) => {
      toast.success(`${plural(records, "record")} set aside for good.`);
      onDone();
    },
  });
  return (
    <Dialog
      open
      onClose={onClose}
      title={`Set ${plural(keys.length, "reject")} aside for good`}
      actions={
        <>
          <Button onClick={onClose}>Close</Button>
          <Button look="brick" disabled={!reason.trim() || aside.isPending} onClick={() => aside.mutate()}>
            Set aside
          </Button>
        </>
      }
    >
      <p className="mb-3 text-sm">
        They are not delivered, and neither is anything else of their documents. The records and the reason stay on
        record.
      </p>
      <TextBox label="Why" value={reason} onChange={setReason} required maxLength={480} />
      {aside.isError && <Trouble error={aside.error} />}
    </Dialog>
  );
}
