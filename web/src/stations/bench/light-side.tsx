// The left of the Bench: the gauge, and the other pictures of the shot: its light, its frame, its time.
import { type ReactNode, useState } from "react";
import type { BenchAnswer, Brief, Plan, Vocabulary } from "../../api/types";
import { FrameFromAbove } from "../../instruments/frame-picture";
import { DepthProfile, LampPlan, LightAccount, Pulses } from "../../instruments/light-pictures";
import { SmallLook } from "../../instruments/small-look";
import { IntervalFilmPicture, SlowMotion } from "../../instruments/time-pictures";
import { FilmEditor } from "./film-editor";
import { hourOf } from "./when";

type Props = {
  shot: string;
  held: string | null;
  brief: Brief;
  plan: Plan;
  vocabulary: Vocabulary;
  zone: string;
  answer: BenchAnswer | null;
  change: (update: (brief: Brief) => Brief) => void;
  children: ReactNode;
};

export function LightSide({ shot, held, brief, plan, vocabulary, zone, answer, change, children }: Props) {
  const [shown, setShown] = useState("gauge");
  const { water, lamps, flicker, steps } = answer?.instruments ?? {};
  const { framing, slow, lapse } = answer?.outlook ?? {};
  const waiting = <p className="text-muted">Measuring.</p>;
  const isLapse = plan.settings.interval_s !== null;
  const start = brief.light.kind === "sky" ? new Date(brief.light.start).getTime() : null;
  const slowed = brief.delivery.slow_factor > 1 || brief.subject.event_s !== null;
  const tabs: [string, string, ReactNode][] = [
    ["gauge", "gauge", children],
    ["look", "look", <SmallLook key="look" shot={shot} brief={brief} plan={plan} held={held} />],
    ["frame", "frame", framing ? <FrameFromAbove key="frame" framing={framing} /> : waiting],
    ...(slowed && !isLapse
      ? ([
          [
            "slow",
            "slow",
            slow ? <SlowMotion key="slow" slow={slow} rate={plan.settings.frame_rate} /> : waiting,
          ],
        ] as const)
      : []),
    ...(isLapse
      ? ([
          [
            "film",
            "film",
            <div key="film">
              <FilmEditor brief={brief} plan={plan} change={change} />
              {lapse ? (
                <IntervalFilmPicture
                  lapse={lapse}
                  zoneClock={
                    start === null ? null : (s) => hourOf(new Date(start + 1000 * s).toISOString(), zone)
                  }
                />
              ) : (
                waiting
              )}
            </div>,
          ],
        ] as const)
      : []),
    ...(water
      ? ([
          ["depth", "depth", <DepthProfile key="depth" water={water} filterNames={names(vocabulary)} />],
        ] as const)
      : []),
    ...(lamps ? ([["lamps", "lamps", <LampPlan key="lamps" lamps={lamps} />]] as const) : []),
    ...(flicker
      ? ([
          ["pulses", "pulses", <Pulses key="pulses" flicker={flicker} shutter={plan.settings.shutter_s} />],
        ] as const)
      : []),
    ...(steps ? ([["account", "account", <LightAccount key="account" steps={steps} />]] as const) : []),
  ].map(([id, says, picture]) => [id, says, picture] as [string, string, ReactNode]);
  const current = tabs.find(([id]) => id === shown) ?? tabs[0];
  return (
    <div>
      <div
        role="group"
        aria-label="Pictures of the shot"
        className="flex flex-wrap gap-x-[11px] px-1 pb-1 text-fine"
      >
        {tabs.map(([id, says]) => (
          <button
            key={id}
            type="button"
            aria-pressed={current?.[0] === id}
            className={`border-b-2 ${current?.[0] === id ? "border-ink font-bold" : "border-transparent text-muted hover:text-ink"}`}
            onClick={() => setShown(id)}
          >
            {says}
          </button>
        ))}
      </div>
      <div className={current?.[0] === "gauge" ? "" : "px-2 pt-2"}>{current?.[2]}</div>
    </div>
  );
}

function names(vocabulary: Vocabulary): Record<string, string> {
  return Object.fromEntries(vocabulary.filters.map((filter) => [filter.id, filter.name]));
}
