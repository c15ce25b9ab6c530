import { X } from "lucide-react";
import { Dialog as Radix } from "radix-ui";
import type { ReactNode } from "react";

/** A dialog with a title, its content and its actions. Esc closes it, unless one of the actions has to be taken. */
export function Dialog(props: {
  open: boolean;
  onClose: () => void;
  title: string;
  wide?: boolean;
  /** Whether it stays until one of its actions is taken. */
  must?: boolean;
  children: ReactNode;
  actions?: ReactNode;
}) {
  return (
    <Radix.Root open={props.open} onOpenChange={(open) => !open && props.onClose()}>
      <Radix.Portal>
        <Radix.Overlay className="fixed inset-0 z-40 bg-black/40" />
        <Radix.Content
          aria-describedby={undefined}
          className={`fixed top-1/2 left-1/2 z-50 flex max-h-[86vh] -translate-x-1/2 -translate-y-1/2 flex-col rounded-lg border border-line bg-card shadow-xl ${props.wide ? "w-[min(860px,94vw)]" : "w-[min(520px,94vw)]"}`}
        >
          <div className="flex items-center justify-between border-b border-line px-5 py-3">
            <Radix.Title className="text-base font-semibold">{props.title}</Radix.Title>
            {!props.must && (
              <Radix.Close className="rounded p-1 text-faint hover:text-ink" aria-label="Close">
                <X size={16} />
              </Radix.Close>
            )}
          </div>
          <div className="min-h-0 flex-1 overflow-auto px-5 py-4">{props.children}</div>
          {props.actions && (
            <div className="flex justify-end gap-2 border-t border-line px-5 py-3">{props.actions}</div>
          )}
        </Radix.Content>
      </Radix.Portal>
    </Radix.Root>
  );
}
