// The mode map: frames down, rates across; in each cell which views (from the widest) go with which stabilisation (upwards).
// Asked for a value, what goes with it stays deep, what is lost with it is hatched, and the rest steps back.
import { type ReactNode, useId } from "react";
import type { Loss, MapRow, ModeMap } from "../api/types";

export type Asked = { dial: string; value: Loss["value"]; label: string } | null;

type Props = {
  map: ModeMap;
  asked: Asked;
  onAsk: (asked: Asked) => void;
  /** Room for the picture, px: cells grow smaller where many rates stand side by side. */
  fit: number;
  caption: string;
};

const ROW_HEAD = { wide: 92, tight: 62 };

type Size = { width: number; height: number; gap: number };

function sizeOf(map: ModeMap, fit: number): Size {
  const tight = fit < 600;
  const cell =
    (fit - (tight ? ROW_HEAD.tight : ROW_HEAD.wide)) / Math.max(1, map.rates.length) - (tight ? 5 : 9);
  const each = cell / Math.max(1, map.views.length);
  const gap = each >= 8 ? 2 : 1;
  return { width: Math.max(2, Math.min(8, Math.floor(each - gap))), height: tight ? 5 : 6, gap };
}

/** Ways of asking that are neither a resolution nor a frame rate: those stand at the table itself. */
const CHIPS: [string, string][] = [
  ["lens", "lens"],
  ["view", "field of view"],
  ["stabilisation", "stabilisation"],
  ["bit_depth", "bit depth"],
  ["codec", "codec"],
  ["profile", "colour profile"],
  ["high_dynamic_range", "HDR"],
];

export function same(asked: Asked, dial: string, value: unknown): boolean {
  return asked !== null && asked.dial === dial && String(asked.value) === String(value);
}

type State = "kept" | "lost" | "aside";
type Pairs = Map<string, State>;

const pairOf = ([view, level]: readonly string[]) => `${view} ${level}`;

const STATES: Record<string, State> = { k: "kept", l: "lost", a: "aside" };

/** Of one cell: what goes with the value that is asked for, what is lost with it, and what stands aside. */
function statesOf(map: ModeMap, asked: Asked, r: number, rate: number): Pairs {
  const here = map.rows[r]?.cells.find((entry) => entry.rate === rate)?.pairs ?? [];
  if (asked === null) return new Map(here.map((pair) => [pairOf(pair), "kept"]));
  const loss = map.losses.find(({ dial, value }) => same(asked, dial, value));
  // What the camera does not have at all, nothing of it goes with.
  if (!loss) return new Map(here.map((pair) => [pairOf(pair), "aside"]));
  const grid = map.views.flatMap((view) => map.steadyings.map((level) => pairOf([view.id, level.id])));
  const letters = loss.states[r]?.[map.rates.indexOf(rate)] ?? "";
  return new Map(
    grid.flatMap((pair, n) => {
      const state = STATES[letters[n] ?? ""];
      return state ? [[pair, state] as const] : [];
    }),
  );
}

