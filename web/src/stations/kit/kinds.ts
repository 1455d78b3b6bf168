// What a crew keeps besides cameras: for each kind its words, the fields of its form, and one line that says what a thing is.
import type { ThingKind } from "../../api/types";
import { stops, withUnit } from "../../parts/words";

export type Thing = Record<string, unknown> & { id: string; name: string };

export type FormField = {
  path: string;
  name: string;
  unit?: string;
  input: "text" | "number" | "choice" | "names" | "cameras" | "bands" | "curve" | "flag";
  options?: [string, string][];
  hint: string;
  /** May be left empty. */
  free?: boolean;
  when?: (thing: Record<string, unknown>) => boolean;
};

export type Kind = {
  title: string;
  one: string;
  says: string;
  start: Record<string, unknown>;
  fields: FormField[];
  line: (thing: Thing, cameraName: (id: string) => string) => string;
};

export const KIND_IDS: ThingKind[] = [
  "filters",
  "attachments",
  "housings",
  "microphones",
  "mounts",
  "lamps",
  "batteries",
  "media",
  "chemistries",
];

const n = (value: unknown) => Number(value);
const list = (value: unknown) => (Array.isArray(value) ? (value as string[]) : []);
const COUNT: FormField = { path: "count", name: "how many", input: "number", hint: "" };

