// How numbers are written, as in the core: units always, narrow spaces, a true minus.
const NARROW = "\u202f";

export function stops(value: number): string {
  const text = value.toFixed(1);
  return (text === "-0.0" ? "0.0" : text).replace("-", "\u2212");
}

/** What a choice gives up more than another one. more: stops, negative for less. */
export function costsMore(more: number): string {
  return Math.abs(more) < 0.05 ? "the same" : `${more > 0 ? "+" : ""}${stops(more)} stops`;
}

export function plainNumber(value: number): string {
  return String(Math.round(value * 1000) / 1000).replace("-", "\u2212");
}

export function withUnit(value: number, unit: string): string {
  return `${plainNumber(value)}${NARROW}${unit}`;
}

export function seconds(value: number): string {
  return value >= 0.3 ? withUnit(Number(value.toPrecision(3)), "s") : `1/${Math.round(1 / value)}${NARROW}s`;
}

const SIZES: [number, number, string][] = [
  [3840, 2160, "4K"],
  [2560, 1440, "1440"],
  [1920, 1080, "1080"],
  [1280, 720, "720"],
  [1080, 1920, "upright 1080"],
  [2160, 3840, "upright 4K"],
];

export function frameName(width: number, height: number): string {
  return (
    SIZES.find(([w, h]) => w === width && h === height)?.[2] ?? `${width}${NARROW}\u00d7${NARROW}${height}`
  );
}

export function clock(iso: string, zone: string): string {
  return new Intl.DateTimeFormat("en-GB", { hour: "2-digit", minute: "2-digit", timeZone: zone }).format(
    new Date(iso),
  );
}

export function longDay(day: string): string {
  return new Intl.DateTimeFormat("en-GB", {
    weekday: "long",
    day: "numeric",
    month: "long",
    year: "numeric",
    timeZone: "UTC",
  }).format(new Date(`${day}T00:00:00Z`));
}

/** "Mon 12 Oct". local: a date, or a date and time. */
export function shortDay(local: string): string {
  return new Intl.DateTimeFormat("en-GB", {
    weekday: "short",
    day: "numeric",
    month: "short",
    timeZone: "UTC",
  }).format(new Date(`${local.slice(0, 10)}T00:00:00Z`));
}

/** A text of at most so many letters, cut after a whole word where it is longer. */
export function shortened(text: string, most: number): string {
  const letters = [...text];
  if (letters.length <= most) return text;
  const cut = letters.slice(0, most - 1).join("");
  const space = cut.lastIndexOf(" ");
  return `${(space > most / 2 ? cut.slice(0, space) : cut).replace(/[\s,;]+$/, "")}…`;
}

/** What of a file could not be, and was left out. */
export function leftOutWords(count: number, what: string): string {
  if (count === 0) return "";
  return ` ${count} of its ${what} cannot be, and ${count === 1 ? "was" : "were"} left out.`;
}
