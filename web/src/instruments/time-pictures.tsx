// Time bent: slow motion by rate, and interval films with their exposure through the night.
import type { Outlook } from "../api/types";
import { seconds, stops, withUnit } from "../parts/words";
import { Fact } from "./frame-picture";

type Slow = NonNullable<Outlook["slow"]>;
type Lapse = NonNullable<Outlook["lapse"]>;

const WIDTH = 308;

export function SlowMotion({ slow, rate }: { slow: Slow; rate: number }) {
  return (
    <figure aria-label="Slow motion" className="m-0">
      <p className="text-fine text-muted">
        {withUnit(rate, "fps")} slowed {slow.asked_factor}× on a {withUnit(slow.timeline_fps, "fps")}{" "}
        timeline:
      </p>
      <Frames steps={slow.chosen.steps} />
      <p className={`pb-2 text-small ${slow.chosen.even ? "" : "font-bold text-note"}`}>{slow.chosen.text}</p>
      <table className="w-full border-collapse text-small">
        <thead>
          <tr className="border-ink border-b text-right text-fine text-muted [&>th]:pb-1 [&>th]:font-normal">
            <th className="text-left">fps</th>
            <th>slowed</th>
            {slow.rates.some((entry) => entry.event_on_screen_s !== null) && <th>on screen</th>}
            <th>light</th>
            <th className="pl-3 text-left">at normal speed</th>
          </tr>
        </thead>
        <tbody>
          {slow.rates.map((entry) => (
            <tr
              key={entry.capture_fps}
              className={`border-hair border-b text-right align-baseline [&>td]:py-[4px] ${entry.capture_fps === rate ? "bg-second font-bold" : ""}`}
            >
              <td className="text-left">{entry.capture_fps}</td>
              <td>{Number(entry.factor.toFixed(2))}×</td>
              {entry.event_on_screen_s !== null && (
                <td>{withUnit(Number(entry.event_on_screen_s.toFixed(2)), "s")}</td>
              )}
              <td>{entry.light_lost_stops < 0.05 ? "0" : stops(-entry.light_lost_stops)}</td>
              <td className="pl-3 text-left text-fine">{entry.cadence.even ? "even" : "judders"}</td>
            </tr>
          ))}
        </tbody>
      </table>
      <p className="pt-2 text-fine text-muted">
        Slowed: with every frame shown once. Light: stops against the timeline’s rate, with the shutter
        following the rate.
      </p>
    </figure>
  );
}

/** Which captured frames are shown: filled boxes are shown, a doubled rim is shown again. */
function Frames({ steps }: { steps: readonly number[] }) {
  const shown: number[] = [];
  let at = 0;
  for (let n = 0; n < 12; n += 1) {
    shown.push(at);
    at += steps[n % steps.length] ?? 1;
  }
  const last = Math.max(...shown, 1);
  const wide = Math.min(22, (WIDTH - 8) / (last + 1));
  return (
    <svg viewBox={`0 0 ${WIDTH} 34`} className="block w-full" aria-hidden="true">
      {Array.from({ length: last + 1 }, (_, frame) => {
        const times = shown.filter((entry) => entry === frame).length;
        return (
          <g key={frame} transform={`translate(${4 + frame * wide} 6)`}>
            <rect
              width={Math.max(1.5, wide - 2)}
              height="18"
              fill={times ? "var(--mid)" : "none"}
              stroke="var(--ink)"
              strokeWidth={times > 1 ? 2.4 : 0.7}
            />
            {times > 1 && wide > 12 && (
              <text
                x={wide / 2 - 1}
                y="13"
                textAnchor="middle"
                fontSize="12"
                fontWeight="700"
                fill="var(--ink)"
              >
                {times}
              </text>
            )}
          </g>
        );
      })}
    </svg>
  );
}

const long = (value: number) => {
  const minutes = Math.round(value / 60);
  if (minutes < 1) return withUnit(Math.round(value), "s");
  const [h, m] = [Math.floor(minutes / 60), minutes % 60];
  return [h > 0 && withUnit(h, "h"), m > 0 && withUnit(m, "min")].filter(Boolean).join(" ");
};

export function IntervalFilmPicture({
  lapse,
  zoneClock,
}: {
  lapse: Lapse;
  zoneClock: ((s: number) => string) | null;
}) {
  const open = lapse.shutter_s ?? 0;
  const free = Math.max(0, lapse.interval_s - open - lapse.write_s);
  const part = (value: number) => (value / lapse.interval_s) * (WIDTH - 8);
  const short = lapse.needed_wh > lapse.available_wh;
  return (
    <figure aria-label="Interval film" className="m-0">
      <p className="pb-1 text-fine text-muted">one interval of {withUnit(lapse.interval_s, "s")}</p>
      <svg
        viewBox={`0 0 ${WIDTH} 44`}
        className="block w-full"
        role="img"
        aria-label={`In an interval of ${lapse.interval_s} seconds the shutter is open for ${open} and writing takes ${lapse.write_s}`}
      >
        <rect x="4" y="4" width={Math.max(1, part(open))} height="20" fill="var(--mid)" stroke="var(--ink)" />
        <rect
          x={4 + part(open)}
          y="4"
          width={part(lapse.write_s)}
          height="20"
          fill="var(--deep)"
          stroke="var(--ink)"
        />
        <rect
          x={4 + part(open + lapse.write_s)}
          y="4"
          width={Math.max(0, part(free))}
          height="20"
          fill="none"
          stroke="var(--ink)"
        />
        <text x="4" y="38" fontSize="12" fill="var(--ink)">
          open {lapse.shutter_s === null ? "automatic" : seconds(open)}
        </text>
        <text x={WIDTH - 4} y="38" textAnchor="end" fontSize="12" fill="var(--ink)">
          writing {withUnit(lapse.write_s, "s")}, {withUnit(Number(free.toFixed(1)), "s")} to spare
        </text>
      </svg>
      <dl className="px-1 text-small">
        <Fact name="filmed" says={long(lapse.duration_s)} />
        <Fact name="frames" says={String(lapse.frames)} />
        <Fact
          name="on the screen"
          says={`${withUnit(Number(lapse.screen_s.toFixed(1)), "s")} at ${withUnit(lapse.timeline_fps, "fps")}`}
        />
        <Fact name="recorded" says={withUnit(Number(lapse.recorded_gb.toFixed(1)), "GB")} />
        <Fact
          name="drawn"
          says={`${withUnit(Number(lapse.needed_wh.toFixed(1)), "Wh")} of ${withUnit(Number(lapse.available_wh.toFixed(1)), "Wh")}${short ? ": feed it from outside" : ""}`}
        />
        {lapse.star_drift_px !== null && (
          <Fact
            name="stars move"
            says={`${withUnit(Number(lapse.star_drift_px.toFixed(1)), "px")} in a frame`}
          />
        )}
      </dl>
      {lapse.course.length > 1 && <Course lapse={lapse} zoneClock={zoneClock} />}
    </figure>
  );
}

