// The picture people look at: the light as a tide on a scale of stops, and the camera's reach beside it.
// Dragging the reach chooses the glass, dragging its ends chooses the ISO; letting go pins.
import { type KeyboardEvent, memo, type PointerEvent, useRef, useState } from "react";
import type { DialValue, Plan, Reach } from "../api/types";
import { stops } from "../parts/words";

const WIDTH = 308;
const HEIGHT = 586;
const TOP = 34;
const BOTTOM = HEIGHT - 34;
const AXIS = 40;
const TIDE = { from: 128, to: 200 };
const REACH = { from: 213, to: 249 };

const LEVELS: [number, string][] = [
  [15.5, "sun on sand"],
  [14.5, "full sun"],
  [12.6, "bright cloud"],
  [11, "dull day"],
  [8.5, "workshop"],
  [7.2, "office"],
  [5, "evening room"],
  [3.4, "lamp-lit road"],
  [0.5, "dark lane"],
  [-2.5, "full moon"],
  [-7, "starlight"],
];

type End = "nd" | "iso_ceiling" | "iso_floor";
type Props = {
  plan: Plan;
  onPin: (dial: End, value: DialValue["value"]) => void;
};

/** Where on the scale a value of a dial sits: glass and floor are held at the bright end, the ceiling at the dim one. */
function positionOf(end: End, reach: Reach): number {
  return end === "iso_ceiling" ? reach.low_ev100 : reach.high_ev100;
}

