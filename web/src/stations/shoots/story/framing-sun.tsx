// Sun and shadow of a framing, by its heading: typed, or turned on the dial.
import { useQuery } from "@tanstack/react-query";
import { useEffect, useState } from "react";
import { type FramingFacts, sunQuery } from "../../../api/story";
import type { Shoot } from "../../../api/types";
import { refusalWords } from "../../../changes/refusals";
import { SunRose } from "../../../instruments/sun-rose";
import { Loading } from "../../../parts/loading";
import { useTyped } from "../../../parts/typed";
import { clock } from "../../../parts/words";

const POINTS = [
  "N",
  "NNE",
  "NE",
  "ENE",
  "E",
  "ESE",
  "SE",
  "SSE",
  "S",
  "SSW",
  "SW",
  "WSW",
  "W",
  "WNW",
  "NW",
  "NNW",
];

/** A heading as people say it: SW, 225 or 225°. Null where it is none. */
function readHeading(text: string): number | null {
  const plain = text.trim().toUpperCase().replace(/°$/, "").trim();
  const point = POINTS.indexOf(plain);
  if (point >= 0) return 22.5 * point;
  const read = plain === "" ? Number.NaN : Number(plain.replace(",", "."));
  return read >= 0 && read <= 360 ? read % 360 : null;
}

function HeadingField({ value, keep }: { value: number | null; keep: (heading: number) => void }) {
  const shown = value === null ? "" : `${Number(value.toFixed(1))}° ${POINTS[Math.round(value / 22.5) % 16]}`;
  const can = (said: string) => said.trim() === "" || readHeading(said) !== null;
  const { typed, field } = useTyped(
    shown,
    (said) => {
      const read = readHeading(said);
      if (read !== null && read !== value) keep(read);
    },
    can,
  );
  const wrong = typed !== null && !can(typed);
  return (
    <label className="block text-fine text-muted">
      Heading of the camera
      <input
        className="field text-ink"
        placeholder="SW, or 225"
        autoComplete="off"
        aria-invalid={wrong}
        onFocus={(event) => event.target.select()}
        {...field}
      />
      {wrong && (
        <span role="alert" className="block text-note">
          Give a compass point such as SW, or degrees from 0 to 360.
        </span>
      )}
    </label>
  );
}

type SunProps = {
  told: FramingFacts;
  /** As it was said last. */
  heading: number | null;
  shoot: Shoot;
  turn: (heading: number) => void;
  known: boolean;
};

export function Sun({ told, heading, shoot, turn, known }: SunProps) {
  const [turned, setTurned] = useState<number | null>(null);
  // What was said last stands until the answer comes, so that the next step goes on from it.
  // biome-ignore lint/correctness/useExhaustiveDependencies: it is over when the heading changes
  useEffect(() => setTurned(null), [heading]);
  const say = (value: number) => {
    setTurned(value === heading ? null : value);
    if (value !== heading) turn(value);
  };
  const follows = [
    told.framing.heading_deg,
    told.framing.light,
    told.starts_at,
    told.view,
    told.camera,
    told.distance_m,
  ];
  const sun = useQuery({ ...sunQuery(told.key, follows), enabled: known && heading !== null });
  const field = <HeadingField value={heading} keep={say} />;
  if (!known)
    return (
      <>
        {field}
        <p className="pt-1 text-small text-muted">
          The sun and your shadow appear once the shoot says its day and where it is, under “The day”.
        </p>
      </>
    );
  if (heading === null)
    return (
      <>
        {field}
        <p className="pt-1 text-small text-muted">With a heading, sun and shadow are drawn here.</p>
      </>
    );
  const zone = shoot.zone ?? "UTC";
  return (
    <>
      {sun.data && (
        <SunRose
          sun={sun.data.sun}
          heading={turned ?? heading}
          field={told.sketch?.field_deg ?? 60}
          clock={(iso) => clock(iso, zone)}
          onTurn={(value, done) => {
            if (done) say(value);
            else setTurned(value);
          }}
        />
      )}
      {sun.isPending && <Loading what="Working out the sun." className="h-[280px] pt-4" />}
      {sun.error && <p className="pt-1 text-small text-note">{refusalWords(sun.error)}</p>}
      {sun.data && (
        <div className="pt-2 text-small leading-snug" role="status">
          {sun.data.lines.map((line) => (
            <p key={line}>{line}</p>
          ))}
          {sun.data.wish && <p className="pt-1 font-bold">{sun.data.wish}</p>}
          {sun.data.shadow && <p className="pt-1">{sun.data.shadow}</p>}
          {sun.data.harsh && <p className="pt-1">{sun.data.harsh}</p>}
        </div>
      )}
      <div className="pt-2">{field}</div>
    </>
  );
}