/** The light and the exposure that follows it; where it cannot follow, hatched. */
function Course({ lapse, zoneClock }: { lapse: Lapse; zoneClock: ((s: number) => string) | null }) {
  const points = lapse.course;
  const last = points.at(-1)?.seconds ?? 1;
  const [left, right, top, base] = [34, WIDTH - 6, 16, 128];
  const x = (s: number) => left + (s / last) * (right - left);
  const evs = points.map((point) => point.ev100);
  const [low, high] = [Math.floor(Math.min(...evs)) - 1, Math.ceil(Math.max(...evs)) + 1];
  const y = (ev: number) => base - ((ev - low) / (high - low)) * (base - top);
  const path = (of: (point: (typeof points)[number]) => number) =>
    points
      .map((point, n) => `${n ? "L" : "M"}${x(point.seconds).toFixed(1)} ${of(point).toFixed(1)}`)
      .join("");
  const wrong = points.filter((point) => point.over_stops > 0.3 || point.under_stops > 0.3);
  // Where the exposure stops lengthening or the gain begins to rise: what one has to know beforehand.
  const changes = points.filter((point, n) => {
    const before = points[n - 1];
    return before !== undefined && (before.iso === points[0]?.iso) !== (point.iso === points[0]?.iso);
  });
  const at = (s: number) => (zoneClock ? zoneClock(s) : long(s));
  const first = points[0];
  const end = points.at(-1);
  return (
    <>
      <p className="pt-3 text-fine text-muted">the light, and the exposure that follows it</p>
      <svg
        viewBox={`0 0 ${WIDTH} 156`}
        className="block w-full"
        role="img"
        aria-label={`From EV ${stops(first?.ev100 ?? 0)} to EV ${stops(end?.ev100 ?? 0)}; exposure from ${seconds(first?.shutter_s ?? 1)} ISO ${first?.iso} to ${seconds(end?.shutter_s ?? 1)} ISO ${end?.iso}`}
      >
        <defs>
          <pattern
            id="wrong-light"
            width="6"
            height="6"
            patternUnits="userSpaceOnUse"
            patternTransform="rotate(45)"
          >
            <path d="M0 0V6" stroke="var(--note)" strokeWidth="1.6" />
          </pattern>
        </defs>
        {[low + 1, Math.round((low + high) / 2), high - 1].map((ev) => (
          <g key={ev}>
            <path d={`M${left} ${y(ev)}H${right}`} stroke="var(--hair)" />
            <text x={left - 5} y={y(ev) + 4} textAnchor="end" fontSize="12" fill="var(--ink)">
              {String(ev).replace("-", "\u2212")}
            </text>
          </g>
        ))}
        <path
          d={`${path((point) => y(point.ev100))}L${right} ${base}L${left} ${base}Z`}
          fill="var(--shoal)"
        />
        {wrong.map((point) => (
          <rect
            key={point.seconds}
            x={x(point.seconds) - (right - left) / points.length / 2}
            y={top}
            width={(right - left) / points.length + 0.5}
            height={base - top}
            fill="url(#wrong-light)"
          />
        ))}
        <path d={path((point) => y(point.ev100))} fill="none" stroke="var(--ink)" strokeWidth="1.6" />
        <path d={`M${left} ${base}H${right}`} stroke="var(--ink)" />
        {[0, last / 2, last].map((s) => (
          <text
            key={s}
            x={x(s)}
            y={base + 15}
            textAnchor={s === 0 ? "start" : s === last ? "end" : "middle"}
            fontSize="12"
            fill="var(--ink)"
          >
            {at(s)}
          </text>
        ))}
      </svg>
      <dl className="px-1 text-small">
        {[first, ...changes.slice(0, 2), end].map(
          (point) =>
            point && (
              <Fact
                key={point.seconds}
                name={`${at(point.seconds)}, EV ${stops(point.ev100)}`}
                says={`${seconds(point.shutter_s)}, ISO ${point.iso}${point.over_stops > 0.05 ? `, ${stops(point.over_stops)} over` : ""}${point.under_stops > 0.05 ? `, ${stops(point.under_stops)} under` : ""}`}
              />
            ),
        )}
      </dl>
    </>
  );
}
