// The editor of the light: a kind of place, a meter, the camera's own reading, the sky, or lamps.
import { lazy, Suspense } from "react";
import type { Brief, Instruments, Vocabulary } from "../../api/types";
import { Choice, NumberField, RangeField, Tick } from "../../parts/fields";
import { PlaceField } from "../../parts/place-field";
import { plainNumber, seconds } from "../../parts/words";
import type { EditorProps } from "./editors";
import { LampList, standing } from "./lamp-list";
import { MomentField } from "./moment-field";
import { momentOf, sameClock } from "./when";

// The first view does without them.
const FromTrack = lazy(() => import("./light-sources").then((found) => ({ default: found.FromTrack })));
const TakeReading = lazy(() => import("./light-sources").then((found) => ({ default: found.TakeReading })));

type Light = Brief["light"];
type SurfaceLight = Exclude<Light, { kind: "water" }>;
type Set<L> = (next: L, tag?: string | null) => void;
type DryLight = NonNullable<Extract<Light, { kind: "lamps" }>["ambient"]>;
type PartProps = Omit<EditorProps, "brief" | "change">;

/** The whole light of a shot in the dry. */
export function LightEditor({ brief, change, ...rest }: EditorProps) {
  if (brief.light.kind === "water") return null;
  return (
    <div className="grid gap-3">
      <AnyLight
        light={brief.light}
        set={(light, tag = null) => change((b) => ({ ...b, light }), tag)}
        lamps
        label="The light is known from"
        {...rest}
      />
      {brief.light.kind === "sky" && (
        <Suspense>
          <FromTrack change={change} />
        </Suspense>
      )}
    </div>
  );
}

/** The light that falls on the water. */
export function SurfaceEditor({ brief, change, ...rest }: EditorProps) {
  const { light } = brief;
  if (light.kind !== "water") return null;
  return (
    <AnyLight
      light={light.surface}
      set={(surface, tag = null) => change((b) => ({ ...b, light: { ...light, surface } }), tag)}
      label="The light above is known from"
      {...rest}
    />
  );
}

type AnyProps = PartProps & {
  light: SurfaceLight;
  set: Set<SurfaceLight>;
  lamps?: boolean;
  label: string;
};

function AnyLight({ light, set, lamps, label, ...rest }: AnyProps) {
  const kind = light.kind === "meter" && light.lux ? "lux" : light.kind;
  const turn = (to: string) => {
    if (to !== kind) set(startOf(to, rest, light));
  };
  const options = [
    { value: "place", says: "a kind of place" },
    { value: "sky", says: "the sky, by place and time" },
    { value: "reading", says: "the camera’s own reading" },
    { value: "meter", says: "a meter, in EV at ISO 100" },
    { value: "lux", says: "a meter, in lux" },
    ...(lamps || light.kind === "lamps" ? [{ value: "lamps", says: "lamps of known strength" }] : []),
  ];
  return (
    <div className="grid gap-3">
      <Choice label={label} value={kind} options={options} onChange={turn} />
      {light.kind === "lamps" ? (
        <Lamps light={light} set={set} {...rest} />
      ) : (
        <Dry light={light} set={set} {...rest} />
      )}
    </div>
  );
}

