// A film as a strip of its cuts at their lengths: what is kept is filled, what is missing is hatched.
import { useRef } from "react";
import type { FramingFacts, Strip } from "../api/story";
import { useWidth } from "../parts/use-width";

const [TOP, HIGH, LETTERS] = [26, 42, 22];

type Props = {
  strip: Strip;
  beats: { id: string; title: string }[];
  framings: FramingFacts[];
  numbers: Map<string, number>;
  chosen: string | null;
  onChoose: (key: string) => void;
};

function step(seconds: number): number {
  const rough = seconds / 6;
  const power = 10 ** Math.floor(Math.log10(rough));
  return ([1, 2, 5, 10].find((one) => one * power >= rough) ?? 10) * power;
}

export function FilmStrip({ strip, beats, framings, numbers, chosen, onChoose }: Props) {
  const drawn = useRef<SVGSVGElement>(null);
  const width = useWidth(drawn, 960);
  const last = Math.max(strip.frames, ...strip.cuts.map((cut) => cut.to_frame));
  const x = (frame: number) => 1 + (frame / last) * (width - 2);
  const state = new Map(framings.map((one) => [one.key, one.state]));
  const ends = strip.frames / strip.fps;
  const every = step(last / strip.fps);
  const marks = Array.from({ length: Math.floor(last / strip.fps / every) + 1 }, (_, n) => n * every);
  const title = new Map(beats.map((beat) => [beat.id, beat.title]));
  let named = "";
  return (
    <svg
      ref={drawn}
      className="block w-full"
      height={TOP + HIGH + LETTERS + 4}
      viewBox={`0 0 ${width} ${TOP + HIGH + LETTERS + 4}`}
      role="group"
      aria-label="The film as cuts"
    >
      <defs>
        <pattern
          id="unfilmed"
          width="7"
          height="7"
          patternUnits="userSpaceOnUse"
          patternTransform="rotate(45)"
        >
          <path d="M0 0V7" stroke="var(--note)" strokeWidth="1.5" />
        </pattern>
      </defs>
      {strip.cuts.map((cut) => {
        const [from, to] = [x(cut.from_frame), x(cut.to_frame)];
        const begins = cut.beat !== null && cut.beat !== named;
        if (begins) named = cut.beat ?? "";
        const seconds = ((cut.to_frame - cut.from_frame) / strip.fps).toFixed(2);
        const kept = cut.key !== null && state.get(cut.key) === "kept";
        const says =
          cut.key === null
            ? `${seconds} s without a framing`
            : `Framing ${numbers.get(cut.key)}, ${seconds} s, ${kept ? "kept" : state.get(cut.key) === "taken" ? "no take kept" : "not filmed"}${cut.beyond ? ", beyond the film's end" : ""}`;
        const open = () => cut.key !== null && onChoose(cut.key);
        return (
          <g key={`${cut.from_frame} ${cut.key}`}>
            {begins && (
              <text
                x={from + 1}
                y={TOP - 8}
                fontSize="14.5"
                fontStyle="italic"
                fontFamily="var(--font-serif)"
                fill="var(--ink)"
              >
                {short(title.get(cut.beat ?? "") ?? "", strip, cut.beat, x, width)}
              </text>
            )}
            <g
              role="button"
              tabIndex={cut.key === null ? -1 : 0}
              aria-label={says}
              aria-disabled={cut.key === null}
              aria-pressed={cut.key !== null && cut.key === chosen}
              className={cut.key === null ? "" : "cursor-pointer"}
              onClick={open}
              onKeyDown={(event) => {
                if (event.key === "Enter" || event.key === " ") {
                  event.preventDefault();
                  open();
                }
              }}
            >
              <title>{says}</title>
              <rect
                x={from + 0.75}
                y={TOP}
                width={Math.max(1, to - from - 1.5)}
                height={HIGH}
                fill={kept ? "var(--mid)" : "var(--ground)"}
              />
              <rect
                x={from + 0.75}
                y={TOP}
                width={Math.max(1, to - from - 1.5)}
                height={HIGH}
                fill={kept ? "none" : "url(#unfilmed)"}
                stroke="var(--ink)"
                strokeWidth={cut.key !== null && cut.key === chosen ? 3 : 1}
                strokeDasharray={cut.key === null ? "3 3" : undefined}
              />
              {to - from > 8 + 9 * String(numbers.get(cut.key ?? "")).length && cut.key !== null && (
                <text
                  x={(from + to) / 2}
                  y={TOP + HIGH / 2 + 5}
                  textAnchor="middle"
                  fontSize="14"
                  fontWeight="700"
                  fill="var(--ink)"
                  stroke={kept ? "var(--mid)" : "var(--ground)"}
                  strokeWidth="5"
                  paintOrder="stroke"
                >
                  {numbers.get(cut.key)}
                </text>
              )}
            </g>
          </g>
        );
      })}
      <path d={`M0 ${TOP + HIGH + 3}H${x(strip.frames)}`} stroke="var(--ink)" strokeWidth="1.4" />
      {last > strip.frames && (
        <>
          <path
            d={`M${x(strip.frames)} ${TOP - 6}V${TOP + HIGH + 9}`}
            stroke="var(--note)"
            strokeWidth="2.5"
          />
          <text
            x={x(strip.frames) - 5}
            y={TOP + HIGH + 19}
            textAnchor="end"
            fontSize="12.5"
            fontWeight="700"
            fill="var(--note)"
          >
            the film ends, {ends} s
          </text>
        </>
      )}
      {marks.map((at) => (
        <g key={at}>
          <path d={`M${x(at * strip.fps)} ${TOP + HIGH + 3}v5`} stroke="var(--ink)" />
          {(last <= strip.frames || Math.abs(x(at * strip.fps) - x(strip.frames)) > 140 || at > ends) && (
            <text
              x={x(at * strip.fps)}
              y={TOP + HIGH + 20}
              fontSize="12.5"
              fill="var(--muted)"
              textAnchor={at === 0 ? "start" : x(at * strip.fps) > width - 20 ? "end" : "middle"}
            >
              {Number(at.toFixed(2))} s
            </text>
          )}
        </g>
      ))}
    </svg>
  );
}

/** A title as far as its beat has room for it. */
function short(
  title: string,
  strip: Strip,
  beat: string | null,
  x: (frame: number) => number,
  width: number,
): string {
  const mine = strip.cuts.filter((cut) => cut.beat === beat);
  const begin = x(mine[0]?.from_frame ?? 0);
  const next = strip.cuts.find((cut) => cut.beat !== beat && cut.from_frame > (mine[0]?.from_frame ?? 0));
  const room = (next && next.beat !== null ? x(next.from_frame) : width) - begin;
  const letters = Math.max(2, Math.floor(room / 7.6));
  return title.length <= letters ? title : `${title.slice(0, letters - 1)}…`;
}
