// What opens in place at a word of the sentence: a word or a line that is pressed, and a panel under it.
import { Popover } from "radix-ui";
import type { ComponentProps, ReactNode } from "react";

type Props = {
  label: string;
  trigger: Omit<ComponentProps<typeof Popover.Trigger>, "children"> & { [data: `data-${string}`]: unknown };
  says: ReactNode;
  open: boolean;
  onOpen: (open: boolean) => void;
  align?: "start" | "end";
  wide?: string;
  children: ReactNode;
};

/** wide: classes of its width and its inner distance. */
export function Panel({
  label,
  trigger,
  says,
  open,
  onOpen,
  align = "start",
  wide = "w-[360px] p-4",
  children,
}: Props) {
  return (
    <Popover.Root open={open} onOpenChange={onOpen}>
      <Popover.Trigger {...trigger}>{says}</Popover.Trigger>
      <Popover.Portal>
        <Popover.Content
          role="dialog"
          aria-label={label}
          sideOffset={6}
          align={align}
          collisionPadding={12}
          className={`z-30 max-h-[var(--radix-popover-content-available-height)] max-w-[96vw] overflow-y-auto border-[1.5px] border-ink bg-ground text-body ${wide}`}
        >
          {children}
        </Popover.Content>
      </Popover.Portal>
    </Popover.Root>
  );
}
