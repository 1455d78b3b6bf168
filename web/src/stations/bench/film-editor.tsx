// Two of duration, interval and time on the screen give the third; what is typed goes into the brief.

import { useQuery } from "@tanstack/react-query";
import { useEffect, useState } from "react";
import { benchApi } from "../../api/bench";
import { keys } from "../../api/keys";
import type { Brief, Plan } from "../../api/types";
import { DurationField } from "../../parts/fields";
import { durationText } from "../../parts/reading";

type Part = "duration" | "interval" | "screen";
type Props = { brief: Brief; plan: Plan; change: (update: (brief: Brief) => Brief) => void };

const NAMES: Record<Part, string> = {
  duration: "filmed for",
  interval: "one frame every",
  screen: "lasts on the screen",
};

export function FilmEditor({ brief, plan, change }: Props) {
  const [wanted, setWanted] = useState<Part>("screen");
  const [duration, setDuration] = useState(brief.take.length_s);
  const [interval, setInterval] = useState(plan.settings.interval_s ?? 10);
  const [screen, setScreen] = useState(
    Number((brief.take.screen_s ?? plan.endurance.screen_s ?? 20).toFixed(1)),
  );
  // What the sentence says of the film is taken over, so that both always tell the same.
  useEffect(() => setDuration(brief.take.length_s), [brief.take.length_s]);
  const asked = {
    timeline_fps: brief.delivery.fps,
    duration_s: wanted === "duration" ? null : duration,
    interval_s: wanted === "interval" ? null : interval,
    screen_s: wanted === "screen" ? null : screen,
  };
  const film = useQuery({
    queryKey: keys.film(asked),
    queryFn: () => benchApi.intervalFilm(asked),
    enabled: duration > 0 && interval > 0 && screen > 0,
    retry: false,
    staleTime: Number.POSITIVE_INFINITY,
  });
  const offered = (plan.profiles.interval_s ?? [])
    .map((entry) => entry.value)
    .filter((value): value is number => typeof value === "number");
  const use = () => {
    if (!film.data) return;
    const { duration_s, interval_s, screen_s } = film.data;
    const nearest = offered.reduce<number | null>(
      (best, value) =>
        best === null || Math.abs(Math.log(value / interval_s)) < Math.abs(Math.log(best / interval_s))
          ? value
          : best,
      null,
    );
    change((b) => ({
      ...b,
      take: { ...b.take, length_s: duration_s, screen_s: wanted === "screen" ? null : screen_s },
      pins: (wanted === "interval" || nearest === null
        ? Object.fromEntries(Object.entries(b.pins ?? {}).filter(([dial]) => dial !== "interval_s"))
        : { ...b.pins, interval_s: nearest }) as Brief["pins"],
    }));
  };
  const field: Record<Part, { value: number; unit: "s" | "h"; put: (value: number) => void }> = {
    duration: { value: duration, unit: "h", put: setDuration },
    interval: { value: interval, unit: "s", put: setInterval },
    screen: { value: screen, unit: "s", put: setScreen },
  };
  const answer: Record<Part, string> = film.data
    ? {
        duration: durationText(film.data.duration_s),
        interval: durationText(Number(film.data.interval_s.toFixed(1))),
        screen: durationText(Number(film.data.screen_s.toFixed(1))),
      }
    : { duration: "", interval: "", screen: "" };
  return (
    <fieldset className="mb-3 border-ink border-y py-2">
      <legend className="px-1 font-serif text-body italic">give two, get the third</legend>
      {(["duration", "interval", "screen"] as const).map((part) => (
        <div key={part} className="flex items-end gap-3 pb-1">
          {part === wanted ? (
            <p className="flex-1 py-[5px]">
              <span className="block text-fine text-muted">{NAMES[part]}</span>
              <b className="text-lead">{answer[part]}</b>
            </p>
          ) : (
            <DurationField
              label={NAMES[part]}
              unit={field[part].unit}
              most={172_800}
              live
              value={field[part].value}
              onChange={field[part].put}
            />
          )}
          <label className="flex h-[34px] w-[58px] items-center gap-1 text-fine text-muted">
            <input
              type="radio"
              name="third"
              className="size-[13px] flex-none appearance-none rounded-full border border-ink checked:border-[4px]"
              checked={part === wanted}
              onChange={() => setWanted(part)}
            />
            work this out
          </label>
        </div>
      ))}
      {film.error && (
        <p role="alert" className="pb-1 text-fine text-note">
          {film.error.message}
        </p>
      )}
      <button type="button" className="plain w-full" disabled={!film.data} onClick={use}>
        {film.data ? `Film it so: ${film.data.frames} frames` : "Film it so"}
      </button>
    </fieldset>
  );
}
