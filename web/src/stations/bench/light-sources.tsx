// Where light can come from besides typing: the meter on the table, a track, a dive profile.
import { useMutation } from "@tanstack/react-query";
import { useId, useRef } from "react";
import { benchApi } from "../../api/bench";
import { Problem } from "../../api/http";
import type { Brief } from "../../api/types";
import { leftOutWords, plainNumber, withUnit } from "../../parts/words";
import type { Change } from "./editors";

type Lux = [number, number];

/** Asks the meter. The first reading sets the band, further ones widen it. */
export function TakeReading({ lux, onLux }: { lux: Lux | null; onLux: (lux: Lux) => void }) {
  const taken = useRef(false);
  const take = useMutation({
    mutationFn: benchApi.takeReading,
    onSuccess: (reading) => {
      const now = Math.round(reading.lux * 100) / 100;
      onLux(taken.current && lux ? [Math.min(lux[0], now), Math.max(lux[1], now)] : [now, now]);
      taken.current = true;
    },
  });
  return (
    <div className="text-small">
      <button type="button" className="plain" disabled={take.isPending} onClick={() => take.mutate()}>
        {take.isPending ? "Asking the meter" : taken.current ? "Take another reading" : "Take a reading"}
      </button>
      {take.data && (
        <p role="status" className="pt-1">
          <b>{withUnit(Math.round(take.data.lux), "lx")}</b> from the {take.data.device}. Another one, of the
          dimmest or the brightest part, widens the band.
        </p>
      )}
      {take.error && (
        <p role="alert" className="pt-1 text-note">
          {take.error.message}
        </p>
      )}
    </div>
  );
}

function FileChoice({ says, accept, read }: { says: string; accept: string; read: (file: File) => void }) {
  const id = useId();
  return (
    <p className="text-small">
      <label htmlFor={id} className="plain inline-block cursor-pointer">
        {says}
      </label>
      <input
        id={id}
        type="file"
        accept={accept}
        className="sr-only"
        onChange={(event) => {
          const file = event.target.files?.[0];
          if (file) read(file);
          event.target.value = "";
        }}
      />
    </p>
  );
}

function Refused({ error }: { error: Error }) {
  const faults = error instanceof Problem ? error.faults : [];
  return (
    <p role="alert" className="text-small text-note">
      {faults.length > 0
        ? faults.map((fault) => `${fault.where} ${fault.what}. ${fault.mend}`).join(" ")
        : error.message}
    </p>
  );
}

const MOST_BYTES = 1_000_000;

function small(file: File): File {
  if (file.size > MOST_BYTES) throw new Error("The file is larger than 1 MB. Cut it to the day.");
  return file;
}

/** A GPX track gives the place, the span of time, and how fast the camera travels. */
export function FromTrack({ change }: { change: Change }) {
  const read = useMutation({
    mutationFn: async (file: File) => benchApi.readTrack(small(file)),
    onSuccess: ({ track }) =>
      change((b) => ({
        ...b,
        camera_move: { ...b.camera_move, travel_m_s: Math.round(track.speed_m_s * 10) / 10 },
        light: {
          ...(b.light.kind === "sky" ? b.light : { kind: "sky", cloud: "clear", shade: "open" }),
          place: null,
          zone: null,
          latitude: Math.round(track.latitude * 1e4) / 1e4,
          longitude: Math.round(track.longitude * 1e4) / 1e4,
          start: track.start,
          end: track.end,
        } as Brief["light"],
      })),
  });
  const { data } = read;
  const along = data?.light.map((point) => point.level_ev100) ?? [];
  return (
    <div className="grid gap-1">
      <FileChoice says="From a track (GPX)" accept=".gpx,application/gpx+xml" read={read.mutate} />
      {data && (
        <p role="status" className="text-small">
          {withUnit(Math.round(data.track.distance_m), "m")} at{" "}
          {withUnit(Math.round(data.track.speed_m_s * 10) / 10, "m/s")}, at times{" "}
          {withUnit(Math.round(data.track.fastest_m_s * 10) / 10, "m/s")}. Under a clear sky level ground goes
          from EV {plainNumber(Math.round(Math.min(...along) * 10) / 10)} to{" "}
          {plainNumber(Math.round(Math.max(...along) * 10) / 10)} along it.
          {leftOutWords(data.track.left_out, "points")}{" "}
          <button
            type="button"
            className="underline"
            onClick={() => change((b) => asSubjects(b, Math.round(data.track.speed_m_s * 10) / 10))}
          >
            It is the subject’s track
          </button>
        </p>
      )}
      {read.error && <Refused error={read.error} />}
    </div>
  );
}