function startOf(
  to: string,
  { vocabulary, instruments, day, starts_at }: PartProps,
  before: SurfaceLight,
): SurfaceLight {
  // A meter begins with the light as it stands, so that turning to it changes nothing yet.
  const meter = instruments?.meter ?? A_DULL_ROOM;
  switch (to) {
    case "place":
      return { kind: "place", place: nearestPlace(vocabulary, meter.ev100) };
    case "meter":
      return { kind: "meter", ev100: meter.ev100, lux: null, balance_k: null };
    case "lux":
      return { kind: "meter", lux: meter.lux, ev100: null, balance_k: null };
    case "sky": {
      // An hour from its start on, or towards noon where it has none.
      const on = day.day ?? new Date().toISOString().slice(0, 10);
      const start = starts_at ?? momentOf(`${on}T11:00`, day.zone) ?? `${on}T11:00:00Z`;
      return {
        kind: "sky",
        latitude: day.latitude ?? 0,
        longitude: day.longitude ?? 0,
        place: null,
        zone: day.latitude === null ? null : day.zone,
        start,
        end: new Date(Date.parse(start) + HOUR_MS).toISOString().replace(".000Z", "Z"),
        cloud: "clear",
        shade: "open",
      };
    }
    case "lamps": {
      const lamp = vocabulary.lamps[0];
      const first = lamp
        ? standing(lamp, 1)
        : {
            lux_at_1m: 1000,
            distance_m: 1,
            output: 1,
            far_m: null,
            role: null,
            ours: null,
            kelvin: 5500,
            ripple: 0,
          };
      return { kind: "lamps", lamps: [first], ambient: before.kind === "lamps" ? before.ambient : null };
    }
    default:
      return { kind: "reading", readings: [{ f_number: 2.8, shutter_s: 1 / 240, iso: 100, nd_stops: 0 }] };
  }
}

const HOUR_MS = 3_600_000;
/** Before the first answer. */
const A_DULL_ROOM: Instruments["meter"] = { ev100: [5, 7], lux: [80, 320] };
const DIM_TO_BRIGHT: [string, string] = ["Dimmest", "Brightest"];

type DryProps = PartProps & { light: DryLight; set: Set<DryLight> };

function Dry({ light, set, vocabulary, day, setStart }: DryProps) {
  switch (light.kind) {
    case "place":
      return (
        <div className="max-h-[300px] overflow-y-auto border-rule border-t">
          <Choice
            label="Place"
            hideLabel
            value={light.place}
            options={vocabulary.places.map((place) => ({
              value: place.id,
              says: place.name,
              hint: `EV ${plainNumber(place.ev100[0])} to ${plainNumber(place.ev100[1])}`,
            }))}
            onChange={(place) => set({ kind: "place", place })}
          />
        </div>
      );
    case "meter":
      return light.lux ? (
        <div className="grid gap-3">
          <RangeField
            labels={DIM_TO_BRIGHT}
            unit="lx"
            value={light.lux as [number, number]}
            onChange={(lux, tag) => set({ ...light, lux }, tag)}
          />
          <Suspense>
            <TakeReading lux={light.lux as [number, number]} onLux={(lux) => set({ ...light, lux })} />
          </Suspense>
        </div>
      ) : (
        <RangeField
          labels={DIM_TO_BRIGHT}
          unit="EV"
          value={(light.ev100 ?? [0, 0]) as [number, number]}
          onChange={(ev100, tag) => set({ ...light, ev100 }, tag)}
        />
      );
    case "reading":
      return <Readings light={light} set={set} />;
    case "sky":
      return <Sky options={vocabulary.options} light={light} set={set} zone={day.zone} setStart={setStart} />;
  }
}

function nearestPlace(vocabulary: Vocabulary, [low, high]: [number, number]): string {
  const middle = (low + high) / 2;
  const off = (place: Vocabulary["places"][number]) =>
    Math.abs((place.ev100[0] + place.ev100[1]) / 2 - middle);
  return vocabulary.places.reduce((best, place) => (off(place) < off(best) ? place : best)).id;
}

type ReadingLight = Extract<Light, { kind: "reading" }>;

