// What of a plan rests on estimates of the camera's sheet: each matter at its worst and at its best.
import type { EstimateCheck } from "../../api/types";
import { stops } from "../../parts/words";

export function RestsOn({ check }: { check: EstimateCheck | null }) {
  if (!check || check.matters.length === 0) return null;
  const deciding = check.matters.filter((matter) => matter.decides);
  const other = check.matters.filter((matter) => !matter.decides);
  /** Prices at both ends; the better number of a sheet may be the dearer one, as a brighter lens in the sun. */
  const between = ({ best_stops, worst_stops }: EstimateCheck["matters"][number]) => {
    const prices = [best_stops, worst_stops].filter((price) => price !== null).sort((a, b) => a - b);
    const said = [...new Set(prices.map(stops))].join(" to ");
    if (prices.length === 2) return `${said} stops`;
    return prices.length === 1 ? `${said} stops, or no plan` : "no plan at either end";
  };
  return (
    <section aria-label="Estimates" className="pt-4">
      <h2 className="pb-1 font-serif text-lead font-semibold">
        {deciding.length > 0 ? "Rests on estimates" : "Estimates"}
      </h2>
      {deciding.map((matter) => (
        <details key={matter.matter} className="border-hair border-b text-small [&_summary]:list-none">
          <summary className="cursor-pointer py-[6px] hover:bg-second">
            <span className="text-note" aria-hidden="true">
              ≈{" "}
            </span>
            <b>{matter.title}</b>
            {", "}
            {between(matter)}
            {matter.dials.length > 0 && (
              <span className="block text-muted">
                decides {matter.dials.map(({ word }) => word).join(", ")}
              </span>
            )}
          </summary>
          <ul className="pb-2 text-fine text-muted">
            {matter.dials.map((dial) => (
              <li key={dial.dial}>
                {dial.word} {dial.now}; at best {dial.at_best}, at worst {dial.at_worst}
              </li>
            ))}
            <li className="text-ink">{matter.mend}</li>
          </ul>
        </details>
      ))}
      {other.length > 0 && (
        <p className="pt-[6px] text-fine text-muted">
          Also estimated, without effect on this plan: {other.map((matter) => matter.title).join("; ")}.
        </p>
      )}
    </section>
  );
}