export function ModeMapPicture({ map, asked, onAsk, fit, caption }: Props) {
  const tight = fit < 600;
  const size = sizeOf(map, fit);
  const hatch = useId();
  const toggle = (dial: string, value: Loss["value"], label: string) =>
    onAsk(same(asked, dial, value) ? null : { dial, value, label });
  const states = map.rows.map(
    (_, r) => new Map(map.rates.map((rate) => [rate, statesOf(map, asked, r, rate)])),
  );
  const heads = (pairs: Pairs[]): "on" | "lost" | "aside" => {
    const all = pairs.flatMap((entry) => [...entry.values()]);
    if (all.includes("kept")) return "on";
    return all.includes("lost") ? "lost" : "aside";
  };
  const lenses = new Set(map.rows.map((row) => row.lens)).size;
  let lens = "";
  return (
    <div>
      <p className="pb-1 text-fine text-muted">
        {`In a cell, from the left: ${map.views.map(({ label }) => label.replace(", ", " and ")).join(", ")}; from below: ${map.steadyings.map(({ label }) => label).join(", ")}.`}
      </p>
      <svg width="0" height="0" className="absolute" aria-hidden="true">
        <pattern id={hatch} width="4" height="4" patternUnits="userSpaceOnUse" patternTransform="rotate(45)">
          <rect width="1.5" height="4" fill="var(--note)" />
        </pattern>
      </svg>
      <table className="border-collapse" data-testid="mode-map">
        <caption className="sr-only">{caption}</caption>
        <thead>
          <tr className="border-ink border-b align-bottom">
            <th scope="col" className="pr-2 pb-1 text-right text-fine font-normal text-muted">
              fps
            </th>
            {map.rates.map((rate) => (
              <th key={rate} scope="col" className="p-0 font-normal">
                <AskButton
                  chosen={same(asked, "frame_rate", rate)}
                  state={heads(states.map((row) => row.get(rate) ?? new Map()))}
                  className={`w-full text-center ${tight ? "min-w-[29px] text-small" : "min-w-9 px-1 text-body"}`}
                  says={`${rate} frames per second`}
                  onClick={() => toggle("frame_rate", rate, `${rate}\u202ffps`)}
                >
                  {rate}
                </AskButton>
              </th>
            ))}
          </tr>
        </thead>
        <tbody>
          {map.rows.map((row, r) => {
            const starts = row.lens !== lens && lenses > 1;
            lens = row.lens;
            const frame = `${row.width}x${row.height}`;
            return (
              <tr
                key={`${row.lens} ${frame}`}
                className={starts && r > 0 ? "border-hair border-t-rule border-y" : "border-hair border-b"}
              >
                <th scope="row" className="p-0 pr-2 text-left font-normal">
                  {starts && (
                    <span className="block pt-1 font-serif text-fine italic text-muted">{row.lens_name}</span>
                  )}
                  <AskButton
                    chosen={same(asked, "frame", frame)}
                    state={heads([...(states[r]?.values() ?? [])])}
                    className="w-full py-[3px] text-left leading-tight"
                    says={`resolution ${row.width} by ${row.height}`}
                    onClick={() => toggle("frame", frame, nameOf(row))}
                  >
                    <b className="text-body">{row.label || usualName(row)}</b>{" "}
                    {!row.label.includes(row.shape) && <span className="text-fine">{row.shape}</span>}
                    {!tight && (
                      <span className="block text-fine text-muted">
                        {row.width}
                        {"\u202f×\u202f"}
                        {row.height}
                      </span>
                    )}
                  </AskButton>
                </th>
                {map.rates.map((rate) => {
                  const here = states[r]?.get(rate) ?? new Map();
                  return (
                    <td
                      key={rate}
                      className={`${tight ? "px-px" : "px-[3px]"} py-[3px] text-center align-middle`}
                    >
                      {here.size > 0 && <Cell map={map} states={here} size={size} hatch={hatch} />}
                    </td>
                  );
                })}
              </tr>
            );
          })}
        </tbody>
      </table>
    </div>
  );
}

/** What people call a frame that has no label of its own. */
function usualName({ width, height }: MapRow): string {
  const long = Math.max(width, height);
  // Names count in parts of 960 pixels: 3840 is 4K, 5120 is 5K, 7680 is 8K.
  return long < 3000 ? String(Math.min(width, height)) : `${Math.round(long / 960)}K`;
}

export function nameOf(row: MapRow): string {
  const label = row.label || usualName(row);
  return label.includes(row.shape) ? label : `${label} ${row.shape}`;
}

function AskButton(props: {
  chosen: boolean;
  state: "on" | "lost" | "aside";
  className: string;
  says: string;
  onClick: () => void;
  children: ReactNode;
}) {
  const { chosen, state, className, says, onClick, children } = props;
  const look = chosen
    ? "bg-ink text-ground [&_*]:text-ground"
    : state === "lost"
      ? "text-note line-through decoration-2 hover:bg-second [&_*]:text-note"
      : state === "aside"
        ? "text-muted hover:bg-second"
        : "hover:bg-second";
  return (
    <button
      type="button"
      aria-pressed={chosen}
      aria-label={`Ask for ${says}${state === "lost" ? ", lost" : ""}`}
      className={`${className} ${look} min-h-[24px]`}
      onClick={onClick}
    >
      {children}
    </button>
  );
}

function Cell({ map, states, size, hatch }: { map: ModeMap; states: Pairs; size: Size; hatch: string }) {
  const views = map.views.map(({ id }) => id);
  const levels = map.steadyings.map(({ id }) => id);
  const width = views.length * (size.width + size.gap) + size.gap;
  const height = levels.length * (size.height + size.gap) + size.gap;
  const count = (state: State) => [...states.values()].filter((entry) => entry === state).length;
  return (
    <svg
      width={width}
      height={height}
      viewBox={`0 0 ${width} ${height}`}
      className="inline-block align-middle"
      role="img"
      aria-label={`${count("kept")} pairs of view and stabilisation${count("lost") ? `, ${count("lost")} lost` : ""}`}
    >
      {views.flatMap((view, column) =>
        levels.map((level, step) => {
          const state = states.get(pairOf([view, level]));
          const at = {
            x: size.gap + column * (size.width + size.gap),
            y: height - (step + 1) * (size.height + size.gap),
            width: size.width,
            height: size.height,
          };
          const key = `${view} ${level}`;
          if (state === "kept") return <rect key={key} {...at} fill="var(--deep)" />;
          if (state === "aside") return <rect key={key} {...at} fill="var(--shoal)" />;
          if (state === "lost")
            return (
              <g key={key}>
                <rect {...at} fill={`url(#${hatch})`} />
                <rect
                  x={at.x + 0.4}
                  y={at.y + 0.4}
                  width={at.width - 0.8}
                  height={at.height - 0.8}
                  fill="none"
                  stroke="var(--note)"
                  strokeWidth="0.8"
                />
              </g>
            );
          return (
            <rect
              key={key}
              x={at.x + size.width / 2 - 0.75}
              y={at.y + size.height / 2 - 0.75}
              width="1.5"
              height="1.5"
              fill="var(--rule)"
            />
          );
        }),
      )}
    </svg>
  );
}

