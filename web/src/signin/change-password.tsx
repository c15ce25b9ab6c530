import { useMutation } from "@tanstack/react-query";
import { useState } from "react";
import { api, ask } from "../api/client";
import { Button, TextBox, Trouble } from "../ui/basics";
import { Dialog } from "../ui/dialog";

/** Changes the password of whoever is signed in. */
export function ChangePassword({ person, onClose }: { person: string; onClose: () => void }) {
  const [now, setNow] = useState("");
  const [then, setThen] = useState("");
  const [again, setAgain] = useState("");
  const change = useMutation({
    mutationFn: () => ask(api.PUT("/api/v1/account/password", { body: { now, then } })),
  });
  const differ = again !== "" && again !== then;
  if (change.isSuccess) {
    return (
      <Dialog open onClose={onClose} title="Password changed" actions={<Button onClick={onClose}>Close</Button>}>
        <p>Everywhere else {person} is signed out within some seconds.</p>
      </Dialog>
    );
  }
  return (
    <Dialog
      open
      onClose={onClose}
      title={`Change the password of ${person}`}
      actions={
        <>
          <Button onClick={onClose}>Cancel</Button>
          <Button
            look="main"
            disabled={!now || !then || then !== again || change.isPending}
            onClick={() => change.mutate()}
          >
            Change
          </Button>
        </>
      }
    >
      <div className="flex flex-col gap-3">
        <TextBox
          label="Password now"
          type="password"
          value={now}
          onChange={setNow}
          autoComplete="current-password"
          autoFocus
        />
        <TextBox
          label="New password"
          type="password"
          value={then}
          onChange={setThen}
          autoComplete="new-password"
          hint="At least 12 characters, such as four words that do not belong together."
        />
        <TextBox
          label="New password again"
          type="password"
          value={again}
          onChange={setAgain}
          autoComplete="new-password"
          problem={differ ? "The two differ." : undefined}
        />
        {change.isError && <Trouble error={change.error} />}
      </div>
    </Dialog>
  );
}
