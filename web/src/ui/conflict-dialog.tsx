import { useQuery } from "@tanstack/react-query";
import type { Schemas } from "../api/client";
import { Button, Trouble } from "./basics";
import { ChangesTable } from "./changes-table";
import { Dialog } from "./dialog";
import { moment } from "./words";

/** What somebody else, or another window, has saved while one was at it. */
export type Conflict = {
  by: string;
  at: string;
  difference: () => Promise<Schemas["Change"][]>;
  takeMine: () => void;
  takeTheirs: () => void;
};

/** Shows both versions of a draft; one of them is taken. */
export function ConflictDialog({ conflict, what }: { conflict: Conflict; what: string }) {
  const changes = useQuery({
    queryKey: ["conflict", what, conflict.at],
    queryFn: conflict.difference,
    retry: false,
    staleTime: 0,
  });
  return (
    <Dialog
      open
      wide
      must
      onClose={() => {}}
      title={`${what} was changed meanwhile`}
      actions={
        <>
          <Button onClick={conflict.takeTheirs}>Take theirs</Button>
          <Button look="main" onClick={conflict.takeMine}>
            Take mine
          </Button>
        </>
      }
    >
      <div className="flex flex-col gap-3">
        <p>
          {conflict.by} saved it {moment(conflict.at)}, in another window or on another machine. Your own changes are
          still here and not saved yet. Where the two differ:
        </p>
        {changes.isError && <Trouble error={changes.error} />}
        {changes.data?.length === 0 && <p className="text-faint">They say the same.</p>}
        {changes.data && changes.data.length > 0 && (
          <ChangesTable changes={changes.data} before="Theirs" after="Mine" />
        )}
      </div>
    </Dialog>
  );
}
