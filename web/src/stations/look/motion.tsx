// Two seconds as they would run on the timeline, of both plans in step.
import { useMutation, useQuery } from "@tanstack/react-query";
import { useEffect, useRef, useState } from "react";
import { keys } from "../../api/keys";
import { type FilmState, lookApi, type Side, type Sight } from "../../api/look";
import { isSame } from "../../changes/fields";
import { Trouble } from "../../parts/trouble";
import { fileName, saveAs } from "./saving";

type Props = { title: string; sides: Side[]; sight: Sight; coloured: boolean; names: string[] };

const WIDTH = 640;
const SECONDS = 2;
const PACES: [number, string][] = [
  [1, "as it runs"],
  [0.5, "at half pace"],
  [0.25, "at a quarter"],
];

export function Motion({ title, sides, sight, coloured, names }: Props) {
  const moving: Sight = { ...sight, width: WIDTH, loupe: null, marked: false };
  const asked = { sides, moving };
  const [drawn, setDrawn] = useState<{ asked: unknown; id: string } | null>(null);
  const [pace, setPace] = useState(1);
  const begin = useMutation({
    mutationFn: () => lookApi.beginFilm(sides, moving, SECONDS),
    onSuccess: (state) => setDrawn({ asked, id: state.id }),
  });
  const state = useQuery({
    queryKey: [...keys.look("film", drawn?.id)],
    queryFn: () => lookApi.film(drawn?.id ?? ""),
    enabled: drawn !== null,
    staleTime: 0,
    refetchInterval: (query) => (query.state.data && query.state.data.state !== "drawing" ? false : 200),
  });
  const film = useRef<HTMLVideoElement>(null);
  // biome-ignore lint/correctness/useExhaustiveDependencies: a film that is there anew runs at the pace chosen
  useEffect(() => {
    if (film.current) film.current.playbackRate = pace;
  }, [pace, state.data]);
  // Whoever goes away wants no film any more.
  const id = drawn?.id;
  useEffect(
    () => () => {
      if (id) void lookApi.stopFilm(id).catch(() => undefined);
    },
    [id],
  );
  const old = drawn !== null && !isSame(drawn.asked, asked);
  const trouble = begin.error ?? state.error ?? problemOf(state.data);
  const running = drawn !== null && state.data?.state === "drawing";
  return (
    <section aria-label="Motion" className="grid gap-3">
      <div className="flex flex-wrap items-center gap-3">
        <button
          type="button"
          className="plain"
          disabled={begin.isPending || running}
          onClick={() => begin.mutate()}
        >
          {drawn === null ? "Draw two seconds" : "Draw them again"}
        </button>
        {running && state.data && (
          <>
            <progress value={state.data.done} max={state.data.total} aria-label="Frames drawn" />
            <span role="status" className="text-small text-muted">
              {state.data.done} of {state.data.total} frames
            </span>
            <button type="button" className="plain" onClick={() => setDrawn(null)}>
              Stop
            </button>
          </>
        )}
        {old && !running && (
          <span role="status" className="text-small text-note">
            Drawn before the last change.
          </span>
        )}
      </div>
      {trouble && <Trouble error={trouble} retry={() => begin.mutate()} />}
      {drawn && state.data?.state === "done" && (
        <>
          <div className="flex justify-between text-small text-muted">
            {names.map((name) => (
              <b key={name}>{name}</b>
            ))}
          </div>
          <span className="look-picture" data-coloured={coloured || undefined}>
            <video
              ref={film}
              className="block w-full"
              src={lookApi.filmAt(drawn.id)}
              aria-label={`Two seconds of ${names.join(" and of ")}, side by side`}
              autoPlay={!window.matchMedia("(prefers-reduced-motion: reduce)").matches}
              loop
              muted
              controls
              playsInline
            />
          </span>
          <div className="flex flex-wrap items-center gap-3 text-small">
            {PACES.map(([rate, says]) => (
              <button
                key={rate}
                type="button"
                aria-pressed={pace === rate}
                className={`border-b-2 ${pace === rate ? "border-ink font-bold" : "border-transparent text-muted"}`}
                onClick={() => setPace(rate)}
              >
                {says}
              </button>
            ))}
            <button
              type="button"
              className="ml-auto underline decoration-deep underline-offset-3 text-muted hover:text-ink"
              onClick={() => saveAs(fileName(title, "mp4"), lookApi.filmAt(drawn.id))}
            >
              save MP4
            </button>
          </div>
        </>
      )}
      {drawn === null && !begin.isPending && (
        <p className="max-w-[440px] text-small text-muted">
          Shake that stabilisation leaves, smear that pulses, stutter, uneven cadence, flicker and bands, slow
          motion, and how a fast pan leans. Both plans run in step.
        </p>
      )}
    </section>
  );
}

function problemOf(state: FilmState | undefined): Error | null {
  return state?.state === "failed" ? new Error(state.problem ?? "It could not be drawn.") : null;
}
