// The light of a shoot's day: the strip with its shots, whose sky it is, and when glass is changed.

import { useQuery } from "@tanstack/react-query";
import { useCallback, useMemo, useRef, useState } from "react";
import { benchApi, vocabularyQuery } from "../../api/bench";
import { dayApi, dayQuery, glassQuery } from "../../api/day";
import { changed } from "../../api/keys";
import { shootsApi } from "../../api/shoots";
import type { DayOfLight, GlassSpan, MovedShot, Plan, Shoot, ShotLine, Summary } from "../../api/types";
import { Met } from "../../changes/met";
import { useChanges } from "../../changes/use-changes";
import { LightStrip, type StripShot } from "../../instruments/light-strip";
import { Loading } from "../../parts/loading";
import { Trouble } from "../../parts/trouble";
import { clock as clockOf, stops } from "../../parts/words";

type Props = { shoot: Shoot; lines: ShotLine[]; moving: Moving };

export function DayLight({ shoot, lines, moving }: Props) {
  const known = shoot.day !== null && shoot.latitude !== null && shoot.longitude !== null;
  const day = useQuery({ ...dayQuery(shoot.id), enabled: known });
  const zone = shoot.zone ?? "UTC";
  const [chosen, setChosen] = useState<string | null>(null);
  const glass = useQuery({ ...glassQuery(chosen ?? ""), enabled: known && chosen !== null });
  const { preview, move, moved, putBack, problem } = moving;
  const clock = useCallback((ms: number) => clockOf(new Date(ms).toISOString(), zone), [zone]);
  const shots = useMemo<StripShot[]>(
    () =>
      lines.map((line) => {
        const summary = line.summary as Summary;
        return {
          id: line.id,
          title: summary.title,
          camera: summary.camera ?? "",
          at: line.starts_at === null ? null : Date.parse(line.starts_at),
          lastsMs: (summary.lasts_s ?? 0) * 1000,
          ev100: summary.ev100 ?? [0, 0],
          own: !(summary.daylight ?? false),
        };
      }),
    [lines],
  );
  if (!known)
    return (
      <>
        <Unknown shoot={shoot} />
        <MovedWords {...moving} clock={clock} />
      </>
    );
  if (day.error && !day.data) return <Trouble error={day.error} retry={() => day.refetch()} />;
  if (!day.data) return <Loading what="Working out the light." className="h-[330px] pt-4" />;
  const title = shots.find((shot) => shot.id === chosen)?.title;
  return (
    <div className="pt-3">
      <SkyLine shoot={shoot} sky={day.data.sky} moonLit={day.data.moon_lit} />
      <LightStrip
        day={day.data}
        shots={shots}
        chosen={chosen}
        glass={(chosen && glass.data?.items) || NO_GLASS}
        clock={clock}
        onChoose={setChosen}
        onMove={move}
      />
      <p role="status" className="min-h-[40px] pt-1 text-small leading-[1.45]" data-testid="strip-says">
        {preview ? (
          <>
            <b>{clock(preview.at)}</b>{" "}
            {preview.moved?.plan
              ? planWords(preview.moved.plan)
              : preview.moved
                ? "its light stays as it is"
                : "planning"}
          </>
        ) : moved || problem ? (
          <MovedWords moved={moved} putBack={putBack} problem={problem} clock={clock} />
        ) : title && glass.data ? (
          <>
            <b>{title}</b>
            {lightAt(day.data, shots.find((shot) => shot.id === chosen)?.at ?? null)}.{" "}
            {glass.data.items.length > 0
              ? `If it comes early or late: ${glassWords(glass.data.items, clock)}`
              : sky(chosen, lines)
                ? "Its filter does not follow the hour."
                : "Its light is told without the sky, so its filter is the same at any hour of such light."}
          </>
        ) : (
          <span className="text-muted">
            Choose a shot to see when its glass would be changed. Drag it along, press the arrow keys, or type
            its start in the list.
          </span>
        )}
      </p>
    </div>
  );
}

function sky(chosen: string | null, lines: ShotLine[]): boolean {
  const line = lines.find((entry) => entry.id === chosen);
  return (line?.summary as Summary | undefined)?.sky ?? false;
}

type MovedProps = Pick<Moving, "moved" | "putBack" | "problem"> & { clock: (ms: number) => string };

/** What was moved last, with the way back, or why it was not. */
function MovedWords({ moved, putBack, problem, clock }: MovedProps) {
  if (problem) return <b className="text-note">{problem}</b>;
  if (!moved) return null;
  return (
    <>
      {moved.at === null ? (
        "Its time was taken away."
      ) : (
        <>
          Moved to <b>{clock(moved.at)}</b>.
        </>
      )}{" "}
      <button type="button" className="underline" onClick={putBack}>
        put it back
      </button>
    </>
  );
}

/** What the sky gives at a moment: stops and kelvin. */
function lightAt(day: DayOfLight, at: number | null): string {
  if (at === null) return "";
  const place = Math.round((at - Date.parse(day.start)) / (day.step_s * 1000));
  const [ev, kelvin] = [day.level_ev100[place], day.kelvin[place]];
  if (ev === undefined || kelvin === undefined) return "";
  return ev < -2
    ? ", the sky is dark"
    : `, sky of EV ${stops(ev)} and ${Math.round(kelvin / 100) * 100}\u202fK`;
}

const NO_GLASS: GlassSpan[] = [];

function planWords(plan: Plan): string {
  return `EV ${plan.exposure.ev100.map(stops).join(" to ")}: ${plan.says}, ${stops(plan.given_up_stops)} stops given up`;
}

