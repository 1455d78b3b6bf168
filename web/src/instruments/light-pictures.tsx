// Pictures of one shot's light: colours by depth, lamps on the subject, pulses in an exposure, the account.
import type { Instruments } from "../api/types";
import { plainNumber, seconds, stops, withUnit } from "../parts/words";

const WIDTH = 308;
const HIGH = 590;

type Water = NonNullable<Instruments["water"]>;
type Lamps = NonNullable<Instruments["lamps"]>;
type Flicker = NonNullable<Instruments["flicker"]>;

const BANDS = [
  { id: "blue", dash: "2 4", width: 1.6 },
  { id: "green", dash: "8 4", width: 1.6 },
  { id: "red", dash: undefined, width: 2.4 },
] as const;

/** Depth downwards, stops lost to the left; each band has its own line, told apart without colour. */
export function DepthProfile({ water, filterNames }: { water: Water; filterNames: Record<string, string> }) {
  const deepest = water.depth_m.at(-1) ?? 10;
  const lost = 7;
  const [left, right, top, base] = [44, 214, 44, HIGH - 36];
  const x = (value: number) => right + (Math.max(-lost, Math.min(0, value)) / lost) * (right - left);
  const y = (depth: number) => top + (Math.min(deepest, depth) / deepest) * (base - top);
  const step = deepest > 40 ? 10 : deepest > 16 ? 5 : 2;
  const depths = Array.from({ length: Math.floor(deepest / step) + 1 }, (_, n) => n * step);
  const balancing = water.filters.filter((filter) => filter.depth_m);
  const [shallow, deep] = water.shot_m;
  return (
    <figure aria-label="Colours by depth" className="m-0">
      <svg
        viewBox={`0 0 ${WIDTH} ${HIGH}`}
        className="block w-full"
        role="img"
        aria-label={`${water.water}: red is down to a tenth at ${plainNumber(water.red_gone_m)} metres; the shot lies from ${shallow} to ${deep} metres`}
      >
        <text x="4" y="14" fontSize="12" fill="var(--muted)">
          stops of each colour lost, by depth
        </text>
        <path d={`M${left} ${top}H${right}`} stroke="var(--ink)" />
        {[0, -2, -4, -6].map((value) => (
          <g key={value}>
            <path d={`M${x(value)} ${top}V${base}`} stroke="var(--hair)" />
            <text x={x(value)} y={top - 7} textAnchor="middle" fontSize="12" fill="var(--ink)">
              {String(value).replace("-", "\u2212")}
            </text>
          </g>
        ))}
        <rect
          x={left}
          y={y(shallow)}
          width={right - left}
          height={Math.max(3, y(deep) - y(shallow))}
          fill="var(--mid)"
        />
        <text x={left + 4} y={y(shallow) - 5} fontSize="12" fontWeight="700" fill="var(--ink)">
          the shot, {shallow === deep ? "" : `${shallow} to `}
          {withUnit(deep, "m")}
        </text>
        {depths.map((depth) => (
          <g key={depth}>
            <path d={`M${left - 6} ${y(depth)}H${left}`} stroke="var(--ink)" />
            <text x={left - 10} y={y(depth) + 4} textAnchor="end" fontSize="12.5" fill="var(--ink)">
              {depth}
            </text>
          </g>
        ))}
        <text x={left - 10} y={base + 20} textAnchor="end" fontSize="12" fill="var(--muted)">
          m
        </text>
        <path d={`M${left} ${top}V${base}`} stroke="var(--ink)" />
        {BANDS.map((band, order) => {
          const values = water[band.id];
          const inside = values.findLastIndex((value) => value > -lost);
          const tip = Math.max(0, inside - 1 - order * 3);
          return (
            <g key={band.id}>
              <path
                d={values
                  .slice(0, inside + 1)
                  .map(
                    (value, n) =>
                      `${n ? "L" : "M"}${x(value).toFixed(1)} ${y(water.depth_m[n] ?? 0).toFixed(1)}`,
                  )
                  .join("")}
                fill="none"
                stroke="var(--ink)"
                strokeWidth={band.width}
                strokeDasharray={band.dash}
              />
              <text
                x={x(values[tip] ?? 0) + 6}
                y={y(water.depth_m[tip] ?? 0) + 4}
                fontSize="12.5"
                fontStyle="italic"
                fontFamily="var(--font-serif)"
                fill="var(--ink)"
                stroke="var(--ground)"
                strokeWidth="4"
                paintOrder="stroke"
              >
                {band.id}
              </text>
            </g>
          );
        })}
        {water.red_gone_m < deepest && (
          <g>
            <path
              d={`M${left} ${y(water.red_gone_m)}H${right}`}
              stroke="var(--note)"
              strokeDasharray="5 3"
              strokeWidth="1.4"
            />
            <text
              x={left + 4}
              y={y(water.red_gone_m) + 14}
              fontSize="12"
              fontWeight="700"
              fill="var(--note)"
              stroke="var(--ground)"
              strokeWidth="4"
              paintOrder="stroke"
            >
              red gone, {withUnit(Math.round(water.red_gone_m * 10) / 10, "m")}
            </text>
          </g>
        )}
        {balancing.map((filter, n) => {
          const [from, to] = filter.depth_m ?? [0, 0];
          const at = right + 18 + n * 22;
          return (
            <g key={filter.id}>
              <path
                d={`M${at - 4} ${y(from)}h8m-4 0V${y(to)}m-4 0h8`}
                stroke="var(--ink)"
                strokeWidth="1.8"
              />
              <text
                transform={`translate(${at + 4} ${Math.max(top + 4, (y(from) + y(Math.min(to, deepest))) / 2 - 26)}) rotate(90)`}
                fontSize="12"
                fill="var(--ink)"
                stroke="var(--ground)"
                strokeWidth="4"
                paintOrder="stroke"
              >
                {filterNames[filter.id] ?? "no filter"}
              </text>
            </g>
          );
        })}
        <text x={right + 8} y={top - 22} fontSize="12" fill="var(--muted)">
          balances from, to
        </text>
        {water.lamp_reach_m !== null && (
          <text x={left} y={HIGH - 6} fontSize="12" fill="var(--ink)">
            lamps at {withUnit(water.lamps_at_m ?? 0, "m")}, in colour to{" "}
            {withUnit(Math.round(water.lamp_reach_m * 10) / 10, "m")}
          </text>
        )}
      </svg>
    </figure>
  );
}

