// The film as a sentence: each part of it opens in place.
import { type ReactNode, useCallback, useEffect, useRef, useState } from "react";
import type { Film, FilmOut } from "../../../api/story";
import { Choice, DurationField, Line, NumberField, Tick } from "../../../parts/fields";
import { Panel } from "../../../parts/panel";

type Props = {
  film: Film;
  says: FilmOut["film"];
  put: (change: Record<string, unknown>, says: string) => unknown;
};

const SHAPES: [string, string][] = [
  ["16:9", "wide, 16:9"],
  ["9:16", "upright, 9:16"],
  ["1:1", "square, 1:1"],
  ["4:5", "upright, 4:5"],
  ["21:9", "very wide, 21:9"],
];
const named = (shape: string) => ({ "9:16": "upright", "1:1": "square" })[shape] ?? shape;

const BEATS = ["", "every beat", "every second beat", "every third beat", "every fourth beat"];
const everyWords = (beats: number) => BEATS[beats] ?? `every ${beats} beats`;

export function FilmSentence({ film, says, put: keep }: Props) {
  const put = useSoon(keep);
  const shapes = film.shapes ?? ["16:9"];
  const beats = film.cut_beats ?? 2;
  return (
    <p className="border-hair border-b pb-2 font-serif text-title leading-[1.5]">
      <Word name="title" says={film.title}>
        <Title film={film} put={put} />
      </Word>
      : a film of{" "}
      <Word name="length" says={`${film.length_s}\u202fs`}>
        <DurationField
          label="On the screen"
          unit="s"
          most={7200}
          value={film.length_s ?? 20}
          live
          autoFocus
          onChange={(length_s) => put({ length_s }, "the length")}
        />
        <p className="pt-2 text-fine text-muted">Shots follow: frame, takes and lengths are the film’s.</p>
      </Word>
      ,{" "}
      <Word name="shapes" says={shapes.map(named).join(" and ")}>
        <p className="pb-1 text-fine text-muted">The first is the main one; the others are cut from it.</p>
        {SHAPES.map(([shape, word]) => (
          <Tick
            key={shape}
            says={`${word}${shapes[0] === shape ? ", the main one" : ""}`}
            checked={shapes.includes(shape)}
            onChange={(on) => {
              const next = on ? [...shapes, shape] : shapes.filter((one) => one !== shape);
              if (next.length) put({ shapes: next }, "the shapes");
            }}
          />
        ))}
        <label className="block pt-2 text-fine text-muted">
          main shape
          <select
            className="field text-ink"
            value={shapes[0]}
            onChange={(event) =>
              put(
                { shapes: [event.target.value, ...shapes.filter((one) => one !== event.target.value)] },
                "the shape",
              )
            }
          >
            {SHAPES.map(([shape, word]) => (
              <option key={shape} value={shape}>
                {word}
              </option>
            ))}
          </select>
        </label>
      </Word>
      ,{" "}
      {film.music_bpm == null ? (
        <>
          <Word name="music" says="without music">
            <Music film={film} put={put} />
          </Word>
          , cut every{" "}
          <Word name="pace" says={`${film.cut_s}\u202fs`}>
            <Pace film={film} put={put} />
          </Word>
        </>
      ) : (
        <>
          to music at{" "}
          <Word name="music" says={`${film.music_bpm} beats a minute`}>
            <Music film={film} put={put} />
          </Word>
          , cut{" "}
          <Word name="pace" says={everyWords(beats)}>
            <Choice
              label="A cut"
              value={beats}
              options={[1, 2, 3, 4, 6, 8].map((value) => ({
                value,
                says: everyWords(value),
                hint: `${Number(((60 / (film.music_bpm ?? 60)) * value).toFixed(2))} s`,
              }))}
              onChange={(cut_beats) => put({ cut_beats }, "the pace")}
            />
          </Word>
        </>
      )}
      ,{" "}
      <Word name="takes" says={`${film.tries} tries held ${film.hold_s}\u202fs`}>
        <div className="grid gap-3">
          <NumberField
            label="Takes of each framing"
            unit=""
            value={film.tries ?? 3}
            autoFocus
            onChange={(tries) => put({ tries }, "the tries")}
          />
          <NumberField
            label="Held at least"
            unit="s"
            value={film.hold_s ?? 10}
            onChange={(hold_s) => put({ hold_s }, "the hold")}
          />
          <NumberField
            label="Before and after what is used"
            unit="s"
            value={film.handle_s ?? 1}
            onChange={(handle_s) => put({ handle_s }, "the handles")}
          />
          <NumberField
            label="Slowed"
            unit="×"
            value={film.slow_factor ?? 1}
            onChange={(slow_factor) => put({ slow_factor }, "the slowing")}
          />
          <NumberField
            label="Timeline"
            unit="fps"
            value={film.fps ?? 25}
            onChange={(fps) => put({ fps }, "the rate")}
          />
          <Tick
            says="to be graded"
            checked={film.graded ?? true}
            onChange={(graded) => put({ graded }, "the grade")}
          />
        </div>
      </Word>
      : <b className="font-semibold">{says.cuts_words}.</b>
    </p>
  );
}

