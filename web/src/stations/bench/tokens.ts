// The brief in words: which tokens there are in each kind of shot, what each says, and which faults belong to it.

import type { ComponentType } from "react";
import { lazy } from "react";
import { type Brief, type Fault, isShot, kindOf, type Vocabulary } from "../../api/types";
import { firstName } from "../../parts/person-field";
import { frameName, plainNumber, seconds, shortDay, withUnit } from "../../parts/words";
import * as editors from "./editors";
import { type Day, durationWords, type EditorProps } from "./editors";
import { KitEditor, kitWords } from "./kit-editor";
import { lampWords } from "./lamp-list";
import { SceneEditor, sceneWords } from "./scene-editor";
import { SchoolEditor, schoolWords } from "./school-editor";

// The first view does without them.
const LightEditor = lazy(() => import("./light-editor").then((found) => ({ default: found.LightEditor })));
const SurfaceEditor = lazy(() =>
  import("./light-editor").then((found) => ({ default: found.SurfaceEditor })),
);

import type { Entry } from "./shot-changes";
import { DiveLampsEditor, depthWords, WaterEditor } from "./water-editor";
import { localTime, spanWords } from "./when";

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

/** usual: what one frame holds in such light, where that is known and more than a finished picture shows. */
export function tokensOf(
  { brief, starts_at }: Entry,
  vocabulary: Vocabulary,
  day: Day,
  graded: boolean | null,
  usual: number | null,
): Token[] {
  const lapse = isShot(brief, "interval", vocabulary);
  const wet = brief.light.kind === "water";
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
      says: kindOf(brief, vocabulary)?.name ?? brief.scenario,
      faults: ["scenario"],
      editor: editors.ScenarioEditor,
    },
    ...(lapse ? [lapseToken(brief)] : []),
    startToken(starts_at, day),
    subjectToken(brief, vocabulary),
    ...(wet ? waterTokens(brief, vocabulary, day) : [lightToken(brief, vocabulary, day)]),
    ...(usual === null ? [] : [sceneToken(brief, usual, vocabulary)]),
    mountToken(brief, vocabulary),
    ...(lapse || wet ? [] : [soundToken(brief)]),
    timelineToken(brief),
    ...(lapse ? [] : [slowToken(brief)]),
    {
      id: "grade",
      name: "Graded",
      lead: ", ",
      says: (graded ?? brief.delivery.graded) ? "to be graded" : "straight from the camera",
      faults: ["delivery.graded"],
      editor: editors.GradeEditor,
      trail: ".",
    },
    {
      id: "school",
      name: "Way of working",
      lead: "",
      says: schoolWords(brief, vocabulary),
      faults: ["school"],
      editor: SchoolEditor,
      aside: true,
    },
    {
      id: "kit",
      name: "Kit taken",
      lead: "with ",
      says: kitWords(brief, vocabulary),
      faults: ["kit"],
      editor: KitEditor,
      aside: true,
    },
    ...(usual === null ? [sceneToken(brief, null, vocabulary)] : []),
    ...(lapse ? [airToken(brief)] : [takesToken(brief)]),
  ];
}

function startToken(starts_at: string | null, day: Day): Token {
  const local = starts_at === null ? "" : localTime(starts_at, day.zone);
  const elsewhere = day.day !== null && local !== "" && local.slice(0, 10) !== day.day;
  return {
    id: "start",
    name: "Start",
    lead: ", ",
    says: local === "" ? "at any time" : `at ${elsewhere ? `${shortDay(local)}, ` : ""}${local.slice(11)}`,
    faults: ["starts_at"],
    editor: editors.StartEditor,
  };
}