/** From above, to scale: the subject, each lamp at its distance, and dashed where it would have to stand. */
export function LampPlan({ lamps }: { lamps: Lamps }) {
  const reaches = lamps.lamps.flatMap((lamp) => [lamp.distance_m, lamp.distance_wanted_m ?? 0]);
  const farthest = Math.max(0.3, ...reaches);
  const [cx, cy, radius] = [154, 292, 232];
  const scale = radius / farthest;
  const count = lamps.lamps.length;
  const angle = (n: number) => ((-90 + (n - (count - 1) / 2) * Math.min(50, 130 / count)) * Math.PI) / 180;
  const place = (n: number, distance: number) =>
    [cx + Math.cos(angle(n)) * distance * scale, cy + Math.sin(angle(n)) * distance * scale] as const;
  const ring = [0.25, 0.5, 1, 2, 5, 10].filter((metres) => metres <= farthest * 1.02).slice(-3);
  const missing = lamps.missing_stops;
  return (
    <figure aria-label="Lamps from above" className="m-0">
      <svg
        viewBox={`0 0 ${WIDTH} 324`}
        className="block w-full"
        role="img"
        aria-label="Lamps about the subject, to scale"
      >
        <text x="4" y="14" fontSize="12" fill="var(--muted)">
          from above, to scale
        </text>
        {ring.map((metres) => (
          <g key={metres}>
            <circle cx={cx} cy={cy} r={metres * scale} fill="none" stroke="var(--hair)" />
            <text x={cx} y={cy - metres * scale - 3} textAnchor="middle" fontSize="12" fill="var(--muted)">
              {withUnit(metres, "m")}
            </text>
          </g>
        ))}
        <rect x={cx - 6} y={cy - 6} width="12" height="12" fill="var(--ink)" />
        <text x={cx} y={cy + 24} textAnchor="middle" fontSize="12" fill="var(--muted)">
          subject
        </text>
        {lamps.lamps.map((lamp, n) => {
          const [x, y] = place(n, lamp.distance_m);
          const wanted = lamp.distance_wanted_m === null ? null : place(n, lamp.distance_wanted_m);
          return (
            <g key={n}>
              <path d={`M${cx} ${cy}L${x} ${y}`} stroke="var(--muted)" strokeWidth="0.8" />
              {wanted && (
                <circle
                  cx={wanted[0]}
                  cy={wanted[1]}
                  r="9"
                  fill="none"
                  stroke="var(--note)"
                  strokeDasharray="3 3"
                  strokeWidth="1.6"
                />
              )}
              <circle
                cx={x}
                cy={y}
                r="10"
                fill={lamp.off_colour ? "var(--ground)" : "var(--deep)"}
                stroke="var(--ink)"
                strokeWidth="1.6"
              />
              <text x={x} y={y + 4} textAnchor="middle" fontSize="12" fontWeight="700" fill="var(--ink)">
                {n + 1}
              </text>
            </g>
          );
        })}
      </svg>
      <table className="w-full text-fine">
        <thead>
          <tr className="border-ink border-b text-left text-muted [&>th]:font-normal">
            <th>lamp</th>
            <th className="text-right">lx</th>
            <th className="text-right">under key</th>
            <th className="text-right">K</th>
            <th className="text-right">better at</th>
          </tr>
        </thead>
        <tbody>
          {lamps.lamps.map((lamp, n) => (
            <tr key={n} className="border-hair border-b [&>td]:py-1">
              <td>
                <b>{n + 1}</b> {lamp.below_key_stops === 0 ? "key" : ""}
              </td>
              <td className="text-right">{Math.round(lamp.lux)}</td>
              <td className="text-right">
                {lamp.below_key_stops ? `${stops(lamp.below_key_stops)} st` : "·"}
              </td>
              <td className="text-right">
                {lamp.kelvin}
                {lamp.off_colour ? " off" : ""}
              </td>
              <td className="text-right">{wantedWords(lamp)}</td>
            </tr>
          ))}
        </tbody>
      </table>
      <p className="pt-2 text-fine leading-[1.45]">
        {lamps.key_to_fill_stops !== null && <>Key to fill {stops(lamps.key_to_fill_stops)} stops. </>}
        {missing !== null &&
          (missing > 0.05 ? (
            <b className="text-note">
              {stops(missing)} stops more light would let this exposure hold at base ISO.
            </b>
          ) : missing < -0.05 ? (
            <>{stops(-missing)} stops more than this exposure needs.</>
          ) : (
            <>Just what this exposure needs.</>
          ))}
        {lamps.lamps.some((lamp) => lamp.off_colour) &&
          " A lamp marked off is visibly another colour than the key."}
      </p>
    </figure>
  );
}

