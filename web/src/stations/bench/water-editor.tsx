// Depth and water, and the lamps taken down.

import { lazy, Suspense } from "react";
import { Choice, RangeField } from "../../parts/fields";
import { withUnit } from "../../parts/words";
import type { EditorProps } from "./editors";
import { LampList } from "./lamp-list";

// The first view does without it.
const FromDive = lazy(() => import("./light-sources").then((found) => ({ default: found.FromDive })));

export function WaterEditor({ brief, change, vocabulary }: EditorProps) {
  const { light } = brief;
  if (light.kind !== "water") return null;
  const set = (patch: Partial<typeof light>, tag: string | null = null) =>
    change((b) => ({ ...b, light: { ...light, ...patch } }), tag);
  return (
    <div className="grid gap-3">
      <RangeField
        labels={["From", "To"]}
        unit="m down"
        value={light.depth_m}
        autoFocus
        onChange={(depth_m, tag) => set({ depth_m }, tag)}
      />
      <Choice
        label="Water, clearest first (Jerlov’s types)"
        value={light.water_type}
        options={vocabulary.waters.map((water) => ({ value: water.id, says: water.name, hint: water.id }))}
        onChange={(water_type) => set({ water_type })}
      />
      <Suspense>
        <FromDive brief={brief} change={change} />
      </Suspense>
    </div>
  );
}

export function DiveLampsEditor({ brief, change, vocabulary, instruments }: EditorProps) {
  const { light } = brief;
  if (light.kind !== "water") return null;
  return (
    <div className="grid gap-2">
      <p className="text-fine text-muted">Lamps taken down, and how far from the subject they are held</p>
      <LampList
        lamps={light.lamps}
        least={0}
        says={instruments?.lamps_say ?? []}
        vocabulary={{
          ...vocabulary,
          lamps: vocabulary.lamps.filter((lamp) => lamp.proof_depth_m >= light.depth_m[1]),
        }}
        onChange={(lamps, tag = null) => change((b) => ({ ...b, light: { ...light, lamps } }), tag)}
      />
    </div>
  );
}

export function depthWords([top, bottom]: [number, number]): string {
  return top === bottom ? `${withUnit(bottom, "m")} down` : `${top} to ${withUnit(bottom, "m")} down`;
}
