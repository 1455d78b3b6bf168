// The first page of a sheet: its name, six numbers from the box, and its modes, pasted or from clips. Enough for a useful sheet.
import type { Completed, FieldGroup, Rough } from "../../api/types";
import { modeCount } from "./doc";
import { FromClips } from "./from-clips";
import { FromTable } from "./from-table";
import { SheetField } from "./group-form";

type Props = {
  draftId: string;
  rough: Rough;
  done: Completed | null;
  change: (update: (rough: Rough) => Rough, tag?: string | null) => void;
  box: FieldGroup | undefined;
  camera: FieldGroup | undefined;
  inchTypes: string[];
  toModes: () => void;
};

export function Begin({ draftId, rough, done, change, box, camera, inchTypes, toModes }: Props) {
  const first = camera?.fields.filter(({ path }) => path === "name" || path === "kind") ?? [];
  const count = modeCount(rough);
  return (
    <>
      <Step number="1" title="What it is" />
      {first.map((note) => (
        <SheetField key={note.path} note={note} rough={rough} done={done} change={change} />
      ))}
      <Step
        number="2"
        title="Its modes"
        says={count > 0 ? `${count} so far` : "Paste the manual's mode table, or take them from clips."}
      />
      <FromTable draftId={draftId} rough={rough} change={change} />
      <FromClips rough={rough} change={change} />
      <p className="pt-1 pb-2 text-small">
        <button type="button" className="min-h-[24px] underline" onClick={toModes}>
          {count > 0 ? "See and mend the modes one by one" : "Or add them by hand"}
        </button>
      </p>
      <Step number="3" title="From the box" says={box?.says ?? ""} />
      {box?.fields.map((note) => (
        <SheetField
          key={note.path}
          note={note}
          rough={rough}
          done={done}
          change={change}
          hint={note.path === "known.sensor_type" ? `Known types: ${inchTypes.join(", ")}.` : undefined}
        />
      ))}
      <p className="pt-3 text-small text-muted">
        That is enough for a useful sheet. What is not known is estimated, and the planner says when a
        decision rests on it; the pages on the left say for each number where to find it.
      </p>
    </>
  );
}

function Step({ number, title, says }: { number: string; title: string; says?: string }) {
  return (
    <h2 className="mt-4 flex items-baseline gap-3 border-ink border-b pb-1 first:mt-0">
      <span className="flex-none font-serif text-title font-semibold">
        {number} {title}
      </span>
      {says && <span className="text-small font-normal text-muted">{says}</span>}
    </h2>
  );
}
