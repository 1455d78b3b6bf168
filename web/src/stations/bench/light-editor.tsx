// The editor of the light: a place, a meter, or the camera's own reading.
import type { Brief, Vocabulary } from "../../api/client";
import { plainNumber, seconds } from "../../app/words";
import { Choice, NumberField } from "../../parts/fields";
import type { EditorProps } from "./editors";

type Light = Brief["light"];

export function LightEditor({ brief, change, vocabulary, ev100 }: EditorProps) {
  const light = brief.light;
  const kind = light.kind === "meter" && light.lux ? "lux" : light.kind;
  const round = (value: number) => Math.round(value * 10) / 10;
  const set = (next: Light, tag: string | null = null) => change((b) => ({ ...b, light: next }), tag);
  const turn = (to: string) => {
    if (to === kind) return;
    const band: [number, number] = [round(ev100[0]), round(ev100[1])];
    if (to === "place") set({ kind: "place", place: nearestPlace(vocabulary, ev100) });
    else if (to === "meter") set({ kind: "meter", ev100: band });
    else if (to === "lux")
      set({
        kind: "meter",
        lux: [Math.round(2.5 * 2 ** band[0] * 100) / 100, Math.round(2.5 * 2 ** band[1] * 100) / 100],
      });
    else set({ kind: "reading", readings: [{ f_number: 2.8, shutter_s: 1 / 240, iso: 100, nd_stops: 0 }] });
  };
  return (
    <div className="grid gap-3">
      <div className="flex flex-wrap gap-x-1">
        <Choice
          label="The light is known from"
          value={kind}
          options={[
            { value: "place", says: "a kind of place" },
            { value: "meter", says: "a meter, in EV at ISO 100" },
            { value: "lux", says: "a meter, in lux" },
            { value: "reading", says: "the camera's own reading" },
          ]}
          onChange={turn}
        />
      </div>
      {light.kind === "place" && (
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
      )}
      {light.kind === "meter" && light.ev100 && (
        <Band
          unit="EV"
          band={light.ev100 as [number, number]}
          onChange={(band, tag) => set({ ...light, ev100: band }, tag)}
        />
      )}
      {light.kind === "meter" && light.lux && (
        <Band
          unit="lx"
          band={light.lux as [number, number]}
          onChange={(band, tag) => set({ ...light, lux: band }, tag)}
        />
      )}
      {light.kind === "reading" && <Readings light={light} set={set} />}
    </div>
  );
}

function nearestPlace(vocabulary: Vocabulary, [low, high]: [number, number]): string {
  const middle = (low + high) / 2;
  const off = (place: Vocabulary["places"][number]) =>
    Math.abs((place.ev100[0] + place.ev100[1]) / 2 - middle);
  return vocabulary.places.reduce((best, place) => (off(place) < off(best) ? place : best)).id;
}

function Band({
  unit,
  band,
  onChange,
}: {
  unit: string;
  band: [number, number];
  onChange: (band: [number, number], tag: string) => void;
}) {
  return (
    <div className="flex gap-3">
      <NumberField
        label="Dimmest"
        unit={unit}
        value={band[0]}
        onChange={(value) => onChange([value, band[1]], "dim")}
      />
      <NumberField
        label="Brightest"
        unit={unit}
        value={band[1]}
        onChange={(value) => onChange([band[0], value], "bright")}
      />
    </div>
  );
}

type ReadingLight = Extract<Light, { kind: "reading" }>;

function Readings({ light, set }: { light: ReadingLight; set: (next: Light, tag?: string | null) => void }) {
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
            label="Glass on it"
            unit="stops"
            value={reading.nd_stops ?? 0}
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
