// One dial through its values: each with its frame and its price; choosing one pins it.
import { useQuery, useQueryClient } from "@tanstack/react-query";
import { useState } from "react";
import { frameQuery, type Side, type Sight } from "../../api/look";
import {
  type DialValue,
  kindOf,
  type Plan,
  pinsOf,
  type Shot,
  type Vocabulary,
  withPins,
} from "../../api/types";
import { isSame } from "../../changes/fields";
import { Framed, Picture } from "../../instruments/picture";
import { costsMore } from "../../parts/words";
import { DialOptions, dialsOf } from "./other";
import { saveSheet } from "./saving";

type Props = {
  shot: Shot;
  plan: Plan;
  held: string | null;
  vocabulary: Vocabulary;
  sight: Sight;
  coloured: boolean;
  pin: (dial: string, value: DialValue["value"], says: string) => void;
};

const MOST = 6;
const WIDTH = 240;

export function Strip({ shot, plan, held, vocabulary, sight, coloured, pin }: Props) {
  const dials = dialsOf(plan);
  const [wanted, setDial] = useState<string | null>(null);
  const telling = kindOf(shot.brief, vocabulary)?.telling ?? [];
  const wished = [...(wanted === null ? [] : [wanted]), ...telling, ...dials];
  const dial = wished.find((id) => dials.includes(id));
  const queries = useQueryClient();
  if (dial === undefined) return <p className="text-muted">This plan leaves no dial to turn.</p>;
  const values = nearest(plan, dial);
  const name = vocabulary.dials[dial] ?? dial;
  const small = { ...sight, width: WIDTH, loupe: null };
  const steps = values.map((value) => ({
    value,
    side: {
      brief: withPins(shot.brief, { ...pinsOf(shot.brief), camera: plan.camera.id, [dial]: value.value }),
      chosen: {},
      held,
    },
    place: `strip ${JSON.stringify(value.value)}`,
    price: costsMore((value.given_up_stops ?? 0) - plan.given_up_stops),
  }));
  /** What is drawn already is taken as it is; a value that has no frame keeps its place. */
  const save = async () => {
    const frames = steps.map(async ({ value, side, place, price }) => ({
      says: `${value.label}, ${price}`,
      src: await queries.fetchQuery(frameQuery(side, small, place)).then(
        (frame) => frame.src,
        () => null,
      ),
    }));
    await saveSheet(`${shot.brief.title}: ${name}`, await Promise.all(frames));
  };
  return (
    <section aria-label="Strip of a dial">
      <div className="flex flex-wrap items-baseline gap-x-4 gap-y-1 pb-2">
        <label className="flex items-baseline gap-2 text-small text-muted">
          strip of
          <select
            className="h-7 border-rule border-b bg-transparent text-body text-ink"
            value={dial}
            onChange={(event) => setDial(event.target.value)}
          >
            <DialOptions dials={dials} vocabulary={vocabulary} />
          </select>
        </label>
        <button
          type="button"
          className="ml-auto underline decoration-deep underline-offset-3 text-small text-muted hover:text-ink"
          onClick={() => void save()}
        >
          save as one sheet
        </button>
      </div>
      <ol className="grid grid-cols-[repeat(auto-fit,minmax(112px,1fr))] gap-2">
        {steps.map(({ value, side, place, price }) => (
          <Step
            key={JSON.stringify([dial, value.value])}
            side={side}
            sight={small}
            place={place}
            shape={shot.brief.delivery.width / shot.brief.delivery.height}
            says={value.label}
            price={price}
            chosen={isSame(value.value, plan.chosen[dial])}
            coloured={coloured}
            take={() => pin(dial, value.value, `${name} ${value.label}`)}
          />
        ))}
      </ol>
    </section>
  );
}

/** The legal values next to the chosen one, in their order. */
function nearest(plan: Plan, dial: string): DialValue[] {
  const legal = (plan.profiles[dial] ?? []).filter((value) => value.legal);
  const at = Math.max(
    0,
    legal.findIndex((value) => isSame(value.value, plan.chosen[dial])),
  );
  const first = Math.max(0, Math.min(at - MOST / 2, legal.length - MOST));
  return legal.slice(first, first + MOST);
}

type StepProps = {
  side: Side;
  sight: Sight;
  place: string;
  shape: number;
  says: string;
  price: string;
  chosen: boolean;
  coloured: boolean;
  take: () => void;
};

function Step({ side, sight, place, shape, says, price, chosen, coloured, take }: StepProps) {
  const frame = useQuery(frameQuery(side, sight, place));
  const src = frame.data?.src ?? null;
  return (
    <li>
      <button
        type="button"
        aria-pressed={chosen}
        aria-label={`${says}, ${chosen ? "chosen" : price}${chosen ? "" : "; pin it"}`}
        className={`block w-full text-left ${chosen ? "ring-3 ring-ink" : "hover:ring-2 hover:ring-deep"}`}
        onClick={take}
      >
        <Framed shape={shape}>
          <Picture src={src} says="" coloured={coloured} old={frame.isPlaceholderData} />
        </Framed>
      </button>
      <p className="flex justify-between gap-2 pt-1 text-small">
        <b>{says}</b>
        <span className="text-muted">{frame.error ? "no plan" : chosen ? "chosen" : price}</span>
      </p>
    </li>
  );
}