/** "ND 8 from 07:32, ND 16 from 07:58, …": the spans that serve, with what lies between them. */
export function glassWords(spans: GlassSpan[], clock: (ms: number) => string): string {
  const first = spans.findIndex((span) => span.nd);
  const last = spans.findLastIndex((span) => span.nd);
  if (first < 0) return `${spans[0]?.name ?? "no light"} all day.`;
  const said = spans
    .slice(first, last + 1)
    .map((span) => `${span.name} ${span.nd ? "from" : "at"} ${clock(Date.parse(span.start))}`);
  const after = spans[last + 1];
  const end = after ? `; after ${clock(Date.parse(after.start))} ${after.name}` : "";
  return `${said.join(", ")}${end}.`;
}

type Sky = { chosen: boolean; source: string; made_at: string | null; problem: string | null };

function SkyLine({ shoot, sky, moonLit }: { shoot: Shoot; sky: Sky; moonLit: number }) {
  const { engine, now, say } = useChanges({
    place: `sky.${shoot.id}`,
    shown: { cloud: shoot.cloud ?? null },
    revision: shoot.revision,
    send: (revision, change) => shootsApi.changeShoot(shoot.id, revision, change),
    reread: () => changed.sky(shoot.id),
  });
  const skies = useQuery(vocabularyQuery).data?.options.skies ?? [];
  const age = sky.made_at ? Math.max(0, Math.round((Date.now() - Date.parse(sky.made_at)) / 60_000)) : null;
  return (
    <p className="flex flex-wrap items-baseline gap-x-4 text-small text-muted">
      <label>
        Sky{" "}
        <select
          aria-label="Sky"
          className="border border-rule bg-transparent px-1 py-[2px] text-ink"
          value={now.cloud ?? ""}
          onChange={(event) => void say({ cloud: event.target.value || null })}
        >
          <option value="">as forecast</option>
          {skies.map(({ id, name }) => (
            <option key={id} value={id}>
              {name}
            </option>
          ))}
        </select>
      </label>
      <Met engine={engine} />
      <span data-testid="sky-source">
        {sky.problem ? (
          <b className="text-note">{sky.problem}</b>
        ) : (
          `${sky.source}${age === null ? "" : `, ${age < 90 ? `${age} min` : `${Math.round(age / 60)} h`} old`}`
        )}
        {sky.problem && ` Until then ${sky.source} stands.`}
      </span>
      <span>
        moon {Math.round(moonLit * 100)}
        {"\u202f"}% lit, dotted while it is up
      </span>
      <span className="ml-auto">
        {(["csv", "svg", "ics"] as const).map((ending) => (
          <a
            key={ending}
            className="ml-3 underline decoration-deep underline-offset-2 hover:text-ink"
            href={`/api/shoots/${shoot.id}/light.${ending}`}
            download
          >
            {{ csv: "CSV", svg: "SVG", ics: "calendar (.ics)" }[ending]}
          </a>
        ))}
      </span>
    </p>
  );
}

function Unknown({ shoot }: { shoot: Shoot }) {
  const missing = [
    shoot.day === null && "its day",
    (shoot.latitude === null || shoot.longitude === null) && "where it is",
  ].filter(Boolean);
  return (
    <p className="pt-4 font-serif text-lead text-muted">
      The light of the day appears here once the shoot says {missing.join(" and ")}. Give it under “Place and
      day”.
    </p>
  );
}

type Preview = { at: number; moved: MovedShot | null };
type Moved = { id: string; at: number | null; before: string | null };
export type Moving = ReturnType<typeof useMoving>;

/** Moves a shot in time, and its light with it where the sky gives it; shows the plan on the way. */
export function useMoving(shoot: Shoot) {
  const [preview, setPreview] = useState<Preview | null>(null);
  const [moved, setMoved] = useState<Moved | null>(null);
  const [problem, setProblem] = useState<string | null>(null);
  const asked = useRef<AbortController | null>(null);
  const start = useCallback(
    async (id: string, at: string | null) => {
      const { before } = await dayApi.takeOrder(shoot.id, { [id]: at });
      await changed.starts();
      return (before as Record<string, string | null>)[id] ?? null;
    },
    [shoot.id],
  );
  const move = useCallback(
    (id: string, at: number, done: boolean) => {
      const when = new Date(at).toISOString();
      setProblem(null);
      asked.current?.abort();
      const abort = new AbortController();
      asked.current = abort;
      const work = async () => {
        if (done) {
          const before = await start(id, when);
          setPreview(null);
          setMoved({ id, at, before });
          return;
        }
        setPreview((now) => ({ at, moved: now?.moved ?? null }));
        const there = await benchApi.moved(id, when, abort.signal);
        setPreview({ at, moved: there });
      };
      work().catch((error: Error) => {
        if (abort.signal.aborted && !done) return;
        setPreview(null);
        setProblem(error.message);
      });
    },
    [start],
  );
  /** Gives a shot the start that was typed, or none. */
  const give = async (id: string, at: string | null) => {
    setProblem(null);
    try {
      const before = await start(id, at);
      setMoved({ id, at: at === null ? null : Date.parse(at), before });
    } catch (error) {
      setProblem((error as Error).message);
    }
  };
  const putBack = () => {
    if (!moved) return;
    start(moved.id, moved.before).then(
      () => setMoved(null),
      (error: Error) => setProblem(error.message),
    );
  };
  return { preview, move, give, moved, putBack, problem };
}
