// The light of the shot from its dimmest to its brightest moment.
import type { Plan } from "../../api/types";
import { stops } from "../../parts/words";

type LightBandProps = { plan: Plan; at: number; ev: number | null; onAt: (at: number) => void };

export function LightBand({ plan, at, ev, onAt }: LightBandProps) {
  const [low, high] = plan.exposure.ev100;
  if (high - low < 0.1) return <p className="text-small text-muted">The light stays at EV {stops(low)}.</p>;
  return (
    <label className="grid grid-cols-[auto_minmax(0,1fr)_auto] items-center gap-3 text-small text-muted">
      <span>dimmest, EV {stops(low)}</span>
      <input
        type="range"
        className="w-full"
        min={0}
        max={1}
        step={0.05}
        value={at}
        aria-label="Moment of the light"
        aria-valuetext={`EV ${stops(ev ?? low + at * (high - low))}`}
        onChange={(event) => onAt(Number(event.target.value))}
      />
      <span>brightest, EV {stops(high)}</span>
    </label>
  );
}
