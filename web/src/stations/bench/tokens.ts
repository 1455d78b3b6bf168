// The brief in words: which tokens there are, what each says, and which faults belong to it.
import type { ComponentType } from "react";
import type { Brief, Fault, Vocabulary } from "../../api/client";
import { frameName, plainNumber, seconds, withUnit } from "../../app/words";
import * as editors from "./editors";
import { type EditorProps, SCHOOLS, scenarioWords } from "./editors";
import { LightEditor } from "./light-editor";

export type Token = {
  id: string;
  name: string;
  lead: string;
  says: string;
  faults: string[];
  editor: ComponentType<EditorProps>;
  trail?: string;
  /** Stands beside the camera instead of in the sentence. */
  aside?: boolean;
};

export function tokensOf(brief: Brief, vocabulary: Vocabulary): Token[] {
  const { subject, delivery, sound, camera_move: move } = brief;
  const [near, far] = subject.distance_m ?? [0, 0];
  const speed = subject.speed_m_s ?? 0;
  const mount = vocabulary.mounts.find((entry) => entry.id === move.mount);
  const slow = delivery.slow_factor ?? 1;
  const look = subject.motion_look === "natural" ? "" : `, motion ${subject.motion_look}`;
  const travel = move.travel_m_s ? ` at ${withUnit(move.travel_m_s, "m/s")}` : "";
  return [
    {
      id: "title",
      name: "What",
      lead: "Filming ",
      says: brief.title || "something",
      faults: ["title"],
      editor: editors.TitleEditor,
    },
    {
      id: "scenario",
      name: "Kind of shot",
      lead: ", ",
      says: scenarioWords(brief.scenario ?? "everyday"),
      faults: ["scenario"],
      editor: editors.ScenarioEditor,
    },
    {
      id: "subject",
      name: "Subject",
      lead: ", from ",
      says: `${near === far ? "" : `${plainNumber(near)} to `}${withUnit(far, "m")} away${speed ? ` at ${withUnit(speed, "m/s")}` : ""}${look}`,
      faults: ["subject"],
      editor: editors.SubjectEditor,
    },
    {
      id: "light",
      name: "Light",
      lead: " in ",
      says: lightWords(brief.light, vocabulary),
      faults: ["light"],
      editor: LightEditor,
    },
    {
      id: "mount",
      name: "Held",
      lead: ", ",
      says: `${mount?.phrase ?? move.mount}${travel}`,
      faults: ["camera_move"],
      editor: editors.MountEditor,
    },
    {
      id: "sound",
      name: "Sound and air",
      lead: ", ",
      says: sound.wanted ? `${withUnit(sound.wind_m_s ?? 0, "m/s")} of wind` : "without sound",
      faults: ["sound", "air_c"],
      editor: editors.SoundEditor,
      trail: (brief.air_c ?? 15) < 5 ? ` at ${withUnit(brief.air_c ?? 15, "°C")}` : "",
    },
    {
      id: "timeline",
      name: "Timeline",
      lead: ", for ",
      says: `a ${withUnit(delivery.fps ?? 25, "fps")} ${frameName(delivery.width ?? 0, delivery.height ?? 0)} timeline${delivery.reframe?.length ? " and upright" : ""}${delivery.stabilise_later ? ", steadied later" : ""}${delivery.edit_device === "phone" ? ", on a phone" : ""}`,
      faults: [
        "delivery.width",
        "delivery.height",
        "delivery.fps",
        "delivery.reframe",
        "delivery.edit_device",
        "mains_hz",
      ],
      editor: editors.TimelineEditor,
    },
    {
      id: "slow",
      name: "Slowed",
      lead: ", ",
      says: slow === 1 ? "as it happens" : `slowed ${plainNumber(slow)}×`,
      faults: ["delivery.slow_factor"],
      editor: editors.SlowEditor,
    },
    {
      id: "grade",
      name: "Graded",
      lead: ", ",
      says: isGraded(brief) ? "to be graded" : "straight from the camera",
      faults: ["delivery.graded"],
      editor: editors.GradeEditor,
      trail: ".",
    },
    {
      id: "school",
      name: "Way of working",
      lead: "",
      says: schoolWords(brief),
      faults: ["school"],
      editor: editors.SchoolEditor,
      aside: true,
    },
    {
      id: "kit",
      name: "Glass taken",
      lead: "with ",
      says: kitWords(brief, vocabulary),
      faults: ["kit"],
      editor: editors.KitEditor,
      aside: true,
    },
  ];
}

function isGraded(brief: Brief): boolean {
  return brief.school.colour ? brief.school.colour === "graded" : (brief.delivery.graded ?? false);
}

function lightWords(light: Brief["light"], vocabulary: Vocabulary): string {
  if (light.kind === "place")
    return vocabulary.places.find((place) => place.id === light.place)?.name ?? light.place;
  if (light.kind === "meter") {
    if (light.lux) return `${withUnit(light.lux[0], "lx")} to ${withUnit(light.lux[1], "lx")}`;
    return `light of EV ${plainNumber(light.ev100?.[0] ?? 0)} to ${plainNumber(light.ev100?.[1] ?? 0)}`;
  }
  const first = light.readings[0];
  return `light that reads ${first ? `f/${first.f_number}, ${seconds(first.shutter_s)}, ISO ${first.iso}` : "nothing"}`;
}

function schoolWords(brief: Brief): string {
  const usual: Record<string, string> = {
    shutter: "half_turn",
    noise: "balanced",
    dark_stabilisation: "keep",
    dark_profile: "contrasty",
    white_balance: "locked",
    view: "natural",
    resolution: "enough",
  };
  const other = SCHOOLS.filter(({ axis }) => brief.school[axis] !== usual[axis]).map(
    ({ axis, label, options }) =>
      `${label.toLowerCase()} ${options.find(([value]) => value === brief.school[axis])?.[1] ?? ""}`,
  );
  return other.length === 0 ? "our usual way" : `our way with ${other.join(", ")}`;
}

function kitWords(brief: Brief, vocabulary: Vocabulary): string {
  const taken = brief.kit.filters ?? null;
  if (taken === null) return "all our glass";
  if (taken.length === 0) return "no glass";
  return vocabulary.filters
    .filter((filter) => taken.includes(filter.id))
    .map((filter) => filter.name)
    .join(", ");
}

/** The faults that belong to a token. */
export function faultsOf(token: Token, faults: Fault[]): Fault[] {
  return faults.filter((fault) =>
    token.faults.some(
      (path) =>
        fault.where === path || fault.where.startsWith(`${path}.`) || fault.where.startsWith(`${path}[`),
    ),
  );
}

/** A fault as a sentence that begins with the part it concerns. */
export function faultWords(fault: Fault): string {
  const part =
    fault.where
      .split(".")
      .at(-1)
      ?.replace(/_(m_s|m|s|c|hz)$/, "")
      .replace(/_/g, " ") ?? "";
  const subject = /^(must|is|does|should)/.test(fault.what) ? `${part} ` : "";
  const text = `${subject}${fault.what}`;
  return `${text.charAt(0).toUpperCase()}${text.slice(1)}${text.endsWith(".") ? "" : "."}`;
}
