// Numbers, lengths of time and times of day as people write them.

/** Reads a number as people write it: decimal comma, fractions, a true minus. Null where it is none. */
export function readNumber(text: string): number | null {
  const plain = text.trim().replace(",", ".").replace("\u2212", "-");
  const fraction = plain.match(/^(\d+(?:\.\d+)?)\s*\/\s*(\d+(?:\.\d+)?)$/);
  if (fraction) return Number(fraction[2]) === 0 ? null : Number(fraction[1]) / Number(fraction[2]);
  return /^-?(\d+\.?\d*|\.\d+)$/.test(plain) ? Number(plain) : null;
}

const SECONDS: Record<string, number> = { s: 1, sec: 1, m: 60, min: 60, h: 3600, d: 86_400 };

/** Reads a length of time as people write it: 8 h, 480 min, 1 h 30, 8:00; a bare number is in the field's unit. Seconds. */
export function readDuration(text: string, unit: "s" | "min" | "h"): number | null {
  const plain = text.trim().toLowerCase().slice(0, 40);
  const clock = plain.match(/^(\d{1,3}):([0-5]\d)$/);
  if (clock) return Number(clock[1]) * 3600 + Number(clock[2]) * 60;
  let total = 0;
  let rest = plain;
  let finer = SECONDS[unit] ?? 1;
  while (rest !== "") {
    const part = rest.match(/^(\d+(?:[.,]\d+)?)\s*(sec|min|[smhd])?\s*/);
    if (!part) return null;
    const of: number = part[2] ? (SECONDS[part[2]] ?? 1) : finer;
    total += Number((part[1] ?? "").replace(",", ".")) * of;
    // "1 h 30": what follows without a unit is the next finer one.
    finer = of === 3600 ? 60 : 1;
    rest = rest.slice(part[0].length);
  }
  return plain === "" ? null : total;
}

/** How long something lasts, in the unit that people would use: 30 s, 12 min, 8 h. */
export function durationText(seconds: number): string {
  const [size, unit] = seconds >= 5400 ? [3600, "h"] : seconds >= 120 ? [60, "min"] : [1, "s"];
  return `${Math.round((seconds / (size as number)) * 1000) / 1000} ${unit}`;
}

/** Reads a time of day as people write it: 9:53, 9.53, 0953, 9h53, 21. Null where it is none. */
export function readClock(text: string): string | null {
  const parts =
    text.trim().match(/^(\d{1,2})(?:\s*[:.,h]\s*|(?=\d\d$))(\d{2})?$/) ?? text.trim().match(/^(\d{1,2})$/);
  if (!parts) return null;
  const [hour, minute] = [Number(parts[1]), Number(parts[2] ?? 0)];
  if (hour > 23 || minute > 59) return null;
  return `${String(hour).padStart(2, "0")}:${String(minute).padStart(2, "0")}`;
}
