// The left of the Bench: the gauge, and the other pictures of the shot's light.
import { keepPreviousData, useQuery } from "@tanstack/react-query";
import { type ReactNode, useState } from "react";
import { api, type Brief, type Plan, type Vocabulary } from "../../api/client";
import { DepthProfile, LampPlan, LightAccount, Pulses } from "../../instruments/light-pictures";

type Props = { brief: Brief; plan: Plan; vocabulary: Vocabulary; children: ReactNode };

export function LightSide({ brief, plan, vocabulary, children }: Props) {
  const [shown, setShown] = useState("gauge");
  const { light, subject, mains_hz, kit } = brief;
  const asked = {
    camera: plan.camera.id,
    frame_rate: plan.settings.frame_rate,
    height_px: plan.settings.height,
    missing_stops: plan.exposure.light_missing_stops,
  };
  const pictures = useQuery({
    queryKey: ["instruments", light, subject, mains_hz, kit, asked],
    queryFn: ({ signal }) => api.instruments(brief, asked, signal),
    placeholderData: keepPreviousData,
    staleTime: Number.POSITIVE_INFINITY,
    gcTime: 60_000,
  });
  const { water, lamps, flicker, steps } = pictures.data ?? {};
  const tabs: [string, string, ReactNode][] = [
    ["gauge", "gauge", children],
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
      <div role="group" aria-label="Pictures of the light" className="flex gap-3 px-1 pb-1 text-[12.5px]">
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
