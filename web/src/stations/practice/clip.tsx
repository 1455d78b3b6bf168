// A clip that a question asks about, drawn when it is asked: it runs in a loop, unless whoever looks wants no motion.
import { useMutation, useQuery } from "@tanstack/react-query";
import { useEffect } from "react";
import { keys } from "../../api/keys";
import { lookApi, type Sight } from "../../api/look";
import type { Question } from "../../api/practice";
import type { Brief } from "../../api/types";
import { refusalWords } from "../../changes/refusals";

const MOVING: Sight = { scene: null, at: 0.5, width: 480, loupe: null, graded: null, marked: false };
const SECONDS = 1; // longer, and fast scenes leave the frame
const ASKED_EVERY_MS = 200;

type Props = { frame: Question["frames"][number]; coloured: boolean };

export function Clip({ frame, coloured }: Props) {
  const begin = useMutation({
    mutationFn: () =>
      lookApi.beginFilm(
        [{ brief: frame.brief as Brief, chosen: frame.settings, held: null }],
        MOVING,
        SECONDS,
      ),
  });
  const { mutate } = begin;
  useEffect(() => mutate(), [mutate]);
  const id = begin.data?.id;
  const film = useQuery({
    queryKey: [...keys.look("film", id)],
    queryFn: () => lookApi.film(id ?? ""),
    enabled: id !== undefined,
    staleTime: 0,
    refetchInterval: (query) =>
      query.state.data && query.state.data.state !== "drawing" ? false : ASKED_EVERY_MS,
  });
  useEffect(
    () => () => {
      if (id) void lookApi.stopFilm(id).catch(() => undefined);
    },
    [id],
  );
  const problem = begin.error ?? film.error;
  if (problem || film.data?.state === "failed")
    return (
      <p role="alert" className="text-small text-note">
        {problem ? refusalWords(problem) : (film.data?.problem ?? "It could not be drawn.")}{" "}
        <button type="button" className="underline" onClick={() => mutate()}>
          Try again
        </button>
      </p>
    );
  if (!id || film.data?.state !== "done")
    return (
      <p className="flex flex-wrap items-center gap-3 border border-rule bg-second p-4 text-small text-muted">
        <span role="status">Drawing the clip.</span>
        {film.data && <progress value={film.data.done} max={film.data.total} aria-label="Frames drawn" />}
      </p>
    );
  return (
    <span
      className="look-picture !h-auto max-w-[560px] border border-rule"
      data-coloured={coloured || undefined}
    >
      <video
        className="block w-full"
        src={lookApi.filmAt(id)}
        aria-label={frame.says}
        autoPlay={!window.matchMedia("(prefers-reduced-motion: reduce)").matches}
        loop
        muted
        controls
        playsInline
      />
    </span>
  );
}