export const KINDS: Record<ThingKind, Kind> = {
  filters: {
    title: "Filters",
    one: "filter",
    says: "ND and colour glass. A filter fits a camera or a housing whose filter mount has one of its names.",
    start: { kind: "nd", fits: [] },
    fields: [
      {
        path: "kind",
        name: "kind",
        input: "choice",
        options: [
          ["nd", "ND"],
          ["polariser", "polariser"],
          ["colour", "colour, for water"],
        ],
        hint: "",
      },
      {
        path: "stops",
        name: "density",
        unit: "stops",
        input: "number",
        hint: "ND8 is 3, ND16 is 4, ND32 is 5, ND64 is 6. Of a variable ND: the most at which the frame is still even. Measure it in Kit.",
      },
      {
        path: "turns_from_stops",
        name: "turns down to",
        unit: "stops",
        input: "number",
        free: true,
        hint: "Only of a variable ND: its least density. Leave it empty for a fixed one.",
        when: (thing) => thing.kind === "nd",
      },
      {
        path: "band_stops",
        name: "taken from red, green, blue",
        unit: "stops",
        input: "bands",
        hint: "Of a colour filter; measuring it with two frames gives all three.",
        when: (thing) => thing.kind === "colour",
      },
      {
        path: "fits",
        name: "fits",
        input: "names",
        hint: "Names of filter mounts, as the cameras' sheets and the housings have them; commas between.",
      },
      COUNT,
    ],
    line: (thing) =>
      thing.kind === "colour"
        ? `colour, takes ${stops(n(thing.stops))} stops; red, green, blue ${list(thing.band_stops)
            .map((band) => stops(n(band)))
            .join(", ")}`
        : typeof thing.turns_from_stops === "number"
          ? `variable ND, even from ${stops(thing.turns_from_stops)} to ${stops(n(thing.stops))} stops`
          : `${thing.kind === "polariser" ? "polariser" : "ND"}, ${stops(n(thing.stops))} stops`,
  },
  attachments: {
    title: "Before the lens",
    one: "attachment",
    says: "Close-up lenses and converters that go before a lens. One fits a camera whose filter mount has one of its names; it stays dry.",
    start: {
      fits: [],
      lenses: [],
      factor: 1,
      dioptres: 0,
      stops: 0,
      softer_stops: 0.2,
      takes_filters: false,
    },
    fields: [
      {
        path: "fits",
        name: "fits",
        input: "names",
        hint: "Names of filter mounts, as the cameras' sheets have them; commas between.",
      },
      {
        path: "lenses",
        name: "before the lenses",
        input: "names",
        free: true,
        hint: "Short names of the lenses, as the sheet has them; empty is the first one.",
      },
      {
        path: "dioptres",
        name: "close-up",
        unit: "dioptres",
        input: "number",
        hint: "Printed on it, such as +8; 0 for a converter. It ends what can be sharp at a metre divided by it.",
      },
      {
        path: "factor",
        name: "focal length",
        unit: "\u00d7",
        input: "number",
        hint: "0.6 is a wide converter, 2 a long one, 1 for a close-up lens.",
      },
      {
        path: "stops",
        name: "takes",
        unit: "stops",
        input: "number",
        hint: "Light that it loses; hardly any unless it is cheap.",
      },
      {
        path: "softer_stops",
        name: "softer by",
        unit: "stops",
        input: "number",
        hint: "Film a page of print with and without it; 1 where it resolves half.",
      },
      { path: "takes_filters", name: "takes filters in front", input: "flag", hint: "" },
      COUNT,
    ],
    line: (thing) =>
      `${n(thing.dioptres) > 0 ? `close-up, ${withUnit(n(thing.dioptres), "dioptres")}` : `converter, ${withUnit(n(thing.factor), "\u00d7")}`}${n(thing.stops) > 0 ? `, takes ${stops(n(thing.stops))} stops` : ""}, softer by ${stops(n(thing.softer_stops))} stops`,
  },
  microphones: {
    title: "Microphones",
    one: "microphone",
    says: "Besides the ones that are built in. They count where somebody speaks, and in wind.",
    start: { how: "cable", worn: false, reach_m: 1.5, wind_held_m_s: 4, fits: [] },
    fields: [
      {
        path: "how",
        name: "reaches the camera",
        input: "choice",
        options: [
          ["cable", "by cable"],
          ["wireless", "by a wireless link"],
          ["recorder", "not at all: it records apart"],
        ],
        hint: "By cable or link the camera's sheet must have a way in.",
      },
      { path: "worn", name: "clipped to who speaks", input: "flag", hint: "" },
      {
        path: "reach_m",
        name: "a voice is near up to",
        unit: "m",
        input: "number",
        hint: "About 1.2 m for a built-in one, 3 m for a narrow one that is aimed.",
      },
      {
        path: "wind_held_m_s",
        name: "stands wind of",
        unit: "m/s",
        input: "number",
        hint: "With its cover: 4 with foam, 9 with fur.",
      },
      {
        path: "runs_h",
        name: "a charge lasts",
        unit: "h",
        input: "number",
        free: true,
        hint: "Leave it empty where the camera feeds it.",
      },
      { path: "fits", name: "fits", input: "cameras", hint: "Nothing chosen fits all that take one." },
      COUNT,
    ],
    line: (thing) =>
      `${{ cable: "by cable", wireless: "wireless", recorder: "records apart" }[String(thing.how)]}${thing.worn ? ", worn" : `, near up to ${withUnit(n(thing.reach_m), "m")}`}, stands ${withUnit(n(thing.wind_held_m_s), "m/s")} of wind${typeof thing.runs_h === "number" ? `, runs ${withUnit(thing.runs_h, "h")}` : ""}`,
  },
  housings: {
    title: "Housings",
    one: "housing",
    says: "Depths are the maker's. Before each dive the usual care with seals and a test without the camera; training and local rules come first.",
    start: { fits: [], port: "flat", filters: "", stack: 1 },
    fields: [
      {
        path: "proof_depth_m",
        name: "proof to",
        unit: "m",
        input: "number",
        hint: "As the maker states it.",
      },
      { path: "fits", name: "takes", input: "cameras", hint: "" },
      {
        path: "port",
        name: "window",
        input: "choice",
        options: [
          ["flat", "flat"],
          ["dome", "dome"],
        ],
        hint: "Under water a flat window narrows the view by about a third; a dome keeps it.",
      },
      {
        path: "filters",
        name: "filter mount on its port",
        input: "text",
        free: true,
        hint: "Any name that your filters give, too; empty takes none.",
      },
      {
        path: "stack",
        name: "filters at once",
        input: "number",
        hint: "How many its port takes on one another; 0 for none.",
      },
      COUNT,
    ],
    line: (thing, cameraName) =>
      `to ${withUnit(n(thing.proof_depth_m), "m")}, ${thing.port === "dome" ? "dome" : "flat window"}, for ${list(thing.fits).map(cameraName).join(", ") || "no camera yet"}; ${thing.filters ? `filters “${thing.filters}”, ${n(thing.stack)} at once` : "no filters"}`,
  },
  mounts: {
    title: "Mounts",
    one: "mount",
    says: "How a camera is held, and how much it shakes then. Briefs name these.",
    start: { point_of_view: false, flying: false, inside: false, vehicle: false },
    fields: [
      { path: "phrase", name: "in a sentence", input: "text", hint: "Such as: on a tripod." },
      {
        path: "shake_deg_s",
        name: "shake",
        unit: "°/s",
        input: "number",
        hint: "Typical turning, RMS: a tripod 0.05, two hands 3, a handlebar 20.",
      },
      {
        path: "settle_s",
        name: "turns back within",
        unit: "s",
        input: "number",
        hint: "How long a wander lasts.",
      },
      {
        path: "field_deg",
        name: "usually shows",
        unit: "°",
        input: "number",
        hint: "Angle of the world across such a shot.",
      },
      { path: "point_of_view", name: "shows what the person sees", input: "flag", hint: "" },
      { path: "flying", name: "flies", input: "flag", hint: "" },
      {
        path: "like",
        name: "held like",
        input: "text",
        free: true,
        hint: "Short name of another mount: cameras that can be held so can be held in this way, too.",
      },
      { path: "inside", name: "out of the wind, as in a vehicle", input: "flag", hint: "" },
      { path: "vehicle", name: "in or on a vehicle that somebody drives", input: "flag", hint: "" },
      COUNT,
    ],
    line: (thing) =>
      `${thing.phrase}; shakes ${withUnit(n(thing.shake_deg_s), "°/s")}, shows ${withUnit(n(thing.field_deg), "°")}`,
  },
  lamps: {
    title: "Lamps",
    one: "lamp",
    says: "Lux at one metre is what the planner counts with. Mains and water do not go together: leave wiring to licensed people.",
    start: { ripple: 0, proof_depth_m: 0, kelvin: 5500 },
    fields: [
      {
        path: "lux_at_1m",
        name: "light at 1 m",
        unit: "lx",
        input: "number",
        hint: "Data sheet; or a meter one metre in front of it.",
      },
      { path: "kelvin", name: "colour", unit: "K", input: "number", hint: "Data sheet." },
      {
        path: "ripple",
        name: "ripple",
        unit: "share",
        input: "number",
        hint: "0 is steady, 1 goes dark between pulses.",
      },
      { path: "proof_depth_m", name: "proof to", unit: "m", input: "number", hint: "0 stays dry." },
      COUNT,
    ],
    line: (thing) =>
      `${withUnit(n(thing.lux_at_1m), "lx")} at 1\u202fm, ${withUnit(n(thing.kelvin), "K")}${n(thing.ripple) > 0 ? `, ripple ${n(thing.ripple)}` : ""}${n(thing.proof_depth_m) > 0 ? `, to ${withUnit(n(thing.proof_depth_m), "m")}` : ""}`,
  },
  batteries: {
    title: "Cells and banks",
    one: "cell or bank",
    says: "How a cell stands the cold follows its kind, below. Charge and carry cells as their maker says; never a swollen one.",
    start: { kind: "cell", chemistry: "ordinary", fits: [] },
    fields: [
      {
        path: "kind",
        name: "kind",
        input: "choice",
        options: [
          ["cell", "spare cell"],
          ["bank", "power bank"],
          ["mains", "mains supply"],
        ],
        hint: "",
      },
      { path: "wh", name: "holds", unit: "Wh", input: "number", hint: "Printed on it; or Ah times V." },
      {
        path: "chemistry",
        name: "kind of cell",
        input: "text",
        hint: "One of the kinds in Cold, such as ordinary.",
      },
      { path: "fits", name: "fits", input: "cameras", hint: "Banks and mains fit all that charge." },
      COUNT,
    ],
    line: (thing, cameraName) =>
      `${withUnit(n(thing.wh), "Wh")} ${thing.kind}, ${thing.chemistry}${list(thing.fits).length ? `; for ${list(thing.fits).map(cameraName).join(", ")}` : ""}`,
  },
  media: {
    title: "Cards and drives",
    one: "card or drive",
    says: "The class is what a card holds at least; the planner counts with what it holds.",
    start: { kind: "card", fits: [] },
    fields: [
      {
        path: "kind",
        name: "kind",
        input: "choice",
        options: [
          ["card", "card"],
          ["drive", "drive"],
        ],
        hint: "",
      },
      { path: "capacity_gb", name: "capacity", unit: "GB", input: "number", hint: "" },
      {
        path: "speed_class",
        name: "class",
        input: "choice",
        free: true,
        options: [
          ["", "none printed"],
          ["V6", "V6, 48 Mb/s at least"],
          ["V10", "V10, 80 Mb/s at least"],
          ["V30", "V30, 240 Mb/s at least"],
          ["V60", "V60, 480 Mb/s at least"],
          ["V90", "V90, 720 Mb/s at least"],
        ],
        hint: "Printed on the card.",
      },
      {
        path: "write_mb_s",
        name: "holds writing",
        unit: "Mb/s",
        input: "number",
        hint: "Megabits a second; eight times its class, if that is all you know.",
      },
      { path: "fits", name: "fits", input: "cameras", hint: "Nothing chosen fits all that take it." },
      COUNT,
    ],
    line: (thing, cameraName) =>
      `${withUnit(n(thing.capacity_gb), "GB")} ${thing.kind}${thing.speed_class ? `, ${thing.speed_class}` : ""}, holds ${withUnit(n(thing.write_mb_s), "Mb/s")}${list(thing.fits).length ? `; for ${list(thing.fits).map(cameraName).join(", ")}` : ""}`,
  },
  chemistries: {
    title: "Cold",
    one: "kind of cell",
    says: "How much of its charge a kind of cell gives when it is cold. Cells and sheets name these.",
    start: {
      left: [
        [20, 1],
        [0, 0.8],
        [-10, 0.6],
      ],
    },
    fields: [
      {
        path: "left",
        name: "gives",
        input: "curve",
        hint: "Degrees Celsius and share of the charge, from warm to cold, such as: 20 1, 0 0.8, −10 0.6.",
      },
    ],
    line: (thing) =>
      (thing.left as [number, number][])
        .map(([warmth, share]) => `${withUnit(warmth, "°C")} ${Math.round(share * 100)}\u202f%`)
        .join(", "),
  },
};

/** A short name from a name, as the core makes it. */
export function slug(name: string): string {
  return (
    name
      .toLowerCase()
      .replace(/[^a-z0-9]+/g, "-")
      .replace(/^-+|-+$/g, "")
      .slice(0, 60)
      .replace(/-+$/, "") || "thing"
  );
}
