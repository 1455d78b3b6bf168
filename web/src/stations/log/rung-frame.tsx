// A rung's frame: of its take where one was measured, else as Look draws its plan.
import { useQuery } from "@tanstack/react-query";
import type { Ladder, Rung } from "../../api/log";
import { type Frame, frameQuery, type Side, type Sight } from "../../api/look";
import type { Brief } from "../../api/types";
import { Framed, Picture } from "../../instruments/picture";

type Props = { found: Ladder; rung: Rung; place: string; close: boolean; says: string; moment: number };

const WIDTH = 640;

export function RungFrame({ found, rung, place, close, says, moment }: Props) {
  const filmed = rung.frames ?? [];
  const brief = found.brief as Brief | null;
  const shape = brief ? brief.delivery.width / brief.delivery.height : 16 / 9;
  if (filmed.length > 0)
    return (
      <Framed shape={shape}>
        <Picture src={filmed[moment % filmed.length] ?? null} says={says} coloured />
      </Framed>
    );
  if (!brief) return <p className="p-4 text-muted">No frame was filmed, and its shot is gone.</p>;
  return <Drawn brief={brief} rung={rung} place={place} close={close} says={says} shape={shape} />;
}

type DrawnProps = {
  brief: Brief;
  rung: Rung;
  place: string;
  close: boolean;
  says: string;
  shape: number;
};

function Drawn({ brief, rung, place, close, says, shape }: DrawnProps) {
  const side: Side = { brief, chosen: rung.pins, held: null };
  const sight: Sight = {
    scene: null,
    at: 0,
    width: WIDTH,
    loupe: close ? [0, 0] : null,
    graded: null,
    marked: false,
  };
  const frame = useQuery(frameQuery(side, sight, place));
  const drawn: Frame | undefined = frame.data;
  return (
    <Framed shape={shape}>
      <Picture src={drawn?.src ?? null} says={says} coloured sharp={close} old={frame.isPlaceholderData} />
      {frame.isFetching && (
        <span role="status" className="absolute right-0 bottom-0 bg-ground px-2 text-fine">
          drawing
        </span>
      )}
      {frame.error && !drawn && (
        <span role="alert" className="absolute inset-0 grid place-content-center text-note">
          {frame.error.message}
        </span>
      )}
    </Framed>
  );
}
