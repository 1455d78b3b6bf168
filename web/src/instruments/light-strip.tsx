// A day's light as a tide: how many stops there are from hour to hour, its windows, and the shots on it.
// Dragging a shot along the strip moves it in time; letting go keeps it there.
import { type KeyboardEvent, memo, type PointerEvent, useRef, useState } from "react";
import type { DayOfLight, GlassSpan } from "../api/types";
import { stops } from "../parts/words";

const WIDTH = 1000;
const LEFT = 34;
const RIGHT = WIDTH - 8;
const TOP = 78;
const BASE = 262;
const LOW = -8;
const HIGH = 16;
const STEP_MS = 300_000;
const LABEL_ROWS = [12, 28, 44, 60];
const LONGEST_LABEL = 24;

export type StripShot = {
  id: string;
  title: string;
  camera: string;
  at: number;
  ev100: [number, number];
  /** Lit by lamps or by what a place has, not by the sky of this day. */
  own: boolean;
};

type Props = {
  day: DayOfLight;
  shots: StripShot[];
  chosen: string | null;
  glass: GlassSpan[];
  clock: (ms: number) => string;
  onChoose: (id: string) => void;
  onMove: (id: string, at: number, done: boolean) => void;
};

export const LightStrip = memo(function LightStrip(props: Props) {
  const { day, shots, chosen, glass, clock, onChoose, onMove } = props;
  const svg = useRef<SVGSVGElement>(null);
  const [drag, setDrag] = useState<{ id: string; grab: number; at: number } | null>(null);
  const start = Date.parse(day.start);
  const stepMs = day.step_s * 1000;
  const [from, to] = spanOf(day, shots);
  const x = (ms: number) => LEFT + ((ms - from) / (to - from)) * (RIGHT - LEFT);
  const y = (ev: number) => BASE - ((Math.min(HIGH, Math.max(LOW, ev)) - LOW) / (HIGH - LOW)) * (BASE - TOP);
  const levelAt = (ms: number) => day.level_ev100[Math.round((ms - start) / stepMs)] ?? LOW;
  const timeAt = (clientX: number) => {
    const box = svg.current?.getBoundingClientRect();
    if (!box) return from;
    const inside = ((clientX - box.left) / box.width) * WIDTH;
    return from + ((inside - LEFT) / (RIGHT - LEFT)) * (to - from);
  };
  const rounded = (ms: number) => Math.round(Math.min(to, Math.max(from, ms)) / STEP_MS) * STEP_MS;

  const points = day.level_ev100
    .map((ev, index) => [start + index * stepMs, ev] as const)
    .filter(([ms]) => ms >= from && ms <= to);
  const line = points.map(([ms, ev]) => `${x(ms).toFixed(1)} ${y(ev).toFixed(1)}`).join("L");
  const area = `M${x(points[0]?.[0] ?? from)} ${BASE}L${line}L${x(points.at(-1)?.[0] ?? to)} ${BASE}Z`;
  const hours: number[] = [];
  for (let ms = Math.ceil(from / 3_600_000) * 3_600_000; ms <= to; ms += 3_600_000) hours.push(ms);

  const placed = shots.map((shot) => ({ ...shot, at: drag?.id === shot.id ? drag.at : shot.at }));
  const rows = labelRows(placed, x);
  const down = (shot: StripShot) => (event: PointerEvent<SVGElement>) => {
    event.currentTarget.setPointerCapture(event.pointerId);
    onChoose(shot.id);
    setDrag({ id: shot.id, grab: timeAt(event.clientX) - shot.at, at: shot.at });
  };
  const move = (event: PointerEvent<SVGElement>) => {
    if (!drag) return;
    const at = rounded(timeAt(event.clientX) - drag.grab);
    if (at === drag.at) return;
    setDrag({ ...drag, at });
    onMove(drag.id, at, false);
  };
  const up = () => {
    if (!drag) return;
    const before = shots.find((shot) => shot.id === drag.id);
    if (before && drag.at !== before.at) onMove(drag.id, drag.at, true);
    setDrag(null);
  };
  const key = (shot: StripShot) => (event: KeyboardEvent<SVGElement>) => {
    const step = event.key === "ArrowRight" ? 1 : event.key === "ArrowLeft" ? -1 : 0;
    if (!step) return;
    event.preventDefault();
    onMove(shot.id, rounded(shot.at + step * (event.shiftKey ? 6 : 1) * STEP_MS), true);
  };

  return (
    <figure aria-label="Light through the day" className="m-0">
      <svg
        ref={svg}
        viewBox={`0 0 ${WIDTH} 306`}
        className="block w-full select-none [&_text]:pointer-events-none"
        role="group"
        aria-label="Stops of light from hour to hour, with the shots of the day"
      >
        <defs>
          <clipPath id="deep-part">
            <rect x="0" y={y(4)} width={WIDTH} height={BASE - y(4)} />
          </clipPath>
          <clipPath id="mid-part">
            <rect x="0" y={y(10)} width={WIDTH} height={y(4) - y(10)} />
          </clipPath>
          <pattern
            id="own-light"
            width="5"
            height="5"
            patternUnits="userSpaceOnUse"
            patternTransform="rotate(45)"
          >
            <path d="M0 0V5" stroke="var(--ink)" strokeWidth="1.6" />
          </pattern>
        </defs>
        {[-8, -4, 0, 4, 8, 12, 16].map((ev) => (
          <g key={ev}>
            <path d={`M${LEFT} ${y(ev)}H${RIGHT}`} stroke="var(--hair)" />
            <text x={LEFT - 7} y={y(ev) + 4} textAnchor="end" fontSize="11.5" fill="var(--ink)">
              {String(ev).replace("-", "\u2212")}
            </text>
          </g>
        ))}
        <path d={area} fill="var(--shoal)" />
        <path d={area} fill="var(--mid)" clipPath="url(#mid-part)" />
        <path d={area} fill="var(--deep)" clipPath="url(#deep-part)" />
        <path d={`M${line}`} fill="none" stroke="var(--ink)" strokeWidth="1.5" />
        <path d={`M${LEFT} ${BASE}H${RIGHT}`} stroke="var(--ink)" />
        {hours.map((ms) => (
          <g key={ms}>
            <path d={`M${x(ms)} ${BASE}v5`} stroke="var(--ink)" />
            <text x={x(ms)} y={BASE + 18} textAnchor="middle" fontSize="12" fill="var(--ink)">
              {clock(ms).slice(0, 2)}
            </text>
          </g>
        ))}
        {day.windows.map((window) => {
          const [a, b] = [Math.max(from, Date.parse(window.start)), Math.min(to, Date.parse(window.end))];
          const words = WORDS[window.kind];
          if (!words || b - a < 600_000) return null;
          const moon = window.kind === "moon";
          const at = window.kind === "harsh" ? TOP - 4 : BASE - 12;
          if (moon) {
            return (
              <g key={window.kind + window.start}>
                <path d={`M${x(a)} ${BASE - 3.5}H${x(b)}`} stroke="var(--muted)" strokeDasharray="1.5 4" />
              </g>
            );
          }
          return (
            <g key={window.kind + window.start}>
              <path d={`M${x(a)} ${at - 6}v6H${x(b)}v-6`} fill="none" stroke="var(--sun)" strokeWidth="1.3" />
              <text
                x={(x(a) + x(b)) / 2}
                y={window.kind === "civil" ? at - 25 : at - 9}
                textAnchor="middle"
                fontSize="12"
                fontFamily="var(--font-serif)"
                fontStyle="italic"
                fill="var(--ink)"
                stroke={window.kind === "harsh" ? "var(--ground)" : "none"}
                strokeWidth="3"
                paintOrder="stroke"
              >
                {words}
              </text>
            </g>
          );
        })}
        {glass.map((span) => {
          const [a, b] = [Math.max(from, Date.parse(span.start)), Math.min(to, Date.parse(span.end))];
          if (b <= a) return null;
          return (
            <g key={span.start} data-glass={span.name}>
              <rect
                x={x(a)}
                y={BASE + 25}
                width={x(b) - x(a)}
                height="15"
                fill={span.nd ? "var(--ground)" : "var(--second)"}
                stroke="var(--muted)"
                strokeDasharray={span.nd ? undefined : "3 3"}
              />
              {x(b) - x(a) > span.name.length * 6 + 6 && (
                <text
                  x={(x(a) + x(b)) / 2}
                  y={BASE + 36.5}
                  textAnchor="middle"
                  fontSize="11"
                  fill={span.nd ? "var(--ink)" : "var(--muted)"}
                >
                  {span.name}
                </text>
              )}
            </g>
          );
        })}
        {placed.map((shot, index) => {
          const middle = (shot.ev100[0] + shot.ev100[1]) / 2;
          const at = x(shot.at);
          const high = shot.own ? y(middle) : y(levelAt(shot.at));
          const row = LABEL_ROWS[rows[index] ?? 0] ?? 14;
          const right = at > WIDTH - 190;
          return (
            <g key={shot.id}>
              <path d={`M${at} ${row + 3}V${high - 7}`} stroke="var(--muted)" strokeWidth="0.8" />
              <text
                x={right ? at + 3 : at - 3}
                y={row}
                fontSize="12"
                fontWeight={chosen === shot.id ? 700 : 500}
                textAnchor={right ? "end" : "start"}
                fill="var(--ink)"
                stroke="var(--ground)"
                strokeWidth="4"
                paintOrder="stroke"
              >
                {drag?.id === shot.id ? `${clock(shot.at)} ` : ""}
                {shorter(shot.title)}
              </text>
              <g
                role="slider"
                tabIndex={0}
                aria-label={`${shot.title}, start`}
                aria-valuetext={`${clock(shot.at)}, EV ${stops(shot.own ? middle : levelAt(shot.at))}`}
                aria-valuemin={Math.round(from / 60_000)}
                aria-valuemax={Math.round(to / 60_000)}
                aria-valuenow={Math.round(shot.at / 60_000)}
                data-shot={shot.id}
                style={{ cursor: "ew-resize", touchAction: "none" }}
                onPointerDown={down(shot)}
                onPointerMove={move}
                onPointerUp={up}
                onPointerCancel={() => setDrag(null)}
                onKeyDown={key(shot)}
                onFocus={() => onChoose(shot.id)}
              >
                <rect x={at - 16} y={high - 16} width="32" height="32" fill="transparent" />
                <rect
                  x={at - 13}
                  y={high - 6}
                  width="26"
                  height="12"
                  fill={shot.own ? "url(#own-light)" : "var(--ink)"}
                  stroke="var(--ink)"
                  strokeWidth={chosen === shot.id ? 2.5 : 1}
                />
                {chosen === shot.id && (
                  <path d={`M${at - 16} ${high + 10}H${at + 16}`} stroke="var(--note)" strokeWidth="2" />
                )}
              </g>
            </g>
          );
        })}
      </svg>
    </figure>
  );
});

