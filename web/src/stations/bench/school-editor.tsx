// The way of working: each axis on which experienced people disagree, for this shot or for the whole crew.

import { benchApi } from "../../api/bench";
import { changed } from "../../api/keys";
import type { Brief, School, Vocabulary } from "../../api/types";
import { useChanges } from "../../changes/use-changes";
import type { EditorProps } from "./editors";

type AxisId = keyof School;

export function schoolWords(brief: Brief, { school: crew, options }: Vocabulary): string {
  const other = options.schools
    .filter(({ axis }) => {
      const own = brief.school[axis as AxisId] ?? null;
      return own !== null && own !== crew[axis as AxisId];
    })
    .map(({ axis, name, options: values }) => {
      const own = values.find(({ id }) => id === brief.school[axis as AxisId]);
      return `${name.toLowerCase()} ${own?.name ?? ""}`;
    });
  return other.length === 0 ? "our usual way" : `our way with ${other.join(", ")}`;
}

export function SchoolEditor({ brief, change, vocabulary }: EditorProps) {
  const crew = vocabulary.school;
  const schools = vocabulary.options.schools.map((one) => ({ ...one, axis: one.axis as AxisId }));
  const own = schools.filter(({ axis }) => brief.school[axis] != null);
  const { engine, say, status } = useChanges<Record<string, unknown>>({
    place: "way of the crew",
    shown: { ...crew },
    revision: vocabulary.way_revision,
    send: (revision, change) => benchApi.changeCrew(revision, change as Partial<School>),
    reread: changed.way,
    whole: true,
  });
  const keep = async () => {
    void say(Object.fromEntries(own.map(({ axis }) => [axis, brief.school[axis]])), null);
    await (engine.meeting ? engine.keepMine() : engine.retry());
    if (!engine.isIdle) return;
    change((b) => ({ ...b, school: {} as Brief["school"] }));
    changed.way();
  };
  const set = (axis: keyof School, value: string | null) =>
    change((b) => ({ ...b, school: { ...b.school, [axis]: value } }));
  return (
    <div className="grid gap-2">
      <p className="text-fine text-muted">Experienced people disagree here. This shot may differ.</p>
      {schools.map(({ axis, name: label, options: values, usual }) => {
        const options = values.map(({ id, name }): [string, string] => [id, name]);
        const said = options.find(([value]) => value === crew[axis])?.[1] ?? usual;
        const choices: [string | null, string][] = [[null, `as the crew: ${said}`], ...options];
        return (
          <fieldset key={axis} className="border-hair border-b pb-2">
            <legend className="pb-[2px] text-fine text-muted">{label}</legend>
            <div className="flex flex-wrap gap-1">
              {choices.map(([value, says]) => (
                <label
                  key={String(value)}
                  className="border border-rule px-[9px] py-[3px] text-small hover:bg-second has-checked:border-2 has-checked:border-ink has-checked:font-bold has-focus-visible:outline-2 has-focus-visible:outline-note"
                >
                  <input
                    type="radio"
                    className="sr-only"
                    name={`school-${axis}`}
                    checked={(brief.school[axis] ?? null) === value}
                    onChange={() => set(axis, value)}
                  />
                  {says}
                </label>
              ))}
            </div>
          </fieldset>
        );
      })}
      {own.length > 0 && (
        <div className="flex flex-wrap gap-2 pt-1">
          <button
            type="button"
            className="plain"
            disabled={status.kind === "saving"}
            onClick={() => void keep()}
          >
            {engine.meeting ? "Make it so all the same" : "Make this the crew’s way"}
          </button>
          <button
            type="button"
            className="plain"
            onClick={() => change((b) => ({ ...b, school: {} as Brief["school"] }))}
          >
            Back to the crew’s
          </button>
        </div>
      )}
      {(engine.meeting || "why" in status) && (
        <p role="alert" className="text-small text-note">
          {engine.meeting?.says ?? ("why" in status && status.why)}
        </p>
      )}
    </div>
  );
}
