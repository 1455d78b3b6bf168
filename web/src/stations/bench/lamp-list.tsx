// Lamps as they stand: how strong, how far, how much of it is on, of which colour, and how it pulses.
import type { Vocabulary } from "../../api/client";
import { plainNumber, withUnit } from "../../app/words";
import { NumberField } from "../../parts/fields";
import { type Lamp, standing } from "./scenarios";

type Props = {
  lamps: Lamp[];
  least: number;
  vocabulary: Vocabulary;
  onChange: (lamps: Lamp[], tag?: string | null) => void;
};

const MOST = 20;

export function LampList({ lamps, least, vocabulary, onChange }: Props) {
  const patch = (index: number, part: Partial<Lamp>, tag: string) =>
    onChange(
      lamps.map((lamp, n) => (n === index ? { ...lamp, ...part } : lamp)),
      `${tag}${index}`,
    );
  return (
    <div className="grid gap-2">
      {lamps.map((lamp, index) => (
        <fieldset key={index} className="border-rule border-t pt-2">
          <legend className="sr-only">Lamp {index + 1}</legend>
          <p className="flex items-baseline justify-between text-[12.5px] text-muted">
            <span>
              {lamp === lamps.reduce((key, other) => (luxOf(other) > luxOf(key) ? other : key))
                ? "key lamp"
                : `lamp ${index + 1}`}
              : {plainNumber(Math.round(luxOf(lamp)))}
              {"\u202f"}lx on the subject
            </span>
            {lamps.length > least && (
              <button
                type="button"
                className="underline"
                aria-label={`Remove lamp ${index + 1}`}
                onClick={() => onChange(lamps.filter((_, n) => n !== index))}
              >
                remove
              </button>
            )}
          </p>
          <div className="grid grid-cols-2 gap-x-3 gap-y-1">
            <NumberField
              label="At 1 m"
              unit="lx"
              value={lamp.lux_at_1m}
              onChange={(lux_at_1m) => patch(index, { lux_at_1m }, "lux")}
            />
            <NumberField
              label="Distance"
              unit="m"
              value={lamp.distance_m ?? 1}
              onChange={(distance_m) => patch(index, { distance_m }, "distance")}
            />
            <NumberField
              label="Turned up to"
              unit="%"
              value={Math.round((lamp.output ?? 1) * 1000) / 10}
              onChange={(percent) => patch(index, { output: percent / 100 }, "output")}
            />
            <NumberField
              label="Colour"
              unit="K"
              value={lamp.kelvin ?? 5500}
              onChange={(kelvin) => patch(index, { kelvin: Math.round(kelvin) }, "kelvin")}
            />
            <NumberField
              label="Mains ripple"
              unit="%"
              value={Math.round((lamp.ripple ?? 0) * 1000) / 10}
              onChange={(percent) => patch(index, { ripple: percent / 100 }, "ripple")}
            />
          </div>
        </fieldset>
      ))}
      {lamps.length < MOST && (
        <div className="flex flex-wrap items-center gap-2 pt-1 text-[13px]">
          <span className="text-muted">Add</span>
          {vocabulary.lamps.map((lamp) => (
            <button
              key={lamp.id}
              type="button"
              className="plain min-h-[30px]"
              onClick={() => onChange([...lamps, standing(lamp, 1)])}
            >
              {lamp.name}
            </button>
          ))}
        </div>
      )}
    </div>
  );
}

function luxOf(lamp: Lamp): number {
  return (lamp.lux_at_1m * (lamp.output ?? 1)) / (lamp.distance_m ?? 1) ** 2;
}

export function lampWords(lamps: Lamp[]): string {
  const first = lamps[0];
  if (!first) return "no lamps";
  const same = lamps.every((lamp) => JSON.stringify(lamp) === JSON.stringify(first));
  const count = ["no lamps", "one lamp", "two lamps", "three lamps"][lamps.length] ?? `${lamps.length} lamps`;
  return same ? `${count} at ${withUnit(first.distance_m ?? 1, "m")}` : count;
}