/** Where a lamp would have to stand, or how far it would have to be turned. */
function wantedWords(lamp: Lamps["lamps"][number]): string {
  if (lamp.distance_wanted_m === null) return "\u00b7";
  const distance = withUnit(Number(lamp.distance_wanted_m.toPrecision(2)), "m");
  if (lamp.output_wanted === null) return distance;
  return `${distance} or ${Math.round(lamp.output_wanted * 100)}\u202f%`;
}

/** What each exposure leaves of the pulses, and the bands of a rolling shutter. */
export function Pulses({ flicker, shutter }: { flicker: Flicker; shutter: number | null }) {
  const most = Math.max(0.2, ...flicker.exposures.map((exposure) => exposure.left_stops));
  const bands = flicker.height_px / flicker.rows_per_band;
  return (
    <figure aria-label="Lamp pulses" className="m-0 text-fine">
      <p className="pb-2 text-fine text-muted">
        stops of flicker left by each exposure, {flicker.mains_hz}
        {"\u202f"}Hz mains, ripple {Math.round(flicker.ripple * 100)}
        {"\u202f"}%
      </p>
      <ul>
        {flicker.exposures.map((exposure) => {
          const used = shutter !== null && Math.abs(exposure.shutter_s / shutter - 1) < 0.01;
          return (
            <li
              key={exposure.shutter_s}
              className={`flex items-center gap-2 py-[3px] ${used ? "font-bold" : ""}`}
            >
              <span className="w-[64px] text-right">{seconds(exposure.shutter_s)}</span>
              <span
                className={`h-[9px] ${used ? "bg-ink" : "bg-deep"}`}
                style={{ width: Math.max(exposure.clean ? 0 : 1, (exposure.left_stops / most) * 130) }}
              />
              <span>{exposure.clean ? "clean" : exposure.left_stops.toFixed(2)}</span>
              {used && <span className="text-muted">in use</span>}
            </li>
          );
        })}
      </ul>
      <p className="pt-3 pb-1 text-muted">
        {bands < 1
          ? "The frame is read within one pulse: it pulses as a whole."
          : `${plainNumber(Math.round(bands * 10) / 10)} bands over the frame, drifting at ${plainNumber(Math.round(flicker.beat_hz * 10) / 10)} Hz`}
      </p>
      <svg
        viewBox="0 0 160 90"
        className="block w-[200px] border border-rule"
        role="img"
        aria-label="Bands over the frame"
      >
        {Array.from({ length: 60 }, (_, row) => (
          <rect
            key={row}
            x="0"
            y={row * 1.5}
            width="160"
            height="1.6"
            fill="var(--deep)"
            fillOpacity={0.15 + 0.75 * (0.5 + 0.5 * Math.sin((2 * Math.PI * bands * row) / 60))}
          />
        ))}
      </svg>
    </figure>
  );
}