const WORDS: Record<string, string> = {
  civil: "twilight",
  low_sun: "low sun",
  harsh: "harsh",
  moon: "moon",
};

/** From before the first light or shot until after the last. */
function spanOf(day: DayOfLight, shots: StripShot[]): [number, number] {
  const [start, end] = [Date.parse(day.start), Date.parse(day.end)];
  const lit = day.windows.filter((window) => window.kind === "civil" || window.kind === "low_sun");
  const moments = [
    ...lit.flatMap((window) => [Date.parse(window.start), Date.parse(window.end)]),
    ...shots.map((shot) => shot.at),
  ].filter((ms) => ms >= start && ms <= end);
  if (moments.length === 0) return [start, end];
  return [Math.max(start, Math.min(...moments) - 2_700_000), Math.min(end, Math.max(...moments) + 5_400_000)];
}

function shorter(title: string): string {
  return title.length <= LONGEST_LABEL ? title : `${title.slice(0, LONGEST_LABEL - 1).trimEnd()}…`;
}

/** Where a shot's label begins and ends. */
function labelSpan(shot: StripShot, at: number): [number, number] {
  const long = shorter(shot.title).length * 6.7;
  return at > WIDTH - 190 ? [at + 3 - long, at + 3] : [at - 3, at - 3 + long];
}

/** Which of the label rows each shot takes, so that none writes over another. */
function labelRows(shots: StripShot[], x: (ms: number) => number): number[] {
  const taken: [number, number][][] = LABEL_ROWS.map(() => []);
  const order = shots.map((_, index) => index).sort((a, b) => (shots[a]?.at ?? 0) - (shots[b]?.at ?? 0));
  const found: number[] = shots.map(() => 0);
  for (const index of order) {
    const shot = shots[index];
    if (!shot) continue;
    const [from, to] = labelSpan(shot, x(shot.at));
    const free = taken.findIndex((row) => row.every(([a, b]) => to < a - 6 || from > b + 6));
    const row = free >= 0 ? free : LABEL_ROWS.length - 1;
    taken[row]?.push([from, to]);
    found[index] = row;
  }
  return found;
}
