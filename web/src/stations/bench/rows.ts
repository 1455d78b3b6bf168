// The rows of the sheet: dials that people think of together stand on one line.
import type { Plan } from "../../api/client";

export type Row = { id: string; label: string; dials: string[]; main: string; key: string };

export const rows: Row[] = [
  { id: "frame", label: "Frame", dials: ["frame"], main: "frame", key: "row-frame" },
  { id: "rate", label: "Rate", dials: ["frame_rate"], main: "frame_rate", key: "row-rate" },
  { id: "view", label: "View", dials: ["view"], main: "view", key: "row-view" },
  {
    id: "steadying",
    label: "Steadying",
    dials: ["stabilisation"],
    main: "stabilisation",
    key: "row-steadying",
  },
  { id: "shutter", label: "Shutter", dials: ["shutter_s"], main: "shutter_s", key: "row-shutter" },
  { id: "iso", label: "ISO", dials: ["iso_floor", "iso_ceiling"], main: "iso_ceiling", key: "row-iso" },
  { id: "glass", label: "Glass", dials: ["nd"], main: "nd", key: "row-glass" },
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
  { id: "wind", label: "Wind", dials: ["wind_reduction"], main: "wind_reduction", key: "row-wind" },
];

export const dialNames: Record<string, string> = {
  iso_floor: "ISO from",
  iso_ceiling: "ISO to",
  profile: "profile",
  bit_depth: "bit depth",
  high_dynamic_range: "wide range",
  codec: "format",
  bit_rate_mb_s: "bit rate",
  frame: "frame",
  frame_rate: "rate",
  view: "view",
  stabilisation: "steadying",
  shutter_s: "shutter",
  nd: "glass",
  exposure_compensation: "exposure",
  white_balance_k: "balance",
  sharpness: "sharpness",
  wind_reduction: "wind",
};

export function rowValue(row: Row, plan: Plan): string {
  const said = (dial: string) => plan.values[dial] ?? "";
  const { settings } = plan;
  if (row.id === "iso") {
    return settings.iso_floor === settings.iso_ceiling
      ? `${settings.iso_floor}`
      : `${settings.iso_floor} \u2013 ${settings.iso_ceiling}`;
  }
  if (row.id === "colour") {
    return `${said("profile")} \u00b7 ${said("bit_depth")}${settings.high_dynamic_range ? " \u00b7 wide range" : ""}`;
  }
  if (row.id === "stream") return `${said("bit_rate_mb_s")} \u00b7 ${said("codec")}`;
  return said(row.main);
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
