// How the Log says what travels as codes.
import type { Take } from "../../api/log";
import { clock, longDay } from "../../parts/words";

export const zoneOf = (take: Take) => take.shot?.zone ?? "UTC";

/** The day of a take, where it was. */
export function dayOf(take: Take): string {
  return new Intl.DateTimeFormat("en-CA", { dateStyle: "short", timeZone: zoneOf(take) }).format(
    new Date(take.said.at),
  );
}

export const dayWords = (day: string) => longDay(day);
export const timeOf = (take: Take) => clock(take.said.at, zoneOf(take));

export function lengthWords(seconds: number | null | undefined): string {
  if (seconds == null) return "";
  return seconds < 90 ? `${Math.round(seconds)}\u202fs` : `${Math.round(seconds / 60)}\u202fmin`;
}
