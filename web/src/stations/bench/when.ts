// Times as people at a place say them: a moment to a local date and hour, and back.

import type { Brief } from "../../api/types";
import { shortDay } from "../../parts/words";

type Light = Brief["light"];

/** The sky that lights a shot, alone, on water or besides lamps. */
export function skyOf(light: Light | null): Extract<Light, { kind: "sky" }> | null {
  if (light?.kind === "water") return skyOf(light.surface);
  if (light?.kind === "lamps") return skyOf(light.ambient);
  return light?.kind === "sky" ? light : null;
}

/** The same clock at another place: 11:00 stays 11:00 when it is told which 11:00 was meant. */
export function sameClock(iso: string, from: string, to: string): string {
  return momentOf(localTime(iso, from), to) ?? iso;
}

/** The first moment after another one at which a clock shows a time: 04:00 after 22:00 is of the next day. */
export function nextAt(time: string, after: string, zone: string): string | null {
  const day = localTime(after, zone).slice(0, 10);
  const same = momentOf(`${day}T${time}`, zone);
  if (same === null || Date.parse(same) > Date.parse(after)) return same;
  const next = new Date(Date.parse(`${day}T00:00:00Z`) + DAY_MS).toISOString().slice(0, 10);
  return momentOf(`${next}T${time}`, zone);
}

const DAY_MS = 86_400_000;

/** A span as it is said: with both days where it ends on another one. */
export function spanWords(start: string, end: string, zone: string): string {
  const [from, to] = [localTime(start, zone), localTime(end, zone)];
  if (from.slice(0, 10) === to.slice(0, 10)) return `${from.slice(11)} to ${to.slice(11)}`;
  return `${shortDay(from)}, ${from.slice(11)} to ${shortDay(to)}, ${to.slice(11)}`;
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
