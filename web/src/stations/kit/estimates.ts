// Estimates of a sheet as lines for people: where, how much, between what, and why. Alike ones stand together.
import type { CameraSheet } from "../../api/client";

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

/** A field in words: list entries by their id, modes by their frame. */
export function fieldWords(sheet: CameraSheet, field: string): string {
  const entry = field.match(/^(\w+)\[(\d+)\]\.(.+)$/);
  if (!entry) return plain(field);
  const [, list = "", index = "0", rest = ""] = entry;
  const part = atField(sheet, `${list}[${index}]`) as { id?: string; width?: number; height?: number };
  const name = list === "modes" ? `${part?.width}\u202f×\u202f${part?.height}` : plain(part?.id ?? "");
  return `${name}: ${plain(rest.replace(/^sensor\./, "").replace(/\[0\]$/, ""))}`;
}

function plain(text: string): string {
  return text
    .replace(/\[(\d+)\]/g, "")
    .replaceAll("_", " ")
    .replaceAll(".", ", ");
}

export function estimateRows(sheet: CameraSheet): EstimateRow[] {
  const rows: (EstimateRow & { alike: string; more: number })[] = [];
  for (const { field, low, high, how } of sheet.estimates ?? []) {
    const value = atField(sheet, field);
    const said =
      typeof value === "number"
        ? shownNumber(value)
        : Array.isArray(value)
          ? value.length > 4
            ? `${value.length} values`
            : value.join(", ")
          : typeof value === "object" && value
            ? "as a group"
            : String(value);
    // Modes share most of their estimates: one line for all of them.
    const alike = field.startsWith("modes[") ? `${field.replace(/\[\d+\]/, "")} ${how}` : field;
    const same = rows.find((row) => row.alike === alike);
    if (same) {
      same.more += 1;
      same.field = `${same.more} modes: ${plain(field.replace(/^modes\[\d+\]\./, ""))}`;
      if (same.value !== said) {
        same.value = "each its own";
        same.range = "";
      }
      continue;
    }
    rows.push({
      alike,
      more: 1,
      field: fieldWords(sheet, field),
      value: said,
      range:
        typeof low === "number" && typeof high === "number"
          ? `${shownNumber(low)} to ${shownNumber(high)}`
          : "",
      how,
    });
  }
  return rows;
}
