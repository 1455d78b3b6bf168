// Estimates of a sheet as lines for people: where, how much, between what, and why. Alike ones stand together.
import type { CameraSheet, FieldGroup } from "../../api/types";

export type EstimateRow = { field: string; value: string; range: string; how: string };

export function shownNumber(value: number): string {
  return String(Number(value.toPrecision(3)));
}

/** The value at an estimate's path, such as lenses[0].sensor.read_noise_e. */
export function atField(sheet: unknown, field: string): unknown {
  return (field.match(/[^.[\]]+/g) ?? []).reduce<unknown>(
    (at, step) => (at && typeof at === "object" ? (at as Record<string, unknown>)[step] : undefined),
    sheet,
  );
}

type Note = { name: string; unit: string };

/** What a field is called, and its unit: the same words as in the editor. */
function noteOf(groups: FieldGroup[], field: string): Note {
  const [, list = "", path = field] = field.match(/^(\w+)\[\d+\]\.(.+?)(?:\[0\])?$/) ?? [];
  const notes = groups.filter((group) => (group.list ?? "") === list).flatMap((group) => group.fields);
  const note = notes.find((entry) => entry.path === path);
  return note ? { name: note.name, unit: note.unit } : { name: plain(path), unit: "" };
}

/** Whose field it is: an entry of a list by its id. */
function ownerOf(sheet: CameraSheet, field: string): string {
  const [, entry = ""] = field.match(/^(\w+\[\d+\])\./) ?? [];
  if (!entry) return "";
  const part = atField(sheet, entry) as { id?: string } | undefined;
  return part?.id ? `${plain(part.id)}: ` : "";
}

function plain(text: string): string {
  return text
    .replace(/\[(\d+)\]/g, "")
    .replaceAll("_", " ")
    .replaceAll(".", ", ");
}

export function estimateRows(sheet: CameraSheet, groups: FieldGroup[]): EstimateRow[] {
  const rows: (EstimateRow & { alike: string; more: number })[] = [];
  for (const { field, low, high, how } of sheet.estimates ?? []) {
    const value = atField(sheet, field);
    const said =
      typeof value === "number"
        ? shownNumber(value)
        : typeof value === "boolean"
          ? value
            ? "yes"
            : "no"
          : Array.isArray(value)
            ? value.length > 4
              ? `${value.length} values`
              : value.join(", ")
            : typeof value === "object" && value
              ? "as a group"
              : String(value);
    const { name, unit } = noteOf(groups, field);
    const withUnit = (text: string) =>
      unit === "f/"
        ? `f/${text}`
        : unit && unit !== "share" && /\d$/.test(text)
          ? `${text}\u202f${unit}`
          : text;
    // Modes share most of their estimates: one line for all of them.
    const alike = field.startsWith("modes[") ? `${field.replace(/\[\d+\]/, "")} ${how}` : field;
    const same = rows.find((row) => row.alike === alike);
    if (same) {
      same.more += 1;
      same.field = `${same.more} modes: ${name}`;
      if (same.value !== withUnit(said)) {
        same.value = "each its own";
        same.range = "";
      }
      continue;
    }
    rows.push({
      alike,
      more: 1,
      field: field.startsWith("modes[") ? `1 mode: ${name}` : `${ownerOf(sheet, field)}${name}`,
      value: withUnit(said),
      range:
        typeof low === "number" && typeof high === "number"
          ? `${shownNumber(low)} to ${shownNumber(high)}`
          : "",
      how,
    });
  }
  return rows;
}
