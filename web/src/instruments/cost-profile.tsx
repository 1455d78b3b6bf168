// What every value of a dial would have cost with all else chosen again. Choosing one pins it.
import { useState } from "react";
import type { DialValue } from "../api/client";
import { stops } from "../app/words";

type Props = {
  name: string;
  values: DialValue[];
  chosen: string;
  total: number;
  pinned: boolean;
  onChoose: (value: DialValue["value"]) => void;
};

const WIDTH = 520;
const HIGH = 46;

export function CostProfile({ name, values, chosen, total, pinned, onChoose }: Props) {
  const [heard, setHeard] = useState<string | null>(null);
  const more = values.map((value) => (value.given_up_stops ?? 0) - total);
  const largest = Math.max(1, ...more.filter((_, index) => values[index]?.legal));
  const cell = Math.min(62, WIDTH / values.length);
  const tilted = cell < 50;
  const said = values.find((value) => value.label === heard);
  return (
    <div>
      <div
        role="group"
        aria-label={`${name}: stops more given up`}
        className="flex items-end"
        onMouseLeave={() => setHeard(null)}
      >
        <div className="w-[84px] flex-none self-end pb-1 text-[11.5px] leading-tight text-muted">
          <div className="pb-2">stops more given up</div>
          <div>{name}</div>
        </div>
        {values.map((value, index) => {
          const own = value.label === chosen;
          const extra = more[index] ?? 0;
          const high = value.legal ? Math.max(own ? 3 : 1, (Math.max(0, extra) / largest) * HIGH) : HIGH;
          return (
            <button
              key={value.label}
              type="button"
              aria-pressed={own && pinned}
              aria-disabled={!value.legal}
              aria-label={`${value.label}, ${own ? "chosen" : value.legal ? `${stops(extra)} stops more` : `not legal: ${value.why_not}`}`}
              className="group flex flex-none flex-col items-center justify-end pt-1 hover:bg-shoal"
              style={{ width: cell }}
              onMouseEnter={() => setHeard(value.label)}
              onFocus={() => setHeard(value.label)}
              onClick={() => value.legal && onChoose(value.value)}
            >
              <span className={`text-[11px] leading-4 ${own ? "font-bold" : ""}`}>
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
                className={`w-[60%] ${own ? "bg-ink" : value.legal ? "bg-deep" : "border border-muted border-b-0 border-dashed"}`}
                style={{ height: high }}
              />
              <span
                className={`w-full border-ink border-t pt-[3px] text-center leading-[14px] ${tilted ? "h-[44px] text-[10.5px]" : "h-[32px] text-[11.5px]"} ${own ? "font-bold" : ""} ${value.legal ? "" : "text-muted line-through"}`}
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
      <p aria-live="polite" className="min-h-[18px] pl-[84px] text-[12px] text-muted">
        {said &&
          (said.legal
            ? `${said.label}: ${stops(said.given_up_stops ?? 0)} stops given up in all`
            : `${said.label}: ${said.why_not}`)}
      </p>
    </div>
  );
}

function shortLabel(label: string): string {
  return label
    .replace(/\u202f(fps|s|K|Mb\/s)$/, "")
    .replace("ISO\u202f", "")
    .replace("automatic", "auto");
}