export const Gauge = memo(function Gauge({ plan, onPin }: Props) {
  const { exposure, settings, profiles } = plan;
  const [low, high] = exposure.ev100;
  const [drag, setDrag] = useState<{ end: End; reach: Reach } | null>(null);
  const svg = useRef<SVGSVGElement>(null);
  const found = (end: End) =>
    (exposure.reaches[end] ?? []).find((reach) => reach.value === plan.chosen[end]) ?? null;
  // What the camera holds: as it is planned, or with what is being dragged. All of it is the service's arithmetic.
  const shown = drag?.reach ?? {
    low_ev100: exposure.reach_ev100[0],
    high_ev100: exposure.reach_ev100[1],
    over_stops: exposure.over_stops,
    under_stops: exposure.under_stops,
    glass_stops: exposure.nd_stops,
  };
  const { low_ev100: reachLow, high_ev100: reachHigh, over_stops: over, under_stops: under } = shown;
  const nd = shown.glass_stops;
  const ceiling = drag?.end === "iso_ceiling" ? Number(drag.reach.value) : settings.iso_ceiling;
  const floor = drag?.end === "iso_floor" ? Number(drag.reach.value) : settings.iso_floor;
  const price = drag ? profiles[drag.end]?.find((value) => value.value === drag.reach.value) : undefined;

  const [reach0, reach1] = exposure.reach_ev100;
  const top = Math.ceil((Math.max(high, reach1) + 1.2) / 2) * 2;
  const bottom = Math.min(top - 12, Math.floor((Math.min(low, reach0) - 1.6) / 2) * 2);
  const y = (ev: number) => BOTTOM - ((ev - bottom) / (top - bottom)) * (BOTTOM - TOP);
  const evAt = (clientY: number) => {
    const box = svg.current?.getBoundingClientRect();
    if (!box) return 0;
    return (
      bottom + ((BOTTOM - ((clientY - box.top) / box.height) * HEIGHT) / (BOTTOM - TOP)) * (top - bottom)
    );
  };
  const clip = (ev: number) => Math.min(top, Math.max(bottom, ev));

  /** What can be dragged to, from the lowest reach to the highest. */
  const choices = (end: End) => {
    const legal = new Set((profiles[end] ?? []).filter((value) => value.legal).map((value) => value.value));
    return (exposure.reaches[end] ?? []).filter((reach) => legal.has(reach.value));
  };
  const grab = useRef(0);
  const nearest = (end: End, ev: number) =>
    choices(end).reduce((best, reach) =>
      Math.abs(positionOf(end, reach) - ev) < Math.abs(positionOf(end, best) - ev) ? reach : best,
    );

  const start = (end: End) => (event: PointerEvent<SVGElement>) => {
    const now = found(end);
    if (!now || choices(end).length === 0) return;
    event.currentTarget.setPointerCapture(event.pointerId);
    grab.current = evAt(event.clientY) - positionOf(end, now);
    setDrag({ end, reach: now });
  };
  const move = (end: End) => (event: PointerEvent<SVGElement>) => {
    if (drag?.end === end) setDrag({ end, reach: nearest(end, evAt(event.clientY) - grab.current) });
  };
  const drop = (end: End) => () => {
    if (drag?.end !== end) return;
    if (drag.reach.value !== plan.chosen[end]) onPin(end, drag.reach.value);
    setDrag(null);
  };
  const keys = (end: End) => (event: KeyboardEvent<SVGElement>) => {
    const step = event.key === "ArrowUp" ? 1 : event.key === "ArrowDown" ? -1 : 0;
    if (!step) return;
    event.preventDefault();
    const offered = choices(end);
    const next = offered[offered.findIndex((reach) => reach.value === plan.chosen[end]) + step];
    if (next) onPin(end, next.value);
  };
  const handle = (end: End, label: string, text: string) => ({
    role: "slider",
    tabIndex: 0,
    "aria-label": label,
    "aria-valuetext": text,
    "aria-valuemin": 0,
    "aria-valuemax": Math.max(1, choices(end).length - 1),
    "aria-valuenow": Math.max(
      0,
      choices(end).findIndex((reach) => reach.value === plan.chosen[end]),
    ),
    "aria-orientation": "vertical" as const,
    onPointerDown: start(end),
    onPointerMove: move(end),
    onPointerUp: drop(end),
    onPointerCancel: () => setDrag(null),
    onKeyDown: keys(end),
    style: { cursor: end === "nd" ? "grab" : "ns-resize", touchAction: "none" },
  });

  const glassLabel =
    drag?.end === "nd"
      ? (price?.label ?? "")
      : [settings.nd.length > 0 && plan.values.nd, settings.colour_filter && plan.values.colour_filter]
          .filter(Boolean)
          .join(" + ");
  const yHigh = y(clip(reachHigh));
  const yLow = y(clip(reachLow));
  const lowest = choices("iso_ceiling")[0];
  const yWidest = y(clip(drag || !lowest ? reachLow : Math.min(reachLow, lowest.low_ev100)));
  const lostAt = [
    over > 0.05 ? (high + Math.max(low, high - over)) / 2 : null,
    under > 0.05 ? (low + Math.min(high, low + under)) / 2 : null,
  ];
  const covered = (ev: number) => lostAt.some((at) => at !== null && Math.abs(y(at) - y(ev)) < 15);
  const ticks = Array.from({ length: top - bottom + 1 }, (_, index) => bottom + index);
  const summary = `Light from EV ${stops(low)} to ${stops(high)}. The camera reaches from EV ${stops(reachLow)} to ${stops(reachHigh)}. ${stops(over)} stops over, ${stops(under)} stops under.`;
  return (
    <figure aria-label="Gauge" className="m-0">
      <svg
        ref={svg}
        viewBox={`0 0 ${WIDTH} ${HEIGHT}`}
        className="block w-full select-none [&_text]:pointer-events-none"
        role="group"
        aria-label={summary}
      >
        <defs>
          <pattern id="lost" width="7" height="7" patternUnits="userSpaceOnUse" patternTransform="rotate(45)">
            <line x1="0" y1="0" x2="0" y2="7" stroke="var(--note)" strokeWidth="2.4" />
          </pattern>
          <pattern
            id="held"
            width="6"
            height="6"
            patternUnits="userSpaceOnUse"
            patternTransform="rotate(-45)"
          >
            <line x1="0" y1="0" x2="0" y2="6" stroke="var(--rule)" strokeWidth="1.6" />
          </pattern>
        </defs>
        <text x="4" y="14" fontSize="12" fill="var(--muted)">
          stops of light (EV at ISO 100)
        </text>
        <path d={`M${AXIS} ${TOP}V${BOTTOM}`} stroke="var(--ink)" />
        {ticks.map((ev) => (
          <g key={ev}>
            <path d={`M${AXIS - (ev % 2 ? 5 : 9)} ${y(ev)}H${AXIS}`} stroke="var(--ink)" />
            {ev % 2 === 0 && (
              <text x={AXIS - 13} y={y(ev) + 4.5} textAnchor="end" fontSize="13" fill="var(--ink)">
                {String(ev).replace("-", "\u2212")}
              </text>
            )}
          </g>
        ))}
        {LEVELS.filter(([ev]) => ev > bottom + 0.3 && ev < top - 0.3 && !covered(ev)).map(([ev, name]) => (
          <g key={name}>
            <path d={`M${AXIS} ${y(ev)}H${AXIS + 6}`} stroke="var(--muted)" />
            <text
              x={AXIS + 9}
              y={y(ev) + 4}
              fontSize="12"
              fontFamily="var(--font-serif)"
              fontStyle="italic"
              fill="var(--muted)"
            >
              {name}
            </text>
          </g>
        ))}

        <path d={tide(y(high), y(low))} fill="var(--shoal)" />
        <path d={tide(y((high + low) / 2), y(low))} fill="var(--mid)" />
        {over > 0.05 && <path d={tide(y(high), y(Math.max(low, high - over)))} fill="url(#lost)" />}
        {under > 0.05 && <path d={tide(y(Math.min(high, low + under)), y(low))} fill="url(#lost)" />}
        <path d={wave(y(high))} fill="none" stroke="var(--ink)" strokeWidth="1.3" />
        <path d={wave(y(low))} fill="none" stroke="var(--ink)" strokeWidth="1.3" />
        <Lettered x={169} y={y(high) - 8} bold>{`brightest ${stops(high)}`}</Lettered>
        <Lettered x={169} y={y(low) + 17} bold>{`dimmest ${stops(low)}`}</Lettered>

        <g>
          <rect
            x={REACH.from}
            y={yHigh}
            width={REACH.to - REACH.from}
            height={Math.max(3, yLow - yHigh)}
            fill="url(#held)"
          />
          <rect
            x={REACH.from}
            y={yHigh}
            width={REACH.to - REACH.from}
            height={Math.max(3, yLow - yHigh)}
            fill="var(--ground)"
            fillOpacity="0.01"
            stroke="var(--ink)"
            strokeWidth="1.6"
          />
        </g>
        {yWidest > yLow + 3 && (
          <path
            d={`M${REACH.from} ${yLow}V${yWidest}H${REACH.to}V${yLow}`}
            fill="none"
            stroke="var(--muted)"
            strokeDasharray="3 3"
          />
        )}
        {nd > 0 && <Slid from={y(clip(reachHigh - nd))} to={yHigh} />}
        <End above y={yHigh} {...handle("iso_floor", "Lowest ISO", `ISO ${floor}`)} />
        <End above={false} y={yLow} {...handle("iso_ceiling", "Highest ISO", `ISO ${ceiling}`)} />
        {/* The glass is held by the body of the reach and by everything beside it; the ends belong to the ISO. */}
        <g {...handle("nd", "ND filter", glassLabel)}>
          <rect
            x={REACH.from}
            y={yHigh + 10}
            width={REACH.to - REACH.from}
            height={Math.max(0, yLow - yHigh - 20)}
            fill="transparent"
          />
          <rect
            x={REACH.to + 6}
            y={yHigh - 12}
            width={WIDTH - REACH.to - 6}
            height={Math.max(48, Math.max(yLow, y(clip(reachHigh - nd))) - yHigh + 24)}
            fill="transparent"
          />
        </g>
        <text
          x={REACH.to + (nd > 0 ? 14 : 6)}
          y={yHigh + (floor === ceiling ? -3 : 4)}
          fontSize="12"
          fill="var(--ink)"
          fontWeight={drag?.end === "iso_floor" ? 700 : 400}
        >
          {floor === ceiling ? "" : `ISO ${floor}`}
        </text>
        <text
          x={REACH.to + (nd > 0 && floor !== ceiling ? 14 : 6)}
          y={Math.min(BOTTOM + 12, floor === ceiling ? yLow - 8 : yLow + 4)}
          fontSize="12"
          fill="var(--ink)"
          fontWeight={drag?.end === "iso_ceiling" ? 700 : 400}
        >
          ISO {ceiling}
        </text>
        {nd > 0 && (
          <text
            x={REACH.to + 12}
            y={(y(clip(reachHigh - nd)) + yHigh) / 2}
            fontSize="12"
            fontWeight="700"
            fill="var(--ink)"
          >
            {glassLabel.split(" + ").map((part, index) => (
              <tspan key={part} x={REACH.to + 12} dy={index ? 14 : 0} fontSize="12">
                {part}
              </tspan>
            ))}
            <tspan x={REACH.to + 12} dy="14" fontWeight="400" fontSize="12" fill="var(--muted)">
              {stops(nd)} st
            </tspan>
          </text>
        )}
        {over > 0.05 && <Lost y={y((high + Math.max(low, high - over)) / 2)} says={`${stops(over)} over`} />}
        {under > 0.05 && (
          <Lost y={y((low + Math.min(high, low + under)) / 2)} says={`${stops(under)} under`} />
        )}
        <text
          x={(TIDE.from + TIDE.to) / 2}
          y={HEIGHT - 6}
          textAnchor="middle"
          fontSize="12"
          fill="var(--muted)"
        >
          {drag ? "" : "the light"}
        </text>
        {price && (
          <text
            x={WIDTH - 4}
            y={HEIGHT - 22}
            textAnchor="end"
            fontSize="13"
            fontWeight="700"
            fill="var(--ink)"
          >
            {`${stops(price.given_up_stops ?? 0)} stops in all`}
          </text>
        )}
        <text
          x={drag ? WIDTH - 4 : (REACH.from + REACH.to) / 2 + 6}
          y={HEIGHT - 6}
          textAnchor={drag ? "end" : "middle"}
          fontSize="12"
          fill="var(--muted)"
        >
          {drag ? `let go to pin ${price?.label ?? ""}` : "camera’s reach"}
        </text>
      </svg>
    </figure>
  );
});

