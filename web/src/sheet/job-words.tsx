import type { Sheet } from "../definitions";
import { Button, TextBox } from "../ui/basics";
import { Dialog } from "../ui/dialog";

type Props = { sheet: Sheet; change: (sheet: Sheet) => void; onClose: () => void };

/** The title of a job and what it is for; kept like every other edit of it. */
export function JobWords({ sheet, change, onClose }: Props) {
  const { job } = sheet;
  return (
    <Dialog open onClose={onClose} title="Title and description" actions={<Button onClick={onClose}>Close</Button>}>
      <div className="flex flex-col gap-3">
        <TextBox
          label="Title"
          value={job.title ?? ""}
          onChange={(title) => change({ ...sheet, job: { ...job, title } })}
          hint={`In definitions and addresses it stays ${job.name}.`}
        />
        <TextBox
          label="Description"
          value={job.description ?? ""}
          onChange={(description) => change({ ...sheet, job: { ...job, description: description || undefined } })}
        />
      </div>
    </Dialog>
  );
}
