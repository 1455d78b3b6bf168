// A place as a small drawing: how light it is there, and what lights it. For people who do not think in EV.
type Props = { place: string; lit: number };

type Part =
  | "sun"
  | "low_sun"
  | "cloud"
  | "grey"
  | "tree"
  | "window"
  | "lamp"
  | "lantern"
  | "fire"
  | "moon"
  | "stars"
  | "beam"
  | "mast"
  | "waves"
  | "snow"
  | "shops"
  | "car";

const PARTS: Record<string, Part[]> = {
  snow_or_sand_in_sun: ["sun", "snow"],
  full_sun: ["sun"],
  open_shade: ["sun", "tree"],
  bright_cloud: ["sun", "cloud"],
  dull_day: ["grey"],
  sunset: ["low_sun"],
  blue_hour: ["window", "stars"],
  car_by_day: ["sun", "car"],
  floodlit_pitch: ["mast"],
  stage: ["beam"],
  pool_hall: ["waves", "window"],
  bright_shop_street: ["shops"],
  lamp_lit_road: ["lamp"],
  lane_between_lamps: ["lamp", "stars"],
  lantern_lit_yard: ["lantern"],
  office: ["window"],
  room_in_the_evening: ["lantern", "window"],
  workshop: ["mast", "window"],
  fire_lit: ["fire"],
  full_moon: ["moon"],
  starlight: ["stars"],
};

const [WIDE, HIGH, GROUND] = [112, 63, 46];
const STARS = [
  [14, 9],
  [31, 19],
  [47, 7],
  [60, 22],
  [79, 12],
  [97, 6],
  [88, 27],
  [22, 31],
] as const;

export function PlacePicture({ place, lit }: Props) {
  const parts = PARTS[place] ?? [];
  const bright = lit > 0.5;
  const ink = "var(--ink)";
  return (
    <svg viewBox={`0 0 ${WIDE} ${HIGH}`} className="block w-full" aria-hidden="true">
      <rect width={WIDE} height={HIGH} fill={bright ? "var(--shoal)" : "var(--mid)"} />
      <rect width={WIDE} height={HIGH} fill={ink} opacity={Math.max(0, 0.62 - lit * 0.72)} />
      <path
        d={`M0 ${GROUND}H${WIDE}V${HIGH}H0Z`}
        fill={parts.includes("snow") ? "var(--ground)" : "var(--second)"}
        opacity={0.35 + 0.6 * lit}
      />
      <path d={`M0 ${GROUND}H${WIDE}`} stroke={ink} />
      {parts.map((part) => (
        <g key={part} stroke={ink} strokeWidth="1.3" fill="none" strokeLinecap="round">
          {DRAWN[part]}
        </g>
      ))}
      <rect
        x="0.75"
        y="0.75"
        width={WIDE - 1.5}
        height={HIGH - 1.5}
        fill="none"
        stroke={ink}
        strokeWidth="1.5"
      />
    </svg>
  );
}

const LIGHT = { fill: "var(--ground)", stroke: "var(--sun)", strokeWidth: 2 };

const DRAWN: Record<Part, React.ReactNode> = {
  sun: <circle cx="86" cy="16" r="7.5" {...LIGHT} />,
  low_sun: <path d={`M44 ${GROUND}a12 12 0 0 1 24 0Z`} {...LIGHT} />,
  cloud: <path d="M62 28q-2 -9 8 -9q3 -9 13 -6q9 -2 10 6q8 1 6 9Z" fill="var(--ground)" />,
  grey: <path d="M8 14H104M16 21H96M6 28H88" strokeWidth="3" opacity="0.55" />,
  tree: (
    <path
      d={`M26 ${GROUND}V30M26 30q-20 0 -16 -14q4 -12 16 -10q16 -1 15 12q0 12 -15 12Z`}
      fill="var(--deep)"
    />
  ),
  window: <path d="M14 16h26v22h-26ZM27 16v22M14 27h26" fill="var(--ground)" />,
  lamp: (
    <>
      <path d={`M76 ${GROUND}V14q0 -6 -8 -6`} />
      <circle cx="66" cy="11" r="4.5" {...LIGHT} />
      <path d={`M66 16L54 ${GROUND}M66 16L78 ${GROUND}`} stroke="var(--sun)" strokeDasharray="2 3" />
    </>
  ),
  lantern: (
    <>
      <path d="M72 0V14" />
      <path d="M66 14h12l3 12h-18Z" {...LIGHT} />
    </>
  ),
  fire: <path d={`M56 ${GROUND}q-12 -9 -2 -20q1 7 5 8q-2 -12 7 -17q-1 9 6 15q4 9 -6 14Z`} {...LIGHT} />,
  moon: <circle cx="84" cy="15" r="8" fill="var(--ground)" />,
  stars: (
    <g stroke="var(--ground)" strokeWidth="2.2">
      {STARS.map(([x, y]) => (
        <path key={x} d={`M${x} ${y}h0.01`} />
      ))}
    </g>
  ),
  beam: (
    <>
      <path d={`M30 2L44 ${GROUND}H76L40 2Z`} fill="var(--ground)" opacity="0.75" stroke="none" />
      <path d={`M60 ${GROUND}v-14m0 -6v0.01`} strokeWidth="5" />
    </>
  ),
  mast: (
    <>
      <path d={`M84 ${GROUND}V12`} />
      <path d="M74 6h20v7h-20Z" {...LIGHT} />
    </>
  ),
  waves: <path d="M4 53q7 -5 14 0t14 0t14 0t14 0t14 0t14 0t14 0" strokeWidth="2" />,
  snow: <path d={`M0 ${GROUND}q30 -16 58 -4q28 -18 54 0`} fill="var(--ground)" />,
  shops: (
    <g {...LIGHT}>
      <path d={`M10 ${GROUND}V24h22V${GROUND}M42 ${GROUND}V18h24V${GROUND}M78 ${GROUND}V26h22V${GROUND}`} />
    </g>
  ),
  car: <path d="M6 63L20 12H92L106 63M20 12L14 34H98" fill="none" strokeWidth="3" />,
};
