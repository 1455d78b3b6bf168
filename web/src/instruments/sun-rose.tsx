// The sun and one's own shadow about a camera's heading: our own dial, the heading always up, the hours along the rim. It can
// be turned by dragging its rim, or with the arrow keys.
import { type PointerEvent, useRef } from "react";
import type { SunText } from "../api/story";

const [SIZE, R, LOW] = [300, 112, 44];
const MIDDLE = SIZE / 2;

type Props = {
  sun: SunText["sun"];
  heading: number;
  field: number;
  clock: (iso: string) => string;
  /** done: whether the hand was taken off. */
  onTurn: (heading: number, done: boolean) => void;
};

const POINTS = ["N", "NE", "E", "SE", "S", "SW", "W", "NW"];

/** Where a bearing stands: north is up; what stands high is drawn nearer to the middle. */
function at(bearing: number, r: number): [number, number] {
  const turned = (bearing * Math.PI) / 180;
  return [MIDDLE + r * Math.sin(turned), MIDDLE - r * Math.cos(turned)];
}

const out = (altitude: number) => LOW + (R - LOW) * (1 - Math.min(90, Math.max(0, altitude)) / 90);

export function SunRose({ sun, heading, field, clock, onTurn }: Props) {
  const drawn = useRef<HTMLDivElement>(null);
  const half = Math.min(85, field / 2);
  const [a, b] = [at(heading - half, R), at(heading + half, R)];
  const path = sun.path.map((point) => at(point.azimuth_deg, out(point.altitude_deg)));
  const hours = sun.path.filter((point) => clock(point.at).endsWith(":00"));
  const now = sun.now;
  const shadow = now && now.shadow.length_m !== null ? now.shadow : null;
  const turn = (event: PointerEvent, done: boolean) => {
    const box = drawn.current?.getBoundingClientRect();
    if (!box) return;
    const [dx, dy] = [event.clientX - box.left - box.width / 2, event.clientY - box.top - box.height / 2];
    onTurn(Math.round(((Math.atan2(dx, -dy) * 180) / Math.PI + 360) % 360) % 360, done);
  };
  const shadowLong = shadow ? Math.min(R, 16 * (shadow.length_m ?? 0)) : 0;
  const tip = shadow ? at(shadow.heading_deg, Math.max(14, shadowLong)) : null;
  return (
    <div
      ref={drawn}
      className="mx-auto max-w-[264px] touch-none"
      role="slider"
      tabIndex={0}
      aria-label="Turn the camera"
      aria-valuemin={0}
      aria-valuemax={359}
      aria-valuenow={Math.round(heading)}
      aria-valuetext={`${Math.round(heading)} degrees`}
      onKeyDown={(event) => {
        const by = { ArrowLeft: -5, ArrowDown: -5, ArrowRight: 5, ArrowUp: 5 }[event.key];
        if (by === undefined) return;
        event.preventDefault();
        onTurn((heading + (event.shiftKey ? Math.sign(by) : by) + 360) % 360, true);
      }}
      onPointerDown={(event) => {
        drawn.current?.setPointerCapture(event.pointerId);
        turn(event, false);
      }}
      onPointerMove={(event) => event.buttons === 1 && turn(event, false)}
      onPointerUp={(event) => turn(event, true)}
    >
      <svg viewBox={`0 0 ${SIZE} ${SIZE}`} className="block w-full" aria-hidden="true">
        <circle cx={MIDDLE} cy={MIDDLE} r={R} fill="none" stroke="var(--rule)" strokeWidth="1.2" />
        {POINTS.map((name, n) => {
          const [x, y] = at(45 * n, R + 17);
          const [x0, y0] = at(45 * n, R);
          const [x1, y1] = at(45 * n, R + (n % 2 ? 4 : 7));
          return (
            <g key={name}>
              <path d={`M${x0} ${y0}L${x1} ${y1}`} stroke="var(--ink)" />
              <text
                x={x}
                y={y + 4.5}
                textAnchor="middle"
                fontSize="12.5"
                fill={n % 2 ? "var(--muted)" : "var(--ink)"}
              >
                {name}
              </text>
            </g>
          );
        })}
        <path
          d={`M${MIDDLE} ${MIDDLE}L${a[0]} ${a[1]}A${R} ${R} 0 0 1 ${b[0]} ${b[1]}Z`}
          fill="var(--shoal)"
          stroke="var(--ink)"
          strokeWidth="1.4"
        />
        {path.length > 1 && (
          <path
            d={path.map(([x, y], n) => `${n ? "L" : "M"}${x} ${y}`).join("")}
            fill="none"
            stroke="var(--sun)"
            strokeWidth="1.6"
            strokeDasharray="1 4"
            strokeLinecap="round"
          />
        )}
        {hours.map((point) => {
          const [x, y] = at(point.azimuth_deg, out(point.altitude_deg));
          return (
            <g key={point.at}>
              <circle cx={x} cy={y} r="2" fill="var(--sun)" />
              {Number(clock(point.at).slice(0, 2)) % 2 === 0 && (
                <text
                  x={at(point.azimuth_deg, out(point.altitude_deg) - 13)[0]}
                  y={at(point.azimuth_deg, out(point.altitude_deg) - 13)[1] + 4}
                  textAnchor="middle"
                  fontSize="11.5"
                  fill="var(--muted)"
                  stroke="var(--ground)"
                  strokeWidth="3.5"
                  paintOrder="stroke"
                >
                  {Number(clock(point.at).slice(0, 2))}
                </text>
              )}
            </g>
          );
        })}
        {tip && (
          <path
            d={`M${MIDDLE} ${MIDDLE}L${tip[0]} ${tip[1]}`}
            stroke={shadow?.from_m != null ? "var(--note)" : "var(--muted)"}
            strokeWidth="6"
          />
        )}
        <text
          x={at(heading, R * 0.8)[0]}
          y={at(heading, R * 0.8)[1] + 4}
          textAnchor="middle"
          fontSize="12.5"
          fontWeight="700"
          fill="var(--ink)"
          stroke="var(--shoal)"
          strokeWidth="4"
          paintOrder="stroke"
        >
          frame
        </text>
        <circle cx={MIDDLE} cy={MIDDLE} r="4.5" fill="var(--ink)" />
        {now && now.sun.altitude_deg > 0 && (
          <g>
            <circle
              cx={at(now.sun.azimuth_deg, out(now.sun.altitude_deg))[0]}
              cy={at(now.sun.azimuth_deg, out(now.sun.altitude_deg))[1]}
              r="8.5"
              fill="var(--ground)"
              stroke="var(--sun)"
              strokeWidth="3"
            />
          </g>
        )}
      </svg>
    </div>
  );
}
