// Signal to noise of a grey card over ISO, both in doublings: what was measured, and the curve that was fitted.
import type { NoiseMeasured } from "../api/types";

const WIDTH = 420;
const HEIGHT = 230;
const LEFT = 44;
const BOTTOM = 30;

export function NoiseCurve({ found }: { found: NoiseMeasured }) {
  const { curve } = found;
  const isos = curve.map(({ iso }) => iso);
  const ratios = curve.flatMap(({ measured, fitted }) => [measured, fitted]).filter((value) => value > 0);
  const lowest = Math.min(...ratios) / 1.3;
  const highest = Math.max(...ratios) * 1.3;
  const x = alongDoublings(Math.min(...isos) / 1.2, Math.max(...isos) * 1.2, LEFT, WIDTH - 8);
  const y = alongDoublings(lowest, highest, HEIGHT - BOTTOM, 8);
  const marks = [2, 5, 10, 20, 50, 100, 200, 500].filter((mark) => mark >= lowest && mark <= highest);
  const line = curve.map(({ iso, fitted }) => `${x(iso).toFixed(1)},${y(fitted).toFixed(1)}`).join(" ");
  return (
    <svg
      viewBox={`0 0 ${WIDTH} ${HEIGHT}`}
      className="w-full max-w-[460px]"
      role="img"
      aria-label={`Signal to noise over ISO: ${curve.map((point) => `${point.iso}: ${point.measured.toFixed(0)} measured, ${point.fitted.toFixed(0)} fitted`).join("; ")}`}
    >
      {marks.map((mark) => (
        <g key={mark}>
          <line x1={LEFT} x2={WIDTH - 8} y1={y(mark)} y2={y(mark)} stroke="var(--hair)" />
          <text x={LEFT - 6} y={y(mark) + 4} textAnchor="end" fontSize="12" fill="var(--muted)">
            {mark}
          </text>
        </g>
      ))}
      {isos.map((iso) => (
        <text key={iso} x={x(iso)} y={HEIGHT - 12} textAnchor="middle" fontSize="12" fill="var(--muted)">
          {iso}
        </text>
      ))}
      <text x={WIDTH - 8} y={HEIGHT - 1} textAnchor="end" fontSize="12" fill="var(--muted)">
        ISO
      </text>
      <text x={LEFT} y={18} fontSize="12" fill="var(--muted)" dx="6">
        signal : noise
      </text>
      <line x1={LEFT} x2={WIDTH - 8} y1={HEIGHT - BOTTOM} y2={HEIGHT - BOTTOM} stroke="var(--ink)" />
      <polyline points={line} fill="none" stroke="var(--deep)" strokeWidth="2.5" />
      {curve.map(({ iso, measured }) => (
        <circle
          key={iso}
          cx={x(iso)}
          cy={y(Math.max(measured, lowest))}
          r="4"
          fill="var(--ground)"
          stroke="var(--ink)"
          strokeWidth="1.75"
        />
      ))}
    </svg>
  );
}

/** A scale on which doublings are equally far apart. */
function alongDoublings(low: number, high: number, from: number, to: number) {
  return (value: number) => from + (Math.log(value / low) / Math.log(high / low)) * (to - from);
}
