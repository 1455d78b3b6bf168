// Lamps as they stand: how strong, how far, how much of it is on, of which colour, and how it pulses.

import type { Brief, Vocabulary } from "../../api/types";
import { isSame } from "../../changes/fields";
import { NumberField } from "../../parts/fields";
import { withUnit } from "../../parts/words";

export type Lamp = Extract<Brief["light"], { kind: "lamps" }>["lamps"][number];

/** A lamp of the kit as it stands at some distance. */
export function standing(lamp: Vocabulary["lamps"][number], distance_m: number): Lamp {
  return {
    lux_at_1m: lamp.lux_at_1m,
    distance_m,
    output: 1,
    far_m: null,
    role: null,
    ours: null,
    kelvin: lamp.kelvin,
    ripple: lamp.ripple,
  };
}

type Props = {
  lamps: Lamp[];
  least: number;
  vocabulary: Vocabulary;
  /** What each lamp throws on the subject. */
  says: string[];
  onChange: (lamps: Lamp[], tag?: string | null) => void;
};

const MOST = 20;

export function LampList({ lamps, least, vocabulary, says, onChange }: Props) {
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
          <p className="flex items-baseline justify-between text-fine text-muted">
            <span>{says[index] ?? `lamp ${index + 1}`}</span>
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
              value={lamp.distance_m}
              onChange={(distance_m) => patch(index, { distance_m }, "distance")}
            />
            <NumberField
              label="To the farthest, if it travels"
              unit="m"
              value={lamp.far_m ?? null}
              onChange={(far_m) => patch(index, { far_m }, "far")}
              onClear={() => patch(index, { far_m: null }, "far")}
            />
            <NumberField
              label="Turned up to"
              unit="%"
              value={Math.round(lamp.output * 1000) / 10}
              onChange={(percent) => patch(index, { output: percent / 100 }, "output")}
            />
            <NumberField
              label="Colour"
              unit="K"
              value={lamp.kelvin}
              onChange={(kelvin) => patch(index, { kelvin: Math.round(kelvin) }, "kelvin")}
            />
            <label className="grid min-w-0 content-start gap-[2px] text-fine text-muted">
              It is there as
              <select
                className="min-h-[34px] w-full min-w-0 border border-muted bg-ground px-2 text-body text-ink"
                value={lamp.role ?? ""}
                onChange={(event) =>
                  patch(index, { role: (event.target.value || null) as Lamp["role"] }, "role")
                }
              >
                <option value="">not said</option>
                <option value="key">key</option>
                <option value="fill">fill</option>
                <option value="separation">separation</option>
                <option value="background">background</option>
              </select>
            </label>
            <label className="grid min-w-0 content-start gap-[2px] text-fine text-muted">
              Whose lamp it is
              <select
                className="min-h-[34px] w-full min-w-0 border border-muted bg-ground px-2 text-body text-ink"
                value={lamp.ours == null ? "" : lamp.ours ? "ours" : "house"}
                onChange={(event) =>
                  patch(
                    index,
                    { ours: event.target.value === "" ? null : event.target.value === "ours" },
                    "ours",
                  )
                }
              >
                <option value="">not said</option>
                <option value="ours">ours to move</option>
                <option value="house">stays as it is</option>
              </select>
            </label>
            <NumberField
              label="Mains ripple"
              unit="%"
              value={Math.round(lamp.ripple * 1000) / 10}
              onChange={(percent) => patch(index, { ripple: percent / 100 }, "ripple")}
            />
          </div>
        </fieldset>
      ))}
      {lamps.length < MOST && (
        <div className="flex flex-wrap items-center gap-2 pt-1 text-small">
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

export function lampWords(lamps: Lamp[]): string {
  const first = lamps[0];
  if (!first) return "no lamps";
  const same = lamps.every((lamp) => isSame(lamp, first));
  const count = ["no lamps", "one lamp", "two lamps", "three lamps"][lamps.length] ?? `${lamps.length} lamps`;
  return same ? `${count} at ${withUnit(first.distance_m, "m")}` : count;
}