function subjectToken(brief: Brief, { options }: Vocabulary): Token {
  const { subject } = brief;
  const [near, far] = subject.distance_m;
  const fills = subject.fills ? ` to fill ${Math.round(100 * subject.fills)}\u202f% of the width` : "";
  const size = subject.size_m ? `${withUnit(subject.size_m, "m")} large${fills}, at ` : "";
  const speed = subject.speed_m_s ? ` at ${withUnit(subject.speed_m_s, "m/s")}` : "";
  const event = subject.event_s ? `, ${withUnit(subject.event_s, "s")} long` : "";
  const look =
    !subject.motion_look || subject.motion_look === "natural"
      ? ""
      : `, ${named(options.motion_looks, subject.motion_look)}`;
  return {
    id: "subject",
    name: "Subject",
    lead: size ? ", " : ", from ",
    says: `${size}${near === far ? "" : `${plainNumber(near)} to `}${withUnit(far, "m")}${size ? "" : " away"}${speed}${event}${look}`,
    faults: ["subject"],
    editor: editors.SubjectEditor,
  };
}

function lightToken(brief: Brief, vocabulary: Vocabulary, day: Day): Token {
  return {
    id: "light",
    name: "Light",
    lead: brief.light.kind === "lamps" ? ", lit by " : ", ",
    says: lightWords(brief.light, vocabulary, day),
    faults: ["light"],
    editor: LightEditor,
  };
}

function waterTokens(brief: Brief, vocabulary: Vocabulary, day: Day): Token[] {
  const { light } = brief;
  if (light.kind !== "water") return [];
  const water = vocabulary.waters.find((entry) => entry.id === light.water_type)?.name ?? light.water_type;
  return [
    {
      id: "water",
      name: "Depth and water",
      lead: ", ",
      says: `${depthWords(light.depth_m)} in ${water}`,
      faults: ["light.depth_m", "light.water_type"],
      editor: WaterEditor,
    },
    {
      id: "light",
      name: "Light above",
      lead: ", ",
      says: lightWords(light.surface, vocabulary, day),
      faults: ["light.surface"],
      editor: SurfaceEditor,
    },
    {
      id: "lamps",
      name: "Lamps",
      lead: ", with ",
      says: lampWords(light.lamps),
      faults: ["light.lamps"],
      editor: DiveLampsEditor,
    },
  ];
}

// Asked in the sentence where the light usually holds more than a picture shows, else beside the camera. What is typed
// never moves it, so that its editor stays where it is.
function sceneToken(brief: Brief, usual: number | null, { options }: Vocabulary): Token {
  const changes = brief.light_changes ? named(options.light_changes, brief.light_changes) : "";
  const said = sceneWords(brief, changes);
  return {
    id: "scene",
    name: "Frame and weather",
    lead: usual === null ? "" : ", with ",
    says:
      usual === null
        ? said || "contrast as usual"
        : `${brief.contrast_stops == null ? `about ${withUnit(Math.round(usual), "stops")} in one frame${said && ", "}` : ""}${said}`,
    faults: ["contrast_stops", "light_changes", "glare", "wet", "subject.ground", "subject.surface"],
    editor: SceneEditor,
    aside: usual === null,
  };
}

function mountToken(brief: Brief, vocabulary: Vocabulary): Token {
  const move = brief.camera_move;
  const mount = vocabulary.mounts.find((entry) => entry.id === move.mount);
  const travel = move.travel_m_s ? ` at ${withUnit(move.travel_m_s, "m/s")}` : "";
  const turn = move.turn_deg_s ? `, panning ${withUnit(move.turn_deg_s, "\u00b0/s")}` : "";
  return {
    id: "mount",
    name: "Held",
    lead: ", ",
    says: `${mount?.phrase ?? move.mount}${travel}${turn}${move.self_framed ? ", of myself" : ""}${move.hands ? `, by ${firstName(move.hands)}` : ""}`,
    faults: ["camera_move"],
    editor: editors.MountEditor,
  };
}

function soundToken(brief: Brief): Token {
  const { sound } = brief;
  return {
    id: "sound",
    name: "Sound",
    lead: ", ",
    says: sound.wanted
      ? `${sound.voice ? "a voice in " : ""}${withUnit(sound.wind_m_s, "m/s")} of wind`
      : "without sound",
    faults: ["sound"],
    editor: editors.SoundEditor,
  };
}

