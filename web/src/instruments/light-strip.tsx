// A day's light as a tide: how many stops there are from hour to hour, its windows, and the shots on it.
// Dragging a shot along the strip moves it in time; letting go keeps it there. Shots without a time wait at its edge.
import { type KeyboardEvent, memo, type PointerEvent, useRef, useState } from "react";
import type { DayOfLight, GlassSpan } from "../api/types";
import { useWidth } from "../parts/use-width";
import { stops } from "../parts/words";
import { labelsOf, ROW_HIGH, shorter } from "./strip-labels";

const USUAL_WIDTH = 1000;
const NARROW = 620;
const LEFT = 34;
const CHART_HIGH = 184;
const LOW = -8;
const HIGH = 16;
const STEP_MS = 300_000;
const HOUR_MS = 3_600_000;
const WINDOW_ROW = 21;
const EDGE_WIDE = 150;
const EDGE_ROW = 21;

export type StripShot = {
  id: string;
  title: string;
  camera: string;
  /** When it begins; null where nobody said. */
  at: number | null;
  /** From the first take to the last. */
  lastsMs: number;
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
  const width = useWidth(svg, USUAL_WIDTH);
  const narrow = width < NARROW;
  const [drag, setDrag] = useState<{ id: string; grab: number; at: number | null } | null>(null);
  const start = Date.parse(day.start);
  const stepMs = day.step_s * 1000;
  const [from, to] = spanOf(day, shots);
  const near = (at: number | null): at is number => at !== null && at >= start && at <= Date.parse(day.end);
  const placed = shots.flatMap((shot) => {
    const at = drag?.id === shot.id ? drag.at : shot.at;
    return near(at) ? [{ ...shot, at }] : [];
  });
  const waiting = shots.filter((shot) => !near(shot.at));
  const edge = waiting.length > 0 && !narrow ? EDGE_WIDE : 8;
  const right = width - edge;
  const x = (ms: number) => LEFT + ((ms - from) / (to - from)) * (right - LEFT);
  const long = narrow ? 13 : 24;
  const labels = labelsOf(placed, x, right, long);
  const TOP = 20 + ROW_HIGH * labels.rows;
  const BASE = TOP + CHART_HIGH;
  const GLASS = BASE + 28 + 2 * WINDOW_ROW;
  const below = narrow ? waiting.length * EDGE_ROW + (waiting.length ? 18 : 0) : 0;
  const high = Math.max(GLASS + 20 + below, narrow ? 0 : TOP + 22 + waiting.length * EDGE_ROW);
  const y = (ev: number) => BASE - ((Math.min(HIGH, Math.max(LOW, ev)) - LOW) / (HIGH - LOW)) * CHART_HIGH;
  const levelAt = (ms: number) => day.level_ev100[Math.round((ms - start) / stepMs)] ?? LOW;
  const timeAt = (clientX: number) => {
    const box = svg.current?.getBoundingClientRect();
    if (!box) return from;
    const inside = ((clientX - box.left) / box.width) * width;
    return from + ((inside - LEFT) / (right - LEFT)) * (to - from);
  };
  const rounded = (ms: number) => Math.round(Math.min(to, Math.max(from, ms)) / STEP_MS) * STEP_MS;

  const points = day.level_ev100
    .map((ev, index) => [start + index * stepMs, ev] as const)
    .filter(([ms]) => ms >= from && ms <= to);
  const line = points.map(([ms, ev]) => `${x(ms).toFixed(1)} ${y(ev).toFixed(1)}`).join("L");
  const area = `M${x(points[0]?.[0] ?? from)} ${BASE}L${line}L${x(points.at(-1)?.[0] ?? to)} ${BASE}Z`;
  const hours: number[] = [];
  const every =
    HOUR_MS *
    [1, 2, 3, 6].reduce((least, n) => ((right - LEFT) / ((to - from) / HOUR_MS / least) < 24 ? n : least), 1);
  for (let ms = Math.ceil(from / HOUR_MS) * HOUR_MS; ms <= to; ms += HOUR_MS)
    if (every === HOUR_MS || Number(clock(ms).slice(0, 2)) % (every / HOUR_MS) === 0) hours.push(ms);

  const down = (shot: StripShot) => (event: PointerEvent<SVGElement>) => {
    event.currentTarget.setPointerCapture(event.pointerId);
    onChoose(shot.id);
    const grab = near(shot.at) ? timeAt(event.clientX) - shot.at : 0;
    setDrag({ id: shot.id, grab, at: near(shot.at) ? shot.at : null });
  };
  const move = (event: PointerEvent<SVGElement>) => {
    if (!drag) return;
    const there = timeAt(event.clientX) - drag.grab;
    // What waits at the edge has a time once it is on the chart.
    if (drag.at === null && (there < from || there > to)) return;
    const at = rounded(there);
    if (at === drag.at) return;
    setDrag({ ...drag, at });
    onMove(drag.id, at, false);
  };
  const up = () => {
    if (!drag) return;
    const before = shots.find((shot) => shot.id === drag.id);
    if (before && drag.at !== null && drag.at !== before.at) onMove(drag.id, drag.at, true);
    setDrag(null);
  };
  const key = (shot: StripShot) => (event: KeyboardEvent<SVGElement>) => {
    const step = event.key === "ArrowRight" ? 1 : event.key === "ArrowLeft" ? -1 : 0;
    if (!step) return;
    event.preventDefault();
    const now = near(shot.at) ? shot.at + step * (event.shiftKey ? 6 : 1) * STEP_MS : (from + to) / 2;
    onMove(shot.id, rounded(now), true);
  };

  const held = (shot: StripShot) => ({
    chosen: chosen === shot.id,
    ends: [from, to] as [number, number],
    down: down(shot),
    move,
    up,
    cancel: () => setDrag(null),
    press: key(shot),
    choose: () => onChoose(shot.id),
  });

  return (
    <figure aria-label="Light through the day" className="m-0">
      <svg
        ref={svg}
        viewBox={`0 0 ${width} ${high}`}
        className="block w-full select-none [&_text]:pointer-events-none"
        role="group"
        aria-label="Stops of light from hour to hour, with the shots of the day"
      >
        <defs>
          <clipPath id="deep-part">
            <rect x="0" y={y(4)} width={width} height={BASE - y(4)} />
          </clipPath>
          <clipPath id="mid-part">
            <rect x="0" y={y(10)} width={width} height={y(4) - y(10)} />
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
            <path d={`M${LEFT} ${y(ev)}H${right}`} stroke="var(--hair)" />
            <text x={LEFT - 7} y={y(ev) + 4} textAnchor="end" fontSize="12" fill="var(--ink)">
              {String(ev).replace("-", "\u2212")}
            </text>
          </g>
        ))}
        <path d={area} fill="var(--shoal)" />
        <path d={area} fill="var(--mid)" clipPath="url(#mid-part)" />
        <path d={area} fill="var(--deep)" clipPath="url(#deep-part)" />
        <path d={`M${line}`} fill="none" stroke="var(--ink)" strokeWidth="1.5" />
        <path d={`M${LEFT} ${BASE}H${right}`} stroke="var(--ink)" />
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
          if (window.kind === "moon")
            return (
              <path
                key={window.kind + window.start}
                d={`M${x(a)} ${BASE - 3.5}H${x(b)}`}
                stroke="var(--muted)"
                strokeDasharray="1.5 4"
              />
            );
          // Under the hours, where no line runs: one row for each kind, so that neighbours never meet.
          const at = BASE + 25 + (window.kind === "civil" ? 0 : WINDOW_ROW);
          const half = words.length * 2.9;
          const middle = Math.min(width - half, Math.max(half, (x(a) + x(b)) / 2));
          return (
            <g key={window.kind + window.start}>
              <path d={`M${x(a)} ${at}v4H${x(b)}v-4`} fill="none" stroke="var(--sun)" strokeWidth="1.3" />
              <text
                x={middle}
                y={at + 15}
                textAnchor="middle"
                fontSize="12"
                fontFamily="var(--font-serif)"
                fontStyle="italic"
                fill="var(--ink)"
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
                y={GLASS}
                width={x(b) - x(a)}
                height="15"
                fill={span.nd ? "var(--ground)" : "var(--second)"}
                stroke="var(--muted)"
                strokeDasharray={span.nd ? undefined : "3 3"}
              />
              {x(b) - x(a) > span.name.length * 6 + 6 && (
                <text
                  x={(x(a) + x(b)) / 2}
                  y={GLASS + 11.5}
                  textAnchor="middle"
                  fontSize="12"
                  fill={span.nd ? "var(--ink)" : "var(--muted)"}
                >
                  {span.name}
                </text>
              )}
            </g>
          );
        })}
        {placed.map((shot, index) => {
          const level = shot.own ? y((shot.ev100[0] + shot.ev100[1]) / 2) : y(levelAt(shot.at));
          const label = labels.of[index];
          if (!label) return null;
          return (
            <path
              key={shot.id}
              data-stem={shot.id}
              d={`M${x(shot.at)} ${label.y + 3}V${level - 7}`}
              stroke="var(--muted)"
              strokeWidth="0.8"
            />
          );
        })}
        {placed.map((shot, index) => {
          const middle = (shot.ev100[0] + shot.ev100[1]) / 2;
          const at = x(shot.at);
          const level = shot.own ? y(middle) : y(levelAt(shot.at));
          const label = labels.of[index];
          const till = Math.min(right, x(shot.at + shot.lastsMs));
          return (
            <g key={shot.id}>
              {label && (
                <text
                  data-name={shot.id}
                  x={label.end ? at + 3 : at - 3}
                  y={label.y}
                  fontSize="12"
                  fontWeight={chosen === shot.id ? 700 : 500}
                  textAnchor={label.end ? "end" : "start"}
                  fill="var(--ink)"
                  stroke="var(--ground)"
                  strokeWidth="4"
                  paintOrder="stroke"
                >
                  {drag?.id === shot.id ? `${clock(shot.at)} ` : ""}
                  {label.says}
                </text>
              )}
              {till > at + 13 && (
                <path
                  data-lasts={shot.id}
                  d={`M${at} ${level}H${till}M${till} ${level - 4}v8`}
                  stroke="var(--ink)"
                  strokeWidth="2.5"
                  fill="none"
                />
              )}
              <Handle
                shot={shot}
                says={`${clock(shot.at)}, EV ${stops(shot.own ? middle : levelAt(shot.at))}`}
                x={at}
                y={level}
                now={shot.at}
                {...held(shot)}
              />
            </g>
          );
        })}
        {waiting.length > 0 && (
          <text
            x={narrow ? LEFT : right + 16}
            y={narrow ? GLASS + 34 : TOP + 4}
            fontSize="12"
            fontFamily="var(--font-serif)"
            fontStyle="italic"
            fill="var(--ink)"
          >
            no time on this day
          </text>
        )}
        {waiting.map((shot, index) => {
          const [left, top] = narrow
            ? [LEFT + 13, GLASS + 52 + index * EDGE_ROW]
            : [right + 29, TOP + 22 + index * EDGE_ROW];
          // While it is drawn onto the day its handle stays here, since it holds the pointer.
          return (
            <g key={shot.id} opacity={drag?.id === shot.id && drag.at !== null ? 0.4 : undefined}>
              <text
                x={left + 20}
                y={top + 4}
                fontSize="12"
                fontWeight={chosen === shot.id ? 700 : 500}
                fill="var(--ink)"
              >
                {shorter(shot.title, narrow ? 40 : 15)}
              </text>
              <Handle shot={shot} says="no time on this day" x={left} y={top} now={from} {...held(shot)} />
            </g>
          );
        })}
      </svg>
    </figure>
  );
});