/** What each step brought or took, in stops. */
export function LightAccount({ steps }: { steps: Instruments["steps"] }) {
  const sum = (end: 0 | 1) => steps.reduce((total, step) => total + step.stops[end], 0);
  const signed = (value: number, first: boolean) =>
    first ? stops(value) : `${value >= 0.05 ? "+" : ""}${stops(value)}`;
  return (
    <figure aria-label="Account of the light" className="m-0">
      <table className="w-full text-small">
        <caption className="pb-2 text-left text-fine text-muted">what the light comes to, in stops</caption>
        <thead>
          <tr className="border-ink border-b text-muted [&>th]:font-normal">
            <th className="text-left">step</th>
            <th className="w-[58px] text-right">dim</th>
            <th className="w-[58px] text-right">bright</th>
          </tr>
        </thead>
        <tbody>
          {steps.map((step, n) => (
            <tr key={step.name + n} className="border-hair border-b [&>td]:py-[6px]">
              <td>{step.name}</td>
              <td className="text-right">{signed(step.stops[0], n === 0)}</td>
              <td className="text-right">{signed(step.stops[1], n === 0)}</td>
            </tr>
          ))}
          <tr className="border-ink border-t font-bold [&>td]:py-[6px]">
            <td>EV at ISO 100</td>
            <td className="text-right">{stops(sum(0))}</td>
            <td className="text-right">{stops(sum(1))}</td>
          </tr>
        </tbody>
      </table>
    </figure>
  );
}
