// What a brief becomes when it turns into another kind of shot. What was known of the light is kept where it can be.
import type { Brief, Vocabulary } from "../../api/client";

type Light = Brief["light"];
export type Lamp = Extract<Light, { kind: "lamps" }>["lamps"][number];
export type DryLight = NonNullable<Extract<Light, { kind: "lamps" }>["ambient"]>;
type Scenario = NonNullable<Brief["scenario"]>;

const FULL_SUN: DryLight = { kind: "place", place: "full_sun" };

/** A lamp of the kit as it stands at some distance. */
export function standing(lamp: Vocabulary["lamps"][number], distance_m: number): Lamp {
  return { lux_at_1m: lamp.lux_at_1m, distance_m, output: 1, kelvin: lamp.kelvin, ripple: lamp.ripple };
}

/** The light above water, or besides lamps. */
function dry(light: Light): DryLight {
  if (light.kind === "water") return dry(light.surface);
  if (light.kind === "lamps") return light.ambient ?? FULL_SUN;
  return light;
}

export function inScenario(brief: Brief, scenario: Scenario, vocabulary: Vocabulary): Brief {
  const turned: Brief = { ...brief, scenario, light: dry(brief.light) };
  const held = (mount: string) => ({ ...brief.camera_move, mount });
  if (scenario === "underwater") {
    return {
      ...turned,
      camera_move: held("tray"),
      light:
        brief.light.kind === "water"
          ? brief.light
          : { kind: "water", surface: dry(brief.light), depth_m: [2, 5], water_type: "1C", lamps: [] },
    };
  }
  if (scenario === "product") {
    const lamp = vocabulary.lamps.find((entry) => entry.proof_depth_m === 0) ?? vocabulary.lamps[0];
    return {
      ...turned,
      camera_move: { ...held("tripod"), travel_m_s: 0 },
      subject: { ...brief.subject, distance_m: [0.5, 0.8] },
      light:
        brief.light.kind === "lamps" || !lamp
          ? brief.light
          : { kind: "lamps", lamps: [standing(lamp, 1)], ambient: null },
    };
  }
  if (scenario === "lapse") {
    return {
      ...turned,
      camera_move: { ...held("tripod"), travel_m_s: 0 },
      delivery: { ...brief.delivery, slow_factor: 1 },
      take: { ...brief.take, length_s: Math.max(brief.take.length_s ?? 0, 3600) },
    };
  }
  return turned;
}
