// The frame from above, to scale: camera, field, what is sharp, and where the subject stands.
import type { Outlook } from "../api/types";
import { withUnit } from "../parts/words";

const WIDTH = 308;
const HIGH = 400;
const TOP = 34;
const CAMERA_Y = HIGH - 30;

type Framing = Outlook["framing"];

const metres = (value: number) => withUnit(Number(value.toPrecision(value >= 10 ? 3 : 2)), "m");

function niceStep(reach: number): number {
  const rough = reach / 5;
  const power = 10 ** Math.floor(Math.log10(rough));
  return ([1, 2, 5, 10].find((step) => step * power >= rough) ?? 10) * power;
}

export function FrameFromAbove({ framing }: { framing: Framing }) {
  const [near, far] = framing.subject_m as [number, number];
  const [sharpNear, sharpFar] = framing.sharp_m as [number, number | null];
  // Far subjects would press the near end into a point; what lies beyond ten times the near end is cut.
  const reach = Math.min(far * 1.12, near * 10);
  const cut = far > reach;
  const y = (m: number) => CAMERA_Y - (Math.min(m, reach) / reach) * (CAMERA_Y - TOP);
  const scale = (CAMERA_Y - TOP) / reach;
  const [left, right] = [40, WIDTH - 6];
  const middle = (left + right) / 2;
  const half = Math.tan((Math.min(framing.field_deg, 170) / 2) * (Math.PI / 180));
  const side = (m: number) => Math.min(half * Math.min(m, reach) * scale, middle - left);
  const clipped = (m: number) => half * m * scale > middle - left;
  const step = niceStep(reach);
  const marks = Array.from({ length: Math.floor(reach / step) + 1 }, (_, n) =>
    Number((n * step).toPrecision(6)),
  );
  const from = Math.min(sharpNear, reach);
  const to = Math.min(sharpFar ?? reach, reach);
  // A trapezoid of the field between two distances; the sides run along the picture's edge where it is wider.
  const edge = (a: number, b: number) => {
    const full = (middle - left) / (half * scale);
    const bends = full > a && full < b ? [full] : [];
    return [a, ...bends, b];
  };
  const area = (a: number, b: number) => {
    const points = edge(a, b);
    const out = points.map((m) => `${middle - side(m)} ${y(m)}`);
    const back = points.toReversed().map((m) => `${middle + side(m)} ${y(m)}`);
    return `M${[...out, ...back].join("L")}Z`;
  };
  const [nearWide, farWide] = framing.width_m as [number, number];
  return (
    <figure aria-label="Frame from above" className="m-0">
      <svg
        viewBox={`0 0 ${WIDTH} ${HIGH}`}
        className="block w-full"
        role="img"
        aria-label={`From above: sharp from ${metres(sharpNear)} to ${sharpFar === null ? "as far as one sees" : metres(sharpFar)}; the subject stands from ${metres(near)} to ${metres(far)}; the frame is ${metres(nearWide)} wide at its near end`}
      >
        <defs>
          <pattern
            id="unsharp"
            width="6"
            height="6"
            patternUnits="userSpaceOnUse"
            patternTransform="rotate(45)"
          >
            <path d="M0 0V6" stroke="var(--note)" strokeWidth="1.4" />
          </pattern>
        </defs>
        <text x="4" y="14" fontSize="12" fill="var(--muted)">
          from above, to scale
        </text>
        <path d={area(0, reach)} fill="var(--ground)" stroke="var(--rule)" />
        {to > from && <path d={area(from, to)} fill="var(--shoal)" />}
        {near < from && <path d={area(near, Math.min(from, far))} fill="url(#unsharp)" />}
        {to < Math.min(far, reach) && (
          <path d={area(Math.max(to, near), Math.min(far, reach))} fill="url(#unsharp)" />
        )}
        <path d={`M${left} ${CAMERA_Y}V${TOP}`} stroke="var(--ink)" />
        {marks.map((m) => (
          <g key={m}>
            <path d={`M${left - 6} ${y(m)}H${left}`} stroke="var(--ink)" />
            <text x={left - 9} y={y(m) + 4} textAnchor="end" fontSize="12" fill="var(--ink)">
              {m}
            </text>
          </g>
        ))}
        <text x={left - 9} y={CAMERA_Y + 20} textAnchor="end" fontSize="12" fill="var(--muted)">
          m
        </text>
        <path
          d={edge(0, reach)
            .map((m, n) => `${n ? "L" : "M"}${middle - side(m)} ${y(m)}`)
            .join("")}
          fill="none"
          stroke="var(--ink)"
          strokeWidth="1.2"
        />
        <path
          d={edge(0, reach)
            .map((m, n) => `${n ? "L" : "M"}${middle + side(m)} ${y(m)}`)
            .join("")}
          fill="none"
          stroke="var(--ink)"
          strokeWidth="1.2"
        />
        <Across
          y={y(near)}
          side={side(near)}
          middle={middle}
          open={clipped(near)}
          says={`${metres(nearWide)} wide`}
          below
        />
        {!cut && far > near * 1.05 && (
          <Across
            y={y(far)}
            side={side(far)}
            middle={middle}
            open={clipped(far)}
            says={`${metres(farWide)} wide`}
          />
        )}
        {framing.focus_m !== null && framing.focus_m < reach && (
          <g>
            <path
              d={`M${middle - side(framing.focus_m)} ${y(framing.focus_m)}H${middle + side(framing.focus_m)}`}
              stroke="var(--ink)"
              strokeDasharray="2 3"
            />
            <text
              x={middle}
              y={y(framing.focus_m) - 4}
              textAnchor="middle"
              fontSize="12"
              fontStyle="italic"
              fontFamily="var(--font-serif)"
              fill="var(--ink)"
              stroke="var(--ground)"
              strokeWidth="4"
              paintOrder="stroke"
            >
              focus
            </text>
          </g>
        )}
        {framing.subject_size_m !== null && (
          <rect
            x={middle - (framing.subject_size_m * scale) / 2}
            y={y(near) - 5}
            width={Math.max(2, framing.subject_size_m * scale)}
            height="5"
            fill="var(--ink)"
          />
        )}
        <path d={`M${middle - 9} ${CAMERA_Y + 12}h18l-5 -12h-8z`} fill="var(--ink)" />
        {cut && (
          <text x={right} y={TOP - 6} textAnchor="end" fontSize="12" fill="var(--muted)">
            the subject goes on to {metres(far)}
          </text>
        )}
      </svg>
      <dl className="px-1 text-fine">
        <Fact
          name="sharp"
          says={`${metres(sharpNear)} to ${sharpFar === null ? "infinity" : metres(sharpFar)}`}
        />
        <Fact
          name="focus"
          says={framing.focus_m === null ? "fixed" : `${framing.focus}, at ${metres(framing.focus_m)}`}
        />
        {framing.focus_m !== null && (
          <Fact
            name={`focused at ${metres(framing.hyperfocal_m)}`}
            says={`sharp from ${metres(framing.hyperfocal_m / 2)} on`}
          />
        )}
        <Fact name="field" says={`${Math.round(framing.field_deg)}°, f/${framing.f_number}`} />
        <Fact
          name="closest useful"
          says={`${metres(framing.closest_useful_m)}${framing.fills === null ? "" : `; it fills ${Math.round(100 * framing.fills)}\u202f% at ${metres(near)}`}`}
        />
      </dl>
      <p className="px-1 pt-1 text-fine text-muted">
        Sharp: a point stays within two delivered pixels. Hatched: the subject is not.
      </p>
    </figure>
  );
}

type AcrossProps = { y: number; side: number; middle: number; open: boolean; says: string; below?: boolean };

/** A line across the frame with its width; without ends where the frame is wider than the picture. */
function Across({ y, side, middle, open, says, below }: AcrossProps) {
  return (
    <g>
      <path d={`M${middle - side} ${y}H${middle + side}`} stroke="var(--ink)" strokeWidth="1.6" />
      {!open && (
        <path
          d={`M${middle - side} ${y - 4}v8M${middle + side} ${y - 4}v8`}
          stroke="var(--ink)"
          strokeWidth="1.6"
        />
      )}
      <text
        x={middle}
        y={below ? y + 15 : y - 5}
        textAnchor="middle"
        fontSize="12"
        fontWeight="700"
        fill="var(--ink)"
        stroke="var(--ground)"
        strokeWidth="4"
        paintOrder="stroke"
      >
        {says}
      </text>
    </g>
  );
}

export function Fact({ name, says }: { name: string; says: string }) {
  return (
    <div className="flex justify-between gap-3 border-hair border-b py-[3px]">
      <dt className="text-muted">{name}</dt>
      <dd className="text-right font-bold">{says}</dd>
    </div>
  );
}
