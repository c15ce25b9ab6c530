import { Dialog } from "../ui/dialog";

const shortcuts = [
  ["Ctrl K", "find any job, run or action"],
  ["?", "this list"],
  ["Esc", "close what is open"],
  ["Ctrl Enter", "the main action of the screen"],
  ["Ctrl Z / Ctrl Shift Z", "undo and redo on a sheet"],
  ["↑ ↓ ← →", "move in the bench and in lists"],
  ["1 … 5", "open a section of the sheet (outside a field)"],
];

export function Shortcuts(props: { open: boolean; onClose: () => void }) {
  return (
    <Dialog open={props.open} onClose={props.onClose} title="Shortcuts">
      <dl className="grid grid-cols-[auto_1fr] gap-x-6 gap-y-2">
        {shortcuts.map(([keys, what]) => (
          <div key={keys} className="contents">
            <dt className="font-mono text-sm">{keys}</dt>
            <dd>{what}</dd>
          </div>
        ))}
      </dl>
    </Dialog>
  );
}
