// A word of the product's own, explained where it stands: by mouse, finger or key.
import { useQuery } from "@tanstack/react-query";
import { useState } from "react";
import { glossaryQuery } from "../api/uses";
import { Panel } from "./panel";

export function Term({ id, says }: { id: string; says: string }) {
  const [open, setOpen] = useState(false);
  const words = useQuery({ ...glossaryQuery, enabled: open });
  const found = words.data?.items.find((term) => term.id === id);
  return (
    <Panel
      label={`What ${says} means`}
      trigger={{
        className: "text-inherit underline decoration-muted decoration-dotted underline-offset-[3px]",
        "aria-label": `${says}: what it means`,
      }}
      says={says}
      open={open}
      onOpen={setOpen}
      wide="w-[290px] p-4 font-sans font-normal text-ink"
    >
      <p className="font-serif text-lead font-semibold">{found?.term ?? says}</p>
      <p className="pt-1 text-body leading-snug">
        {found?.says ?? (words.error ? "It cannot be looked up just now." : "Looking it up.")}
      </p>
    </Panel>
  );
}
