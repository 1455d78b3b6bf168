// One underlined part of the brief, with its editor in place.
import { Popover } from "radix-ui";
import { useState } from "react";
import type { Fault } from "../../api/types";
import type { EditorProps } from "./editors";
import { faultWords, type Token } from "./tokens";

type Props = EditorProps & { token: Token; wrong: Fault[]; settle: () => void };

export function TokenWord({ token, wrong, settle, ...editing }: Props) {
  const [open, setOpen] = useState(false);
  const Editor = token.editor;
  return (
    <Popover.Root
      open={open}
      onOpenChange={(on) => {
        setOpen(on);
        settle();
      }}
    >
      <Popover.Trigger
        className="token"
        data-token={token.id}
        data-wrong={wrong.length ? "" : undefined}
        aria-label={`${token.name}: ${token.says}${wrong.length ? `. ${wrong.map((fault) => fault.what).join(". ")}` : ""}`}
      >
        {token.says}
      </Popover.Trigger>
      <Popover.Portal>
        <Popover.Content
          role="dialog"
          aria-label={token.name}
          sideOffset={6}
          align="start"
          collisionPadding={12}
          className="z-30 max-h-[var(--radix-popover-content-available-height)] w-[340px] overflow-y-auto border-[1.5px] border-ink bg-ground p-4 text-[14px]"
        >
          <Editor {...editing} />
          {wrong.map((fault) => (
            <p
              key={fault.where + fault.what}
              role="alert"
              className="mt-3 border-note border-l-3 pl-3 text-[13px]"
            >
              <b className="text-note">{faultWords(fault)}</b> {fault.mend}
            </p>
          ))}
        </Popover.Content>
      </Popover.Portal>
    </Popover.Root>
  );
}