/** The other questions: one short line for each dial that has more than one value. */
export function AskLine({ map, asked, onAsk }: Pick<Props, "map" | "asked" | "onAsk">) {
  return (
    <dl className="grid gap-x-5 gap-y-[2px] text-small sm:grid-cols-[auto_minmax(0,1fr)]">
      {CHIPS.map(([dial, says]) => {
        const values = map.losses.filter((loss) => loss.dial === dial);
        if (values.length < 2) return null;
        const shown = dial === "high_dynamic_range" ? values.filter((loss) => loss.value === true) : values;
        return (
          <div key={dial} className="contents">
            <dt className="text-muted">{says}</dt>
            <dd className="flex flex-wrap gap-x-1">
              {shown.map((loss) => {
                const on = same(asked, dial, loss.value);
                return (
                  <button
                    key={String(loss.value)}
                    type="button"
                    aria-pressed={on}
                    aria-label={`Ask for ${says} ${loss.label}`}
                    className={`min-h-[24px] px-2 underline-offset-3 ${on ? "bg-ink text-ground" : "underline decoration-deep hover:bg-second"}`}
                    onClick={() =>
                      onAsk(on ? null : { dial, value: loss.value, label: chipLabel(dial, loss) })
                    }
                  >
                    {dial === "high_dynamic_range" ? "on" : loss.label}
                  </button>
                );
              })}
            </dd>
          </div>
        );
      })}
    </dl>
  );
}

function chipLabel(dial: string, loss: Loss): string {
  if (dial === "high_dynamic_range") return "HDR";
  const noun = CHIPS.find(([id]) => id === dial)?.[1] ?? "";
  return dial === "bit_depth" ? loss.label : `${loss.label} ${noun}`;
}

const NOUNS: Record<string, string> = {
  frame: "resolutions",
  frame_rate: "frame rates",
  lens: "lenses",
  view: "fields of view",
  stabilisation: "stabilisation",
  profile: "colour profiles",
  bit_depth: "bit depths",
  codec: "codecs",
  bit_rate_mb_s: "bit rates",
  high_dynamic_range: "HDR",
};

/** What is lost, in words: what is gone altogether, and what single frames lose besides. */
export function LossWords({ map, asked }: { map: ModeMap; asked: NonNullable<Asked> }) {
  const loss = map.losses.find((entry) => same(asked, entry.dial, entry.value));
  if (!loss) {
    const all = map.losses.some((entry) => entry.dial === asked.dial);
    return (
      <p className="text-small">
        <b className="text-note">
          {map.name} has no {asked.label}
        </b>
        {all ? "." : " to choose."}
      </p>
    );
  }
  const frames = new Map(map.rows.map((row) => [`${row.width}\u202f×\u202f${row.height}`, nameOf(row)]));
  const named = (label: string) => frames.get(label) ?? label;
  const gone = Object.entries(loss.gone);
  return (
    <div className="text-small leading-[1.5]">
      <p>
        <b className="text-lead">
          {gone.length === 0 && loss.inside.length === 0 ? "Nothing is lost" : `With ${asked.label} you lose`}
        </b>
        <span className="block pb-1 text-muted">
          {loss.count} of {loss.of} ways are left
        </span>
      </p>
      {gone.length > 0 && (
        <dl className="grid grid-cols-[84px_minmax(0,1fr)] border-ink border-t">
          {gone.map(([dial, labels]) => (
            <div key={dial} className="contents [&>*]:border-hair [&>*]:border-b [&>*]:py-[3px]">
              <dt className="text-muted">{NOUNS[dial] ?? dial}</dt>
              <dd className="font-bold">
                {dial === "high_dynamic_range" ? "all of it" : labels.map(named).join(", ")}
              </dd>
            </div>
          ))}
        </dl>
      )}
      {loss.inside.length > 0 && (
        <p className="pt-1 text-muted">
          {gone.length > 0 ? "Besides, in single frames: " : "In single frames: "}
          {loss.inside.map(([frame, lost]) => `${named(frame)} ${lost}`).join(" · ")}
        </p>
      )}
    </div>
  );
}

export function Films({ map }: { map: ModeMap }) {
  if (map.films.length === 0) return null;
  const labels = new Map(map.views.map(({ id, label }) => [id, label]));
  return (
    <p className="pt-2 text-fine text-muted">
      Films at intervals:{" "}
      {map.films
        .map(
          (film) =>
            `${film.width}\u202f×\u202f${film.height} every ${film.intervals_s.join(", ")}\u202fs${film.views.length ? ` (${film.views.map((view) => labels.get(view) ?? view).join(", ")})` : ""}`,
        )
        .join("; ")}
      .
    </p>
  );
}
