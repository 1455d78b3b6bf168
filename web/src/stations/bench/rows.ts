// The rows of the sheet: dials that people think of together stand on one line.
import type { Plan } from "../../api/client";

export type Row = { id: string; label: string; dials: string[]; main: string; key: string };

export const rows: Row[] = [
  { id: "frame", label: "Frame", dials: ["frame"], main: "frame", key: "row-frame" },
  { id: "rate", label: "Rate", dials: ["frame_rate", "interval_s"], main: "frame_rate", key: "row-rate" },
  { id: "view", label: "View", dials: ["lens", "view"], main: "view", key: "row-view" },
  {
    id: "steadying",
    label: "Steadying",
    dials: ["stabilisation"],
    main: "stabilisation",
    key: "row-steadying",
  },
  { id: "shutter", label: "Shutter", dials: ["shutter_s"], main: "shutter_s", key: "row-shutter" },
  { id: "aperture", label: "Aperture", dials: ["f_number"], main: "f_number", key: "row-aperture" },
  { id: "iso", label: "ISO", dials: ["iso_floor", "iso_ceiling"], main: "iso_ceiling", key: "row-iso" },
  { id: "glass", label: "Glass", dials: ["nd", "colour_filter", "housing"], main: "nd", key: "row-glass" },
  {
    id: "exposure",
    label: "Exposure",
    dials: ["exposure_compensation"],
    main: "exposure_compensation",
    key: "row-exposure",
  },
  {
    id: "balance",
    label: "Balance",
    dials: ["white_balance_k"],
    main: "white_balance_k",
    key: "row-balance",
  },
  { id: "focus", label: "Focus", dials: ["focus"], main: "focus", key: "row-focus" },
  {
    id: "colour",
    label: "Colour",
    dials: ["profile", "bit_depth", "high_dynamic_range"],
    main: "profile",
    key: "row-colour",
  },
  { id: "sharpness", label: "Sharpness", dials: ["sharpness"], main: "sharpness", key: "row-sharpness" },
  {
    id: "stream",
    label: "Stream",
    dials: ["codec", "bit_rate_mb_s"],
    main: "bit_rate_mb_s",
    key: "row-stream",
  },
  {
    id: "sound",
    label: "Sound",
    dials: ["wind_reduction", "sound_track"],
    main: "wind_reduction",
    key: "row-sound",
  },
  {
    id: "power",
    label: "Power",
    dials: ["screen", "positioning", "pre_record_s"],
    main: "screen",
    key: "row-power",
  },
];

export const dialNames: Record<string, string> = {
  camera: "camera",
  iso_floor: "ISO from",
  iso_ceiling: "ISO to",
  profile: "profile",
  bit_depth: "bit depth",
  high_dynamic_range: "wide range",
  codec: "format",
  bit_rate_mb_s: "bit rate",
  frame: "frame",
  frame_rate: "rate",
  interval_s: "interval",
  lens: "lens",
  view: "view",
  stabilisation: "steadying",
  f_number: "aperture",
  shutter_s: "shutter",
  nd: "density",
  colour_filter: "colour filter",
  housing: "housing",
  exposure_compensation: "exposure",
  white_balance_k: "balance",
  focus: "focus",
  sharpness: "sharpness",
  wind_reduction: "wind",
  sound_track: "sound track",
  screen: "screen",
  positioning: "positioning",
  pre_record_s: "early start",
};

/** Whether a dial leaves anything to choose on this camera. */
export function isFree(dial: string, plan: Plan): boolean {
  return dial in plan.profiles && !plan.settled.includes(dial);
}

/** Rows that leave something to choose, and those that do not. */
export function rowsOf(plan: Plan): { shown: Row[]; settled: Row[] } {
  const shown = rows.filter((row) => row.dials.some((dial) => isFree(dial, plan)));
  return { shown, settled: rows.filter((row) => !shown.includes(row)) };
}

/** The dial whose reason stands in the row: the first of its own that was decided, for glass the one in use. */
export function mainDial(row: Row, plan: Plan): string {
  const { settings } = plan;
  if (row.id === "glass") {
    if (settings.nd.length > 0) return "nd";
    if (settings.colour_filter || (isFree("colour_filter", plan) && !isFree("nd", plan)))
      return "colour_filter";
    return settings.housing && !isFree("nd", plan) ? "housing" : "nd";
  }
  if (row.id === "rate" && settings.interval_s !== null) return "interval_s";
  return isFree(row.main, plan) ? row.main : (row.dials.find((dial) => isFree(dial, plan)) ?? row.main);
}

export function rowValue(row: Row, plan: Plan): string {
  const said = (dial: string) => plan.values[dial] ?? "";
  const { settings } = plan;
  const join = (...parts: (string | false)[]) => parts.filter(Boolean).join(" \u00b7 ");
  switch (row.id) {
    case "rate":
      return settings.interval_s === null
        ? said("frame_rate")
        : join(said("interval_s"), `shown at ${said("frame_rate")}`);
    case "view":
      return isFree("lens", plan) ? join(said("lens"), said("view")) : said("view");
    case "iso":
      return settings.iso_floor === settings.iso_ceiling
        ? `${settings.iso_floor}`
        : `${settings.iso_floor} \u2013 ${settings.iso_ceiling}`;
    case "glass":
      return join(
        (settings.nd.length > 0 || !settings.colour_filter) && said("nd"),
        settings.colour_filter !== null && said("colour_filter"),
        settings.housing !== null && said("housing"),
      );
    case "focus":
      return settings.focus_m === null
        ? said("focus")
        : join(said("focus"), `${settings.focus_m.toPrecision(2)}\u202fm`);
    case "colour":
      return join(said("profile"), said("bit_depth"), settings.high_dynamic_range && "wide range");
    case "stream":
      return join(said("bit_rate_mb_s"), said("codec"));
    case "sound":
      return join(`wind ${said("wind_reduction")}`, settings.sound_track === "on" && "own track");
    case "power":
      return join(
        `screen ${said("screen")}`,
        settings.positioning === "on" && "positioning",
        settings.pre_record_s > 0 && said("pre_record_s"),
      );
    default:
      return said(row.main);
  }
}

/** What a row costs: the ledger's items that belong to its dials, in stops. */
export function rowCost(row: Row, plan: Plan): number {
  return plan.ledger
    .filter((item) => row.dials.includes(item.dial))
    .reduce((sum, item) => sum + item.given_up_stops, 0);
}

/** The value of each dial in the form that pins it. */
export function pinValue(dial: string, plan: Plan): unknown {
  const label = plan.values[dial];
  return plan.profiles[dial]?.find((value) => value.label === label && value.legal)?.value ?? null;
}
