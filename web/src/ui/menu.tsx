import { DropdownMenu } from "radix-ui";
import type { ReactNode } from "react";
import { Button } from "./basics";

export type MenuItem = { word: string; onSelect: () => void; disabled?: boolean; brick?: boolean };

/** The less frequent actions of a screen behind one button. */
export function Menu({ label, items }: { label: ReactNode; items: MenuItem[] }) {
  return (
    <DropdownMenu.Root modal={false}>
      <DropdownMenu.Trigger asChild>
        <Button>{label}</Button>
      </DropdownMenu.Trigger>
      <DropdownMenu.Portal>
        <DropdownMenu.Content
          align="end"
          sideOffset={4}
          className="z-30 min-w-48 rounded border border-line bg-card p-1 shadow-lg"
        >
          {items.map((item) => (
            <DropdownMenu.Item
              key={item.word}
              disabled={item.disabled}
              onSelect={item.onSelect}
              className={`cursor-default rounded px-3 py-1.5 text-sm outline-none data-[disabled]:opacity-50 data-[highlighted]:bg-pine-wash ${item.brick ? "text-brick" : ""}`}
            >
              {item.word}
            </DropdownMenu.Item>
          ))}
        </DropdownMenu.Content>
      </DropdownMenu.Portal>
    </DropdownMenu.Root>
  );
}
