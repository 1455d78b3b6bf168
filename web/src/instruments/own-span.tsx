// A number of one's own on a line: readings as ticks, where it lies nine times in ten as a band, the typical one hollow.
import { useRef } from "react";
import { useWidth } from "../parts/use-width";

type Props = {
  value: number;
  low: number;
  high: number;
  usual: number | null;
  readings: { value: number; accepted: boolean | null }[];
  says: string;
};

const HIGH = 34;
const BASE = 22;
const ROOM = 0.12;

export function OwnSpan({ value, low, high, usual, readings, says }: Props) {
  const drawing = useRef<SVGSVGElement>(null);
  const wide = useWidth(drawing, 280);
  const all = [low, high, value, ...readings.map((one) => one.value), ...(usual === null ? [] : [usual])];
  const least = Math.min(...all);
  const span = Math.max(Math.max(...all) - least, Math.abs(value) * 0.02, 1e-6);
  const x = (at: number) => wide * (ROOM + ((1 - 2 * ROOM) * (at - least)) / span);
  return (
    <svg
      ref={drawing}
      viewBox={`0 0 ${wide} ${HIGH}`}
      height={HIGH}
      role="img"
      aria-label={says}
      className="block w-full"
    >
      <line x1={0} x2={wide} y1={BASE} y2={BASE} stroke="var(--rule)" />
      <rect
        x={x(low)}
        y={BASE - 6}
        width={Math.max(2, x(high) - x(low))}
        height={12}
        fill="var(--mid)"
        stroke="var(--deep)"
      />
      {readings.map((one, place) => (
        <line
          key={place}
          x1={x(one.value)}
          x2={x(one.value)}
          y1={one.accepted === false ? BASE : BASE - 9}
          y2={one.accepted === true ? BASE : BASE + 9}
          stroke={one.accepted === false ? "var(--note)" : "var(--ink)"}
          strokeWidth={1}
          opacity={0.55}
        />
      ))}
      {usual !== null && (
        <circle cx={x(usual)} cy={BASE} r={4.5} fill="var(--ground)" stroke="var(--ink)" strokeWidth={1.5} />
      )}
      <line x1={x(value)} x2={x(value)} y1={4} y2={BASE + 9} stroke="var(--ink)" strokeWidth={2.5} />
    </svg>
  );
}
