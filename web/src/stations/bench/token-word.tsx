// One underlined part of the brief, with its editor in place.
import { Suspense, useState } from "react";
import type { Fault } from "../../api/types";
import { Panel } from "../../parts/panel";
import type { EditorProps } from "./editors";
import { faultWords, type Token } from "./tokens";

type Props = EditorProps & { token: Token; wrong: Fault[]; settle: () => void };

export function TokenWord({ token, wrong, settle, ...editing }: Props) {
  const [open, setOpen] = useState(false);
  const Editor = token.editor;
  return (
    <Panel
      label={token.name}
      trigger={{
        className: "token",
        "data-token": token.id,
        "data-wrong": wrong.length ? "" : undefined,
        "aria-label": `${token.name}: ${token.says}${wrong.length ? `. ${wrong.map((fault) => fault.what).join(". ")}` : ""}`,
      }}
      says={token.says}
      open={open}
      onOpen={(on) => {
        setOpen(on);
        settle();
      }}
      wide="w-[340px] p-4"
    >
      <Suspense>
        <Editor {...editing} />
      </Suspense>
      {wrong.map((fault) => (
        <p
          key={fault.where + fault.what}
          role="alert"
          className="mt-3 border-note border-l-3 pl-3 text-small"
        >
          <b className="text-note">{faultWords(fault)}</b> {fault.mend}
        </p>
      ))}
    </Panel>
  );
}
