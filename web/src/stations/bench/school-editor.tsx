// The way of working: each axis on which experienced people disagree, for this shot or for the whole crew.

import { useMutation } from "@tanstack/react-query";
import { benchApi } from "../../api/bench";
import { changed } from "../../api/keys";
import type { Brief, School } from "../../api/types";
import { refusalWords, wasMet } from "../../parts/changing";
import type { EditorProps } from "./editors";

type Axis = { axis: keyof School; label: string; options: [string, string][] };

export const SCHOOLS: Axis[] = [
  {
    axis: "shutter",
    label: "Shutter",
    options: [
      ["half_turn", "half-turn"],
      ["free", "left free"],
    ],
  },
  {
    axis: "noise",
    label: "Noise",
    options: [
      ["quiet", "quiet"],
      ["balanced", "balanced"],
      ["bright", "bright"],
      ["get_it", "at any noise"],
    ],
  },
  {
    axis: "colour",
    label: "Colour",
    options: [
      ["graded", "graded"],
      ["straight", "straight"],
    ],
  },
  {
    axis: "white_balance",
    label: "White balance",
    options: [
      ["locked", "locked"],
      ["auto", "automatic"],
    ],
  },
  {
    axis: "view",
    label: "View",
    options: [
      ["natural", "natural"],
      ["widest", "widest"],
      ["any", "any"],
    ],
  },
  {
    axis: "resolution",
    label: "Resolution",
    options: [
      ["enough", "enough"],
      ["most", "most"],
    ],
  },
  {
    axis: "glass_gain",
    label: "Gain behind glass",
    options: [
      ["locked", "locked at base"],
      ["follows", "follows the light"],
    ],
  },
  {
    axis: "dark_view",
    label: "View in the dark",
    options: [
      ["as_framed", "as framed"],
      ["whole_sensor", "whole sensor"],
    ],
  },
  {
    axis: "dark_stabilisation",
    label: "Steadying in the dark",
    options: [
      ["keep", "keep"],
      ["drop", "drop"],
    ],
  },
  {
    axis: "dark_profile",
    label: "Profile in the dark",
    options: [
      ["contrasty", "contrasty"],
      ["flat", "flat"],
    ],
  },
];

// What a way of working comes to where neither shot nor crew says anything.
const OPEN: Partial<Record<keyof School, string>> = {
  glass_gain: "locked for a band of a stop, follows a wider one",
};

export function schoolWords(brief: Brief, crew: School): string {
  const other = SCHOOLS.filter(({ axis }) => {
    const own = brief.school[axis] ?? null;
    return own !== null && own !== crew[axis];
  }).map(
    ({ axis, label, options }) =>
      `${label.toLowerCase()} ${options.find(([value]) => value === brief.school[axis])?.[1] ?? ""}`,
  );
  return other.length === 0 ? "our usual way" : `our way with ${other.join(", ")}`;
}

export function SchoolEditor({ brief, change, vocabulary }: EditorProps) {
  const crew = vocabulary.school;
  const own = SCHOOLS.filter(({ axis }) => brief.school[axis] != null);
  const keep = useMutation({
    mutationFn: () =>
      benchApi.changeCrew(
        vocabulary.way_revision,
        Object.fromEntries(own.map(({ axis }) => [axis, brief.school[axis]])),
      ),
    onError: (error) => wasMet(error) && changed.way(),
    onSuccess: () => {
      change((b) => ({ ...b, school: {} as Brief["school"] }));
      changed.way();
    },
  });
  const set = (axis: keyof School, value: string | null) =>
    change((b) => ({ ...b, school: { ...b.school, [axis]: value } }));
  return (
    <div className="grid gap-2">
      <p className="text-[12.5px] text-muted">Experienced people disagree here. This shot may differ.</p>
      {SCHOOLS.map(({ axis, label, options }) => {
        const said = options.find(([value]) => value === crew[axis])?.[1] ?? OPEN[axis] ?? "as delivered";
        const choices: [string | null, string][] = [[null, `as the crew: ${said}`], ...options];
        return (
          <fieldset key={axis} className="border-hair border-b pb-2">
            <legend className="pb-[2px] text-[12.5px] text-muted">{label}</legend>
            <div className="flex flex-wrap gap-1">
              {choices.map(([value, says]) => (
                <label
                  key={String(value)}
                  className="border border-rule px-[9px] py-[3px] text-[13px] hover:bg-second has-checked:border-2 has-checked:border-ink has-checked:font-bold has-focus-visible:outline-2 has-focus-visible:outline-note"
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
          <button type="button" className="plain" disabled={keep.isPending} onClick={() => keep.mutate()}>
            {wasMet(keep.error) ? "Make it so all the same" : "Make this the crew’s way"}
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
      {keep.error && (
        <p role="alert" className="text-[13px] text-note">
          {refusalWords(keep.error)}
        </p>
      )}
    </div>
  );
}