function wave(at: number): string {
  const bumps = "q4.5 -4 9 0t9 0".repeat(4);
  return `M${TIDE.from} ${at}${bumps}`;
}

function tide(from: number, to: number): string {
  return `${wave(from)}V${to}H${TIDE.from}Z`;
}

function Lettered({ x, y, bold, children }: { x: number; y: number; bold?: boolean; children: string }) {
  return (
    <text
      x={x}
      y={y}
      textAnchor="middle"
      fontSize="12"
      fontWeight={bold ? 700 : 400}
      fill="var(--ink)"
      stroke="var(--ground)"
      strokeWidth="4"
      paintOrder="stroke"
    >
      {children}
    </text>
  );
}

function Lost({ y, says }: { y: number; says: string }) {
  return (
    <g>
      <path d={`M${TIDE.from - 8} ${y}H${TIDE.from}`} stroke="var(--note)" />
      <text
        x={TIDE.from - 11}
        y={y + 4}
        textAnchor="end"
        fontSize="12.5"
        fontWeight="700"
        fill="var(--note)"
        stroke="var(--ground)"
        strokeWidth="5"
        paintOrder="stroke"
      >
        {says}
      </text>
    </g>
  );
}

function Slid({ from, to }: { from: number; to: number }) {
  const x = REACH.to + 7;
  return (
    <g>
      <path d={`M${x} ${from}V${to + 4}`} stroke="var(--ink)" strokeWidth="1.3" />
      <path d={`M${x - 4} ${to + 9}L${x} ${to + 1}L${x + 4} ${to + 9}Z`} fill="var(--ink)" />
    </g>
  );
}

function End({ y, above, ...props }: { y: number; above: boolean } & React.SVGProps<SVGGElement>) {
  return (
    <g {...props}>
      <rect
        x={REACH.from - 6}
        y={above ? y - 16 : y}
        width={REACH.to - REACH.from + 12}
        height="16"
        fill="transparent"
      />
      <path d={`M${REACH.from - 5} ${y}H${REACH.to + 5}`} stroke="var(--ink)" strokeWidth="3.2" />
    </g>
  );
}
