// Times as people at a place say them: a moment to a local date and hour, and back.

import type { Brief } from "../../api/types";

type Light = Brief["light"];

/** The sky that lights a shot, alone, on water or besides lamps. */
export function skyOf(light: Light | null): Extract<Light, { kind: "sky" }> | null {
  if (light?.kind === "water") return skyOf(light.surface);
  if (light?.kind === "lamps") return skyOf(light.ambient);
  return light?.kind === "sky" ? light : null;
}

/** Minutes by which a zone is ahead of UTC at a moment. */
function offsetMinutes(at: Date, zone: string): number {
  const parts = new Intl.DateTimeFormat("en-GB", {
    timeZone: zone,
    hourCycle: "h23",
    year: "numeric",
    month: "2-digit",
    day: "2-digit",
    hour: "2-digit",
    minute: "2-digit",
  }).formatToParts(at);
  const part = (type: string) => Number(parts.find((entry) => entry.type === type)?.value ?? 0);
  const local = Date.UTC(part("year"), part("month") - 1, part("day"), part("hour"), part("minute"));
  return Math.round((local - Math.floor(at.getTime() / 60_000) * 60_000) / 60_000);
}

/** A moment as a date-and-time field shows it. iso: with its zone; zone: of the place. */
export function localTime(iso: string, zone: string): string {
  const at = new Date(iso);
  if (Number.isNaN(at.getTime())) return "";
  return new Date(at.getTime() + offsetMinutes(at, zone) * 60_000).toISOString().slice(0, 16);
}

/** The moment that a date-and-time field means. Null where it means none. */
export function momentOf(local: string, zone: string): string | null {
  const wall = new Date(`${local}:00Z`).getTime();
  if (Number.isNaN(wall)) return null;
  // The offset in force is found from the moment itself, so try once more with the one it gives.
  let at = wall - offsetMinutes(new Date(wall), zone) * 60_000;
  at = wall - offsetMinutes(new Date(at), zone) * 60_000;
  return new Date(at).toISOString().replace(".000Z", "Z");
}

export function hourOf(iso: string, zone: string): string {
  return localTime(iso, zone).slice(11);
}