function timelineToken(brief: Brief): Token {
  const { delivery } = brief;
  const rest = [
    delivery.reframe.length ? " and upright" : "",
    delivery.stabilise_later ? ", steadied later" : "",
    delivery.edit_device === "phone" ? ", on a phone" : "",
  ].join("");
  return {
    id: "timeline",
    name: "Timeline",
    lead: ", for ",
    says: `a ${withUnit(delivery.fps, "fps")} ${frameName(delivery.width, delivery.height)} timeline${rest}`,
    faults: [
      "delivery.width",
      "delivery.height",
      "delivery.fps",
      "delivery.reframe",
      "delivery.edit_device",
      "mains_hz",
    ],
    editor: editors.TimelineEditor,
  };
}

function slowToken(brief: Brief): Token {
  const slow = brief.delivery.slow_factor;
  return {
    id: "slow",
    name: "Slowed",
    lead: ", ",
    says: slow === 1 ? "as it happens" : `slowed ${plainNumber(slow)}\u00d7`,
    faults: ["delivery.slow_factor"],
    editor: editors.SlowEditor,
  };
}

function lapseToken(brief: Brief): Token {
  const { take } = brief;
  const wanted = take.screen_s ? `, ${withUnit(take.screen_s, "s")} on the screen` : "";
  return {
    id: "lapse",
    name: "Running time",
    lead: " of ",
    says: `${durationWords(take.length_s)}${wanted}`,
    faults: ["take"],
    editor: editors.LapseEditor,
  };
}

function takesToken(brief: Brief): Token {
  const { take } = brief;
  const count = take.count ? `${take.count} \u00d7 ` : "takes of ";
  return {
    id: "takes",
    name: "Takes and air",
    lead: "",
    says: `${count}${durationWords(take.length_s)}, ${withUnit(brief.air_c, "\u00b0C")}`,
    faults: ["take", "air_c"],
    editor: editors.TakesEditor,
    aside: true,
  };
}

function airToken(brief: Brief): Token {
  return {
    id: "takes",
    name: "Waiting and air",
    lead: "",
    says: `in ${withUnit(brief.air_c, "\u00b0C")}`,
    faults: ["air_c"],
    editor: editors.TakesEditor,
    aside: true,
  };
}

type Options = Vocabulary["options"]["skies"];
const named = (options: Options, id: string) => {
  const found = options.find((one) => one.id === id);
  return found?.says || found?.name || id;
};

function lightWords(light: Brief["light"], vocabulary: Vocabulary, day: Day): string {
  switch (light.kind) {
    case "place":
      return vocabulary.places.find((place) => place.id === light.place)?.phrase ?? light.place;
    case "meter":
      if (light.lux) return `in ${withUnit(light.lux[0], "lx")} to ${withUnit(light.lux[1], "lx")}`;
      return `in light of EV ${plainNumber(light.ev100?.[0] ?? 0)} to ${plainNumber(light.ev100?.[1] ?? 0)}`;
    case "reading": {
      const first = light.readings[0];
      return `in light that reads ${first ? `f/${first.f_number}, ${seconds(first.shutter_s)}, ISO ${first.iso}` : "nothing"}`;
    }
    case "sky": {
      const { skies, shades } = vocabulary.options;
      const shade = light.shade === "open" ? "" : `, ${named(shades, light.shade)}`;
      const where = light.place ? ` over ${light.place}` : "";
      return `under ${named(skies, light.cloud)}${where}, ${spanWords(light.start, light.end, day.zone)}${shade}`;
    }
    case "lamps":
      return `${lampWords(light.lamps)}${light.ambient ? ` ${lightWords(light.ambient, vocabulary, day)}` : ""}`;
    case "water":
      return lightWords(light.surface, vocabulary, day);
  }
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
