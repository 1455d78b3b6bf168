// What every value of a dial would have cost with all else chosen again. Choosing one pins it.
import { useState } from "react";
import type { DialValue } from "../api/types";
import { isSame } from "../changes/fields";
import { stops } from "../parts/words";

type Props = {
  name: string;
  values: DialValue[];
  chosen: DialValue["value"];
  total: number;
  pinned: boolean;
  onChoose: (value: DialValue["value"]) => void;
};

const WIDTH = 520;
const HIGH = 46;

type Cell = { kind: "value"; value: DialValue } | { kind: "gap"; from: string; to: string; why: string };

/** Runs of values that are all out for the same reason stand as one. */
function cellsOf(values: DialValue[]): Cell[] {
  const cells: Cell[] = [];
  for (let at = 0; at < values.length; ) {
    const first = values[at] as DialValue;
    let end = at;
    while (!first.legal && !values[end]?.legal && values[end]?.why_not === first.why_not) end += 1;
    if (end - at >= 3) {
      cells.push({
        kind: "gap",
        from: first.label,
        to: (values[end - 1] as DialValue).label,
        why: first.why_not ?? "",
      });
      at = end;
    } else {
      cells.push({ kind: "value", value: first });
      at += 1;
    }
  }
  return cells;
}

export function CostProfile({ name, values, chosen, total, pinned, onChoose }: Props) {
  const [heard, setHeard] = useState<string | null>(null);
  const cells = cellsOf(values);
  const extraOf = (value: DialValue) => (value.given_up_stops ?? 0) - total;
  const largest = Math.max(
    1,
    ...values.filter((value) => value.legal).map((value) => Math.abs(extraOf(value))),
  );
  const cell = Math.min(62, WIDTH / cells.length);
  const tilted = cell < 50;
  const said = values.find((value) => value.label === heard);
  const second = values
    .filter((value) => value.legal && !isSame(value.value, chosen))
    .reduce<DialValue | null>(
      (best, value) => (best && extraOf(best) <= extraOf(value) ? best : value),
      null,
    );
  return (
    <div>
      <div
        role="group"
        aria-label={`${name}: stops more given up`}
        className="flex items-end"
        onMouseLeave={() => setHeard(null)}
      >
        <div className="w-[84px] flex-none self-end pb-1 text-fine leading-tight text-muted">
          <div className="pb-2">stops more given up</div>
          <div>{name}</div>
        </div>
        {cells.map((entry) => {
          if (entry.kind === "gap") {
            return <Gap key={entry.from} {...entry} width={cell} tilted={tilted} hear={setHeard} />;
          }
          const { value } = entry;
          const own = isSame(value.value, chosen);
          const extra = extraOf(value);
          const cheaper = value.legal && !own && extra <= -0.05;
          const high = value.legal ? Math.max(own ? 3 : 1, (Math.abs(extra) / largest) * HIGH) : HIGH;
          return (
            <button
              key={value.label}
              type="button"
              aria-pressed={own && pinned}
              aria-disabled={!value.legal}
              aria-label={`${value.label}, ${own ? "chosen" : cheaper ? `${stops(-extra)} stops less` : value.legal ? `${stops(extra)} stops more` : `not legal: ${value.why_not}`}`}
              data-cheaper={cheaper || undefined}
              className="group flex flex-none flex-col items-center justify-end pt-1 hover:bg-shoal"
              style={{ width: cell }}
              onMouseEnter={() => setHeard(value.label)}
              onFocus={() => setHeard(value.label)}
              onClick={() => value.legal && onChoose(value.value)}
            >
              <span className={`text-fine leading-4 ${own || cheaper ? "font-bold" : ""}`}>
                {own
                  ? cell < 44
                    ? "0"
                    : pinned
                      ? "pinned"
                      : "chosen"
                  : value.legal
                    ? Math.abs(extra) < 0.05
                      ? "0"
                      : `${extra > 0 ? "+" : ""}${stops(extra)}`
                    : ""}
              </span>
              <span
                className={`w-[60%] ${own ? "bg-ink" : cheaper ? "border-[1.5px] border-ink" : value.legal ? "bg-deep" : "border border-muted border-b-0 border-dashed"}`}
                style={{ height: high }}
              />
              <span
                className={`w-full border-ink border-t pt-[3px] text-center leading-[14px] ${tilted ? "h-[44px] text-fine" : "h-[32px] text-fine"} ${own ? "font-bold" : ""} ${value.legal ? "" : "text-muted line-through"}`}
              >
                <span
                  className={
                    tilted
                      ? "inline-block origin-top-right -translate-x-1/2 -rotate-45 whitespace-nowrap"
                      : ""
                  }
                >
                  {shortLabel(value.label)}
                </span>
              </span>
            </button>
          );
        })}
      </div>
      <p aria-live="polite" className="min-h-[18px] pl-[84px] text-fine text-muted">
        {said
          ? said.legal
            ? `${said.label}: ${stops(said.given_up_stops ?? 0)} stops given up in all`
            : `${said.label}: ${said.why_not}`
          : (heard ?? (second && nextBest(second, extraOf(second))))}
      </p>
    </div>
  );
}

function nextBest(second: DialValue, extra: number): string {
  if (Math.abs(extra) < 0.05) return `As good: ${second.label}.`;
  const by = extra >= 0 ? `${stops(extra)} stops more` : `${stops(-extra)} stops less`;
  return extra < 0 ? `Cheaper: ${second.label}, ${by}.` : `Next best: ${second.label}, ${by}.`;
}

type GapProps = Extract<Cell, { kind: "gap" }> & {
  width: number;
  tilted: boolean;
  hear: (says: string) => void;
};

function Gap({ from, to, why, width, tilted, hear }: GapProps) {
  const says = `${shortLabel(from)} to ${to}: ${why}`;
  return (
    <div
      role="img"
      aria-label={says}
      className="flex flex-none flex-col items-center justify-end pt-1"
      style={{ width }}
      onMouseEnter={() => hear(says)}
    >
      <span className="w-[60%] border border-muted border-b-0 border-dashed" style={{ height: HIGH }} />
      <span
        className={`w-full border-ink border-t pt-[3px] text-center leading-[14px] text-muted line-through ${tilted ? "h-[44px] text-fine" : "h-[32px] text-fine"}`}
      >
        <span
          className={
            tilted ? "inline-block origin-top-right -translate-x-1/2 -rotate-45 whitespace-nowrap" : ""
          }
        >
          {shortLabel(from)}…
        </span>
      </span>
    </div>
  );
}

function shortLabel(label: string): string {
  return label
    .replace(/\u202f(fps|s|K|Mb\/s)$/, "")
    .replace("ISO\u202f", "")
    .replace("automatic", "auto");
}