const SOON_MS = 450;
type Put = Props["put"];

/** Keeps what is typed once the hand rests, so that over and under are told while one types; of the same field the last counts. */
function useSoon(put: Put): Put {
  const waiting = useRef<Record<string, { change: Record<string, unknown>; says: string }>>({});
  const timer = useRef<ReturnType<typeof setTimeout>>(undefined);
  const latest = useRef(put);
  latest.current = put;
  const flush = useCallback(() => {
    clearTimeout(timer.current);
    const all = Object.values(waiting.current);
    waiting.current = {};
    for (const { change, says } of all) latest.current(change, says);
  }, []);
  useEffect(() => flush, [flush]);
  return (change, says) => {
    waiting.current[Object.keys(change).join()] = { change, says };
    clearTimeout(timer.current);
    timer.current = setTimeout(flush, SOON_MS);
  };
}

type Edit = Pick<Props, "film" | "put">;

function Title({ film, put }: Edit) {
  return (
    <div className="grid gap-3">
      <Line
        label="Title"
        value={film.title}
        keep={(title) => title && put({ title }, "the title")}
        autoFocus
      />
      <Line
        label="What it is for"
        value={film.purpose ?? ""}
        keep={(purpose) => put({ purpose }, "the purpose")}
      />
    </div>
  );
}

function Music({ film, put }: Edit) {
  return (
    <>
      <NumberField
        label="Beats a minute"
        unit="bpm"
        value={film.music_bpm ?? null}
        autoFocus
        onChange={(music_bpm) => music_bpm >= 20 && music_bpm <= 400 && put({ music_bpm }, "the music")}
        onClear={() => film.music_bpm != null && put({ music_bpm: null }, "the music")}
      />
      <p className="pt-2 text-fine text-muted">20 to 400; empty: no music, cuts by the second.</p>
    </>
  );
}

function Pace({ film, put }: Edit) {
  return (
    <>
      <NumberField
        label="From cut to cut"
        unit="s"
        value={film.cut_s ?? 2.5}
        autoFocus
        onChange={(cut_s) => cut_s >= 0.1 && put({ cut_s }, "the pace")}
      />
      <p className="pt-2 text-fine text-muted">Calm about 5 s, steady 2.5 s, quick 1.2 s.</p>
    </>
  );
}

function Word({ name, says, children }: { name: string; says: ReactNode; children: ReactNode }) {
  const [open, setOpen] = useState(false);
  return (
    <Panel
      label={name}
      trigger={{ className: "token", "aria-label": `${name}: ${String(says)}` }}
      says={says}
      open={open}
      onOpen={setOpen}
      wide="w-[320px] p-4 font-sans"
    >
      {children}
    </Panel>
  );
}