type HandleProps = {
  shot: StripShot;
  says: string;
  x: number;
  y: number;
  chosen: boolean;
  now: number;
  ends: [number, number];
  down: (event: PointerEvent<SVGElement>) => void;
  move: (event: PointerEvent<SVGElement>) => void;
  up: () => void;
  cancel: () => void;
  press: (event: KeyboardEvent<SVGElement>) => void;
  choose: () => void;
};

/** What a shot is taken by: with a finger, a mouse, or the arrow keys. */
function Handle({ shot, says, x, y, chosen, now, ends, down, move, up, cancel, press, choose }: HandleProps) {
  return (
    <g
      role="slider"
      tabIndex={0}
      aria-label={`${shot.title}, start`}
      aria-valuetext={says}
      aria-valuemin={Math.round(ends[0] / 60_000)}
      aria-valuemax={Math.round(ends[1] / 60_000)}
      aria-valuenow={Math.round(now / 60_000)}
      data-shot={shot.id}
      style={{ cursor: "ew-resize", touchAction: "none" }}
      onPointerDown={down}
      onPointerMove={move}
      onPointerUp={up}
      onPointerCancel={cancel}
      onKeyDown={press}
      onFocus={choose}
    >
      <rect x={x - 16} y={y - 16} width="32" height="32" fill="transparent" />
      <rect
        x={x - 13}
        y={y - 6}
        width="26"
        height="12"
        fill={shot.own ? "url(#own-light)" : "var(--ink)"}
        stroke="var(--ink)"
        strokeWidth={chosen ? 2.5 : 1}
      />
      {chosen && <path d={`M${x - 16} ${y + 10}H${x + 16}`} stroke="var(--note)" strokeWidth="2" />}
    </g>
  );
}

/** How wide the strip is drawn, so that its type keeps its size on any screen. */
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
  // The day's own light; that of the night after it only where a shot is there.
  const moments = [
    ...lit
      .flatMap((window) => [Date.parse(window.start), Date.parse(window.end)])
      .filter((ms) => ms < start + 86_400_000),
    ...shots.flatMap((shot) => (shot.at === null ? [] : [shot.at, shot.at + shot.lastsMs])),
  ].filter((ms) => ms >= start && ms <= end);
  if (moments.length === 0) return [start, Math.min(end, start + 86_400_000)];
  return [Math.max(start, Math.min(...moments) - 2_700_000), Math.min(end, Math.max(...moments) + 2_700_000)];
}
