// What leaves Look: a frame as a file, frames on the card.
import { useMutation } from "@tanstack/react-query";
import { Link } from "react-router";
import { changed, inTurn } from "../../api/keys";
import { drawFrame, lookApi, type Side, type Sight } from "../../api/look";
import { fileName, saveAs } from "./saving";

type OnCardProps = { shot: string; frames: { name: string; side: Side }[]; sight: Sight };

export function OnCard({ shot, frames, sight }: OnCardProps) {
  const put = useMutation({
    ...inTurn("card frames", shot),
    mutationFn: (put: typeof frames) => lookApi.putOnCard(shot, put, sight),
    onSuccess: () => changed.cardFrames(shot),
  });
  return (
    <p className="flex flex-wrap items-center gap-2 pt-2 text-small">
      <button type="button" className="plain" disabled={put.isPending} onClick={() => put.mutate(frames)}>
        {put.isPending
          ? "Drawing for the card"
          : frames.length > 1
            ? "Put both on the card"
            : "Put it on the card"}
      </button>
      {put.data && (
        <span role="status">
          {put.data.total === 0 ? "Taken off the card." : "On the "}
          {put.data.total > 0 && (
            <>
              <Link className="underline" to={`/shots/${shot}/card`}>
                card
              </Link>
              .{" "}
              <button type="button" className="underline" onClick={() => put.mutate([])}>
                Take off
              </button>
            </>
          )}
        </span>
      )}
      {put.error && (
        <span role="alert" className="text-note">
          {put.error.message}
        </span>
      )}
    </p>
  );
}

type SaveProps = { side: Side; sight: Sight; name: string; says: string };

export function Save({ side, sight, name, says }: SaveProps) {
  const save = useMutation({
    mutationFn: (form: "png" | "webp") =>
      drawFrame(side, { ...sight, width: 1920 }, `save ${name}`, undefined, form),
    onSuccess: (frame, form) => saveAs(fileName(name, form), frame.src),
  });
  return (
    <span className="inline-flex items-center gap-1">
      <button type="button" className="plain" disabled={save.isPending} onClick={() => save.mutate("png")}>
        {save.isPending ? "Drawing it large" : says}
      </button>
      <button
        type="button"
        className="text-fine text-muted underline"
        aria-label={`${says} as WebP`}
        disabled={save.isPending}
        onClick={() => save.mutate("webp")}
      >
        WebP
      </button>
      {save.error && (
        <span role="alert" className="text-fine text-note">
          {save.error.message}
        </span>
      )}
    </span>
  );
}