/** The speed of a track given to the subject, the camera standing still. */
function asSubjects(brief: Brief, speed_m_s: number): Brief {
  return {
    ...brief,
    subject: { ...brief.subject, speed_m_s },
    camera_move: { ...brief.camera_move, travel_m_s: 0 },
  };
}

type DiveLight = Awaited<ReturnType<typeof benchApi.readDive>>["light"];

/** The dive over time: depth as a line downwards, and dashed how far red falls behind. */
function DivePicture({ light }: { light: DiveLight }) {
  const [wide, high] = [300, 84];
  const last = light.at(-1)?.seconds || 1;
  const deepest = Math.max(1, ...light.map((sample) => sample.depth_m));
  const behind = Math.max(1, ...light.map((sample) => -sample.red_stops));
  const path = (value: (sample: DiveLight[number]) => number) =>
    light
      .map(
        (sample, n) =>
          `${n ? "L" : "M"}${((sample.seconds / last) * wide).toFixed(1)} ${(8 + value(sample) * (high - 22)).toFixed(1)}`,
      )
      .join("");
  const ev = light.map((sample) => sample.ev100);
  return (
    <figure className="m-0">
      <svg
        viewBox={`0 0 ${wide} ${high}`}
        className="block w-full"
        role="img"
        aria-label="Depth and red through the dive"
      >
        <path d={`M0 8H${wide}`} stroke="var(--rule)" />
        <path
          d={path((sample) => sample.depth_m / deepest)}
          fill="none"
          stroke="var(--ink)"
          strokeWidth="1.6"
        />
        <path
          d={path((sample) => -sample.red_stops / behind)}
          fill="none"
          stroke="var(--note)"
          strokeWidth="1.4"
          strokeDasharray="5 3"
        />
      </svg>
      <figcaption className="text-fine text-muted">
        line: depth to {withUnit(Math.round(deepest * 10) / 10, "m")}; dashed: red behind, to{" "}
        {plainNumber(Math.round(behind * 10) / 10)} stops; light from EV{" "}
        {plainNumber(Math.round(Math.max(...ev) * 10) / 10)} to{" "}
        {plainNumber(Math.round(Math.min(...ev) * 10) / 10)}
        {" under EV 14"}
      </figcaption>
    </figure>
  );
}

/** A UDDF dive profile gives the depths, and how long the camera is down. */
export function FromDive({ brief, change }: { brief: Brief; change: Change }) {
  const water = brief.light.kind === "water" ? brief.light : null;
  const read = useMutation({
    mutationFn: async (file: File) => benchApi.readDive(small(file), water?.water_type ?? "1C"),
    onSuccess: ({ dive }) =>
      change((b) =>
        b.light.kind === "water"
          ? {
              ...b,
              take: { ...b.take, length_s: Math.max(1, Math.round(dive.bottom_s)), count: 1 },
              light: {
                ...b.light,
                depth_m: dive.bottom_m.map((depth) => Math.round(depth * 10) / 10) as [number, number],
              },
            }
          : b,
      ),
  });
  const { data } = read;
  const deepest = data?.light.reduce((most, sample) => (sample.depth_m > most.depth_m ? sample : most));
  return (
    <div className="grid gap-1">
      <FileChoice says="From a dive (UDDF)" accept=".uddf,application/xml" read={read.mutate} />
      {data && deepest && (
        <p role="status" className="text-small">
          {withUnit(Math.round(data.dive.bottom_s / 60), "min")} at the bottom, deepest{" "}
          {withUnit(Math.round(data.dive.deepest_m * 10) / 10, "m")}. There red lies{" "}
          {plainNumber(Math.round(-deepest.red_stops * 10) / 10)} stops behind.
          {leftOutWords(data.dive.left_out, "waypoints")}
        </p>
      )}
      {data && <DivePicture light={data.light} />}
      {read.error && <Refused error={read.error} />}
    </div>
  );
}
