// A sheet that is being written, as a plain document: reading and setting values by path, and putting drafts together.
import type { CameraSheet, Rough } from "../../api/types";

export type Doc = Record<string, unknown>;
export type Mode = Doc & { width?: number; height?: number; rates?: number[]; lens?: string };

export const EMPTY: Rough = { sheet: {}, known: {} };

export function modesOf(rough: Rough): Mode[] {
  const modes = rough.sheet.modes;
  return Array.isArray(modes) ? (modes as Mode[]) : [];
}

export function modeCount(rough: Rough): number {
  return modesOf(rough).reduce((sum, mode) => sum + (Array.isArray(mode.rates) ? mode.rates.length : 0), 0);
}

/** What stands at a dotted path, such as sensor.width_px. */
export function valueAt(part: unknown, path: string): unknown {
  return path
    .split(".")
    .reduce<unknown>((at, key) => (at && typeof at === "object" ? (at as Doc)[key] : undefined), part);
}

/** The same part with a value at a path; undefined takes it out, and empties that it leaves. */
export function withValue(part: Doc, path: string, value: unknown): Doc {
  const [key = "", ...rest] = path.split(".");
  const next = { ...part };
  if (rest.length === 0) {
    if (value === undefined) delete next[key];
    else next[key] = value;
    return next;
  }
  const inner = next[key];
  const made = withValue(
    inner && typeof inner === "object" && !Array.isArray(inner) ? (inner as Doc) : {},
    rest.join("."),
    value,
  );
  if (Object.keys(made).length === 0) delete next[key];
  else next[key] = made;
  return next;
}

/** Entries of a list as typed, followed by those that the filled-up sheet has besides. */
export function entriesOf(rough: Rough, whole: CameraSheet | null, list: string): Doc[] {
  const typed = rough.sheet[list];
  const mine = Array.isArray(typed) ? (typed as Doc[]) : [];
  const filled = (whole as unknown as Doc | null)?.[list];
  const all = Array.isArray(filled) ? (filled as Doc[]) : [];
  return [...mine, ...all.slice(mine.length).map((entry) => ({ id: entry.id }))];
}

/** Sets a value in one entry of a list; entries that were only filled up become typed ones by their id. */
export function withEntry(
  rough: Rough,
  whole: CameraSheet | null,
  list: string,
  index: number,
  path: string,
  value: unknown,
): Rough {
  const entries = entriesOf(rough, whole, list).slice(
    0,
    Math.max(index + 1, ((rough.sheet[list] as Doc[]) ?? []).length),
  );
  entries[index] = withValue(entries[index] ?? {}, path, value);
  return { ...rough, sheet: { ...rough.sheet, [list]: entries } };
}
