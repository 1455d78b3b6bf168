// A framing to scale: horizon, subject, cuts of other shapes, one's own shadow. It only draws the numbers it is given.
import { useId } from "react";
import type { Sketch } from "../api/story";

type Props = {
  sketch: Sketch;
  end?: Sketch | null;
  figure: "person" | "thing" | "ground";
  says: string;
  letters?: number;
};

/** By how much larger the end has to be to be drawn beside the start. */
const SEEN_STOPS = 0.2;

type Points = [number, number][];

export function FramingSketch({ sketch, end, figure, says, letters = 12.5 }: Props) {
  const id = useId();
  const wide = 320;
  const high = wide / sketch.shape;
  const path = (points: Points) =>
    points.map(([x, y], n) => `${n ? "L" : "M"}${x * wide} ${y * high}`).join("");
  const box = ([left, top, width, height]: [number, number, number, number]) => ({
    x: left * wide,
    y: top * high,
    width: width * wide,
    height: height * high,
  });
  const horizon = sketch.horizon as Points;
  const below = horizon.length
    ? `${path(horizon)}L${wide * 1.4} ${high * 1.4}L${-wide * 0.4} ${high * 1.4}Z`
    : (sketch.ground as Points)[0]
      ? `M0 0H${wide}V${high}H0Z`
      : "";
  const small = letters * (320 / 206);
  return (
    <svg viewBox={`0 0 ${wide} ${high}`} className="block w-full" role="img" aria-label={says}>
      <defs>
        <clipPath id={`${id}in`}>
          <rect width={wide} height={high} />
        </clipPath>
        <pattern
          id={`${id}sh`}
          width="7"
          height="7"
          patternUnits="userSpaceOnUse"
          patternTransform="rotate(45)"
        >
          <path d="M0 0V7" stroke="var(--note)" strokeWidth="2" />
        </pattern>
      </defs>
      <g clipPath={`url(#${id}in)`}>
        <rect width={wide} height={high} fill="var(--second)" />
        <path d={below} fill="var(--shoal)" />
        <path
          d={`M${wide / 3} 0V${high}M${(2 * wide) / 3} 0V${high}M0 ${high / 3}H${wide}M0 ${(2 * high) / 3}H${wide}`}
          stroke="var(--rule)"
          strokeWidth="1.2"
        />
        {(sketch.ground as Points).length > 1 && (
          <path
            d={path(sketch.ground as Points)}
            fill="none"
            stroke="var(--deep)"
            strokeWidth="1.2"
            strokeDasharray="2 5"
          />
        )}
        {(sketch.shadow as Points).length > 2 && (
          <path
            d={`${path(sketch.shadow as Points)}Z`}
            fill={`url(#${id}sh)`}
            stroke="var(--note)"
            strokeWidth="1.5"
          />
        )}
        {(sketch.foreground as Points).length > 1 && (
          <path
            d={path(sketch.foreground as Points)}
            fill="none"
            stroke={sketch.foreground_sharp === false ? "var(--muted)" : "var(--ink)"}
            strokeWidth="3"
            strokeDasharray={sketch.foreground_sharp === false ? "8 5" : undefined}
          />
        )}
        <Figure figure={figure} {...box(sketch.subject as never)} sharp={sketch.subject_sharp ?? true} />
        {end && Math.abs(Math.log2(end.fills / sketch.fills)) > SEEN_STOPS && (
          <rect
            {...box(end.subject as never)}
            fill="none"
            stroke="var(--ink)"
            strokeWidth="1.6"
            strokeDasharray="5 4"
          />
        )}
        {sketch.crops.map((crop) => {
          const at = box(crop.box as never);
          return (
            <g key={crop.shape}>
              <rect
                {...at}
                fill="none"
                stroke={crop.whole ? "var(--ink)" : "var(--note)"}
                strokeWidth="1.8"
                strokeDasharray="7 5"
              />
              <text
                x={at.x + at.width - 4}
                y={at.y + small + 2}
                textAnchor="end"
                fontSize={small}
                fill={crop.whole ? "var(--ink)" : "var(--note)"}
                fontWeight={crop.whole ? 400 : 700}
                stroke="var(--second)"
                strokeWidth="5"
                paintOrder="stroke"
              >
                {crop.shape}
              </text>
            </g>
          );
        })}
        {(sketch.shadow as Points).length > 2 && (
          <text
            x={wide - 6}
            y={high - 8}
            textAnchor="end"
            fontSize={small}
            fontWeight="700"
            fill="var(--note)"
            stroke="var(--ground)"
            strokeWidth="5"
            paintOrder="stroke"
          >
            your shadow
          </text>
        )}
      </g>
      <rect
        x="1"
        y="1"
        width={wide - 2}
        height={high - 2}
        fill="none"
        stroke="var(--ink)"
        strokeWidth="1.8"
      />
    </svg>
  );
}

type Box = { x: number; y: number; width: number; height: number };

function Figure({ figure, sharp, ...at }: Box & { figure: Props["figure"]; sharp: boolean }) {
  const look = sharp
    ? { fill: "var(--ink)" }
    : { fill: "var(--ground)", stroke: "var(--note)", strokeWidth: 2, strokeDasharray: "3 3" };
  if (figure === "ground")
    return <rect {...at} fill="none" stroke="var(--ink)" strokeWidth="1.6" strokeDasharray="2 4" />;
  if (figure === "thing")
    return <rect {...at} rx={Math.min(at.width, at.height) * 0.3} {...look} fillOpacity={sharp ? 0.86 : 1} />;
  // A person: the head is an eighth of the height.
  const head = at.height / 8;
  const middle = at.x + at.width / 2;
  const top = at.y + head * 1.2;
  const half = at.width / 2;
  return (
    <g {...look}>
      <ellipse cx={middle} cy={at.y + head / 2} rx={head * 0.38} ry={head / 2} />
      <path
        d={`M${middle - half * 0.35} ${top}Q${middle - half} ${top} ${middle - half} ${top + head * 1.2}L${middle - half * 0.9} ${at.y + at.height * 0.55}L${middle - half * 0.62} ${at.y + at.height}H${middle + half * 0.62}L${middle + half * 0.9} ${at.y + at.height * 0.55}L${middle + half} ${top + head * 1.2}Q${middle + half} ${top} ${middle + half * 0.35} ${top}Z`}
      />
    </g>
  );
}
