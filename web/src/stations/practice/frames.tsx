// Frames that a question asks about: each whole, and a part of it at delivered pixels; or told by its measures.
import { useQuery } from "@tanstack/react-query";
import { useState } from "react";
import { frameQuery, type Sight } from "../../api/look";
import type { Question } from "../../api/practice";
import type { Brief } from "../../api/types";
import { refusalWords } from "../../changes/refusals";
import { Picture } from "../../instruments/picture";
import { useGround } from "../../parts/ground";
import { Clip } from "./clip";

const WHOLE: Sight = { scene: null, at: 0.5, width: 640, loupe: null, graded: null, marked: false };
const PART: Sight = { ...WHOLE, width: 480, loupe: [0, 0] };
const NAMES = ["the first", "the second"];

type FramesProps = { question: Question; told: boolean; without: () => void };

/** told: whether it is answered, and the measures may stand below; without: asks something without pictures instead. */
export function Frames({ question, told, without }: FramesProps) {
  const [measures, setMeasures] = useState(false);
  const [coloured, setColoured] = useState(false);
  const ground = useGround();
  const several = question.frames.length > 1;
  return (
    <>
      <div className={`grid gap-4 pt-4 ${several ? "grid-cols-2 max-md:grid-cols-1" : ""}`}>
        {question.frames.map((frame, n) => (
          <div key={NAMES[n]}>
            {several && <p className="pb-1 text-small text-muted">{NAMES[n]}</p>}
            {question.moving ? (
              <Clip frame={frame} coloured={coloured} />
            ) : (
              <div
                className={
                  several
                    ? "grid gap-2"
                    : "grid grid-cols-[minmax(0,4fr)_minmax(0,3fr)] gap-2 max-md:grid-cols-1 md:*:h-full"
                }
              >
                <Whole frame={frame} place={`practice ${n}`} coloured={coloured} />
                <Part frame={frame} place={`practice part ${n}`} coloured={coloured} />
              </div>
            )}
            {(measures || told) && <p className="pt-1 text-small leading-snug">{frame.says}</p>}
          </div>
        ))}
      </div>
      {!told && (
        <p className="flex flex-wrap gap-x-5 gap-y-1 pt-2 text-small">
          <button
            type="button"
            className="underline"
            aria-pressed={measures}
            onClick={() => setMeasures((on) => !on)}
          >
            tell it by its measures
          </button>
          <button type="button" className="underline" onClick={without}>
            ask without pictures
          </button>
          {ground === "red" && (
            <button
              type="button"
              className="underline"
              aria-pressed={coloured}
              onClick={() => setColoured((on) => !on)}
            >
              show the colours
            </button>
          )}
        </p>
      )}
    </>
  );
}

type Shown = { frame: Question["frames"][number]; place: string; coloured: boolean };

const useDrawn = ({ frame, place }: Shown, sight: Sight) =>
  useQuery({
    ...frameQuery({ brief: frame.brief as Brief, chosen: frame.settings, held: null }, sight, place),
    placeholderData: undefined, // a frame of the question before would be another answer
  });

const HIGH_PX = 250;

/** The whole frame, told by its measures to whoever cannot see it. */
function Whole(shown: Shown) {
  const { width, height } = shown.frame.brief.delivery ?? {};
  const shape = width && height ? width / height : 16 / 9;
  const drawn = useDrawn(shown, WHOLE);
  if (drawn.error)
    return (
      <p role="alert" className="text-small text-note">
        {refusalWords(drawn.error)}
      </p>
    );
  return (
    <div
      className="w-full border border-rule bg-second"
      style={{ aspectRatio: shape, maxWidth: `${Math.round(HIGH_PX * shape)}px` }}
    >
      {drawn.data ? (
        <Picture src={drawn.data.src} says={shown.frame.says} coloured={shown.coloured} />
      ) : (
        <p role="status" className="p-2 text-small text-muted">
          Drawing it.
        </p>
      )}
    </div>
  );
}

/** The middle of it, a pixel of the delivery to one of the screen; the whole frame says what there is to say. */
function Part(shown: Shown) {
  const drawn = useDrawn(shown, PART);
  return (
    <div className="part-of-frame h-[130px] overflow-hidden border border-rule bg-second">
      {drawn.data && <Picture src={drawn.data.src} says="" coloured={shown.coloured} />}
    </div>
  );
}