function Readings({ light, set }: { light: ReadingLight; set: Set<ReadingLight> }) {
  const readings = light.readings;
  const patch = (index: number, part: Partial<ReadingLight["readings"][number]>, tag: string) =>
    set(
      { ...light, readings: readings.map((reading, n) => (n === index ? { ...reading, ...part } : reading)) },
      `${tag}${index}`,
    );
  return (
    <div className="grid gap-3">
      {readings.map((reading, index) => (
        <div key={index} className="grid grid-cols-2 gap-x-3 gap-y-2 border-rule border-t pt-2">
          <NumberField
            label="Aperture f/"
            unit=""
            value={reading.f_number}
            onChange={(f_number) => patch(index, { f_number }, "f")}
          />
          <NumberField
            label="Exposure"
            unit="s"
            value={reading.shutter_s}
            show={(t) => seconds(t).replace("\u202fs", "")}
            onChange={(shutter_s) => patch(index, { shutter_s }, "t")}
          />
          <NumberField
            label="ISO"
            unit=""
            value={reading.iso}
            onChange={(iso) => patch(index, { iso }, "iso")}
          />
          <NumberField
            label="Filter on it"
            unit="stops"
            value={reading.nd_stops}
            onChange={(nd_stops) => patch(index, { nd_stops }, "nd")}
          />
        </div>
      ))}
      {readings.length === 1 ? (
        <button
          type="button"
          className="plain"
          onClick={() => set({ ...light, readings: [...readings, ...readings] })}
        >
          A second reading, of the dimmest or the brightest part
        </button>
      ) : (
        <button
          type="button"
          className="plain"
          onClick={() => set({ ...light, readings: readings.slice(0, 1) })}
        >
          One reading is enough
        </button>
      )}
    </div>
  );
}

type SkyLight = Extract<Light, { kind: "sky" }>;

type SkyProps = {
  light: SkyLight;
  set: Set<SkyLight>;
  zone: string;
  options: Vocabulary["options"];
  setStart: (at: string) => void;
};

function Sky({ light, set, zone, options, setStart }: SkyProps) {
  return (
    <div className="grid gap-3">
      <PlaceField
        label="Where"
        at={light}
        called={light.place ?? ""}
        onPlace={({ name, latitude, longitude, zone: there }) =>
          // What the clock shows stays; it is the clock of the place now.
          set(
            {
              ...light,
              latitude,
              longitude,
              place: name || null,
              zone: there,
              start: sameClock(light.start, zone, there),
              end: sameClock(light.end, zone, there),
            },
            "where",
          )
        }
      />
      {light.latitude === 0 && light.longitude === 0 && (
        <p role="status" className="text-fine text-note">
          Nobody said where yet, so it is the light of the equator. Give the next town.
        </p>
      )}
      <MomentField label={`From, ${zone}`} value={light.start} zone={zone} onChange={setStart} />
      <MomentField
        label="To"
        value={light.end}
        zone={zone}
        after={light.start}
        onChange={(end) => set({ ...light, end }, "end")}
      />
      <div className="grid grid-cols-2 gap-3">
        <Choice
          label="Sky"
          value={light.cloud}
          options={options.skies.map((one) => ({
            value: one.id as SkyLight["cloud"],
            says: one.says || one.name,
          }))}
          onChange={(cloud) => set({ ...light, cloud })}
        />
        <Choice
          label="The subject stands"
          value={light.shade}
          options={options.shades.map((one) => ({ value: one.id as SkyLight["shade"], says: one.name }))}
          onChange={(shade) => set({ ...light, shade })}
        />
      </div>
    </div>
  );
}

type LampLight = Extract<Light, { kind: "lamps" }>;

function Lamps({ light, set, ...rest }: PartProps & { light: LampLight; set: Set<LampLight> }) {
  return (
    <div className="grid gap-3">
      <LampList
        lamps={light.lamps}
        least={1}
        says={rest.instruments?.lamps_say ?? []}
        vocabulary={rest.vocabulary}
        onChange={(lamps, tag) => set({ ...light, lamps }, tag)}
      />
      <Tick
        says="there is other light besides"
        checked={light.ambient != null}
        onChange={(on) =>
          set({ ...light, ambient: on ? { kind: "place", place: "room_in_the_evening" } : null })
        }
      />
      {light.ambient && (
        <AnyLight
          label="The other light is known from"
          light={light.ambient}
          set={(ambient, tag) => set({ ...light, ambient: ambient as DryLight }, tag)}
          {...rest}
        />
      )}
    </div>
  );
}
