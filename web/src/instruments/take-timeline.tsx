// A take over its time: how bright the picture was against what it was metered for, and how it trembled.
import { useRef } from "react";
import type { Line, Moment } from "../api/rushes";
import { useWidth } from "../parts/use-width";
import { stops } from "../parts/words";

const USUAL_WIDTH = 760;
const LEFT = 34;
const TOP = 40;
const HIGH = 120;
const GAP = 30;
const BARS = 46;
const BASE = TOP + HIGH;
const FLOOR = BASE + GAP + BARS;
const LEAST_REACH = 2;
const MOST_REACH = 8;
const SHARE_OF_RANGE = 0.5;
const LETTER = 6.6;

type Props = {
  line: Line;
  seconds: number;
  expected: number | null;
  blownFrom: number;
  moments: Moment[];
  says: string;
  name: string;
};

export function TakeTimeline({ line, seconds, expected, blownFrom, moments, says, name }: Props) {
  const drawing = useRef<SVGSVGElement>(null);
  const wide = useWidth(drawing, USUAL_WIDTH);
  const count = line.at_s.length;
  if (count === 0) return <p className="py-3 text-muted">Nothing was measured over its time.</p>;
  const middle = expected ?? 0;
  const reach = Math.min(
    MOST_REACH,
    Math.max(LEAST_REACH, ...line.median_stops.map((value) => Math.abs(value - middle) + 0.5)),
  );
  const end = Math.max(seconds, line.at_s[count - 1] ?? 0, 0.001);
  const x = (at: number) => LEFT + (at / end) * (wide - LEFT - 4);
  const y = (value: number) =>
    TOP + HIGH / 2 - (Math.max(-reach, Math.min(reach, value - middle)) / reach) * (HIGH / 2);
  const at = (index: number) => x(line.at_s[index] ?? 0);
  const next = (index: number) => (index + 1 < count ? at(index + 1) : x(end));
  const path = (values: number[]) =>
    values.map((value, index) => `${index ? "L" : "M"}${at(index)} ${y(value)}`).join("") +
    `L${x(end)} ${y(values[count - 1] ?? middle)}`;
  const band = `${path(line.high_stops)}${[...line.low_stops]
    .map((value, index) => [index, value] as const)
    .reverse()
    .map(([index, value], place) => `${place ? "" : `L${x(end)} ${y(value)}`}L${at(index)} ${y(value)}`)
    .join("")}Z`;
  const most = Math.max(1, ...line.move_px.map((move) => move ?? 0));
  const quarter = niceStep(end);
  return (
    <svg
      ref={drawing}
      viewBox={`0 0 ${wide} ${FLOOR + 22}`}
      className="block w-full text-fine"
      role="img"
      aria-label={`${name} over its time. ${says}`}
    >
      <defs>
        <pattern id="blown" width="6" height="6" patternUnits="userSpaceOnUse" patternTransform="rotate(45)">
          <path d="M0 0V6" stroke="var(--note)" strokeWidth="1.6" />
        </pattern>
      </defs>
      <path d={band} fill="var(--shoal)" />
      <rect
        x={LEFT}
        width={wide - LEFT - 4}
        y={y(middle + SHARE_OF_RANGE)}
        height={y(middle - SHARE_OF_RANGE) - y(middle + SHARE_OF_RANGE)}
        fill="var(--mid)"
        opacity="0.75"
      />
      {line.white_share.map(
        (share, index) =>
          share >= blownFrom && (
            <rect
              key={line.at_s[index]}
              x={at(index)}
              width={Math.max(1, next(index) - at(index))}
              y={TOP}
              height={Math.max(0, y(line.median_stops[index] ?? middle) - TOP)}
              fill="url(#blown)"
            />
          ),
      )}
      <path d={path(line.median_stops)} fill="none" stroke="var(--ink)" strokeWidth="1.8" />
      <g fill="var(--muted)">
        {[reach, 0, -reach].map((value) => (
          <text key={value} x={LEFT - 6} y={y(middle + value) + 4} textAnchor="end">
            {value > 0 ? "+" : ""}
            {stops(middle + value)}
          </text>
        ))}
        <text x={LEFT} y={12}>
          light of the picture, stops about grey
        </text>
        <text x={LEFT + 4} y={y(middle - SHARE_OF_RANGE) + 14}>
          {expected === null ? "grey" : "as metered"}
        </text>
        <text x={LEFT} y={BASE + GAP - 10}>
          movement, px a frame, to {Math.round(most)}
        </text>
      </g>
      <path d={`M${LEFT} ${FLOOR}H${wide - 4}M${LEFT} ${TOP}V${BASE}`} stroke="var(--ink)" fill="none" />
      {line.move_px.map(
        (move, index) =>
          move !== null && (
            <rect
              key={line.at_s[index]}
              x={at(index)}
              width={Math.max(1, (next(index) - at(index)) * 0.7)}
              y={FLOOR - (move / most) * BARS}
              height={(move / most) * BARS}
              fill="var(--deep)"
            />
          ),
      )}
      {placed(moments, x, wide).map(({ moment, row, left }) => (
        <g key={`${moment.at_s} ${moment.text}`} fill="var(--note)">
          <path d={`M${x(moment.at_s)} ${TOP}V${FLOOR}`} stroke="var(--note)" strokeDasharray="3 3" />
          <text
            x={x(moment.at_s) + (left ? -5 : 5)}
            y={TOP - 8 + row * 14}
            textAnchor={left ? "end" : "start"}
            fontWeight="700"
            stroke="var(--ground)"
            strokeWidth="3"
            paintOrder="stroke"
          >
            {moment.at_s.toFixed(1)} s: {moment.text}
          </text>
        </g>
      ))}
      <g fill="var(--muted)">
        {Array.from({ length: Math.floor(end / quarter) + 1 }, (_, step) => step * quarter).map((second) => (
          <text
            key={second}
            x={x(second)}
            y={FLOOR + 15}
            textAnchor={second === 0 ? "start" : x(second) > wide - 24 ? "end" : "middle"}
          >
            {Number(second.toFixed(2))} s
          </text>
        ))}
      </g>
    </svg>
  );
}

/** Labels beside their lines, to the left near the end, each on the first row where nothing stands yet. */
function placed(moments: Moment[], x: (at: number) => number, wide: number) {
  const rows: [number, number][][] = [];
  return moments.map((moment) => {
    const long = (moment.text.length + 7) * LETTER;
    const left = x(moment.at_s) + long > wide;
    const from = x(moment.at_s) - (left ? long : 0);
    const free = rows.findIndex((taken) => taken.every(([start, end]) => from > end || from + long < start));
    const row = free < 0 ? rows.length : free;
    rows[row] = [...(rows[row] ?? []), [from, from + long]];
    return { moment, row, left };
  });
}

function niceStep(end: number): number {
  const rough = end / 5;
  const size = 10 ** Math.floor(Math.log10(rough));
  return ([1, 2, 5, 10].find((step) => step * size >= rough) ?? 10) * size;
}
