// What pinning does with a row of the sheet.
import type { Plan, Row } from "../../api/types";

/** The pins after a row is pinned as it stands, or let go where any of its dials is held. */
export function togglePins(
  row: Pick<Row, "dials" | "free">,
  plan: Plan,
  pins: Record<string, unknown>,
): Record<string, unknown> {
  const held = row.dials.some((dial) => dial in pins);
  if (held) return Object.fromEntries(Object.entries(pins).filter(([dial]) => !row.dials.includes(dial)));
  return { ...pins, ...Object.fromEntries(row.free.map((dial) => [dial, plan.chosen[dial]])) };
}
