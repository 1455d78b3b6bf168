// The mode map: frames down, rates across; in each cell which views (from the widest) go with which steadying (upwards).
// Asking for a value keeps what goes with it deep, and hatches what is lost.
import { type ReactNode, useId } from "react";
import type { Loss, MapCell, MapRow, ModeMap } from "../api/client";

export type Asked = { dial: string; value: Loss["value"]; label: string } | null;

type Props = { map: ModeMap; asked: Asked; onAsk: (asked: Asked) => void; tight?: boolean; caption: string };

const PAIR = { width: 8, height: 6, gap: 2 };

/** Ways of asking that are neither a frame nor a rate: those stand at the table itself. */
const CHIPS: [string, string][] = [
  ["lens", "lens"],
  ["view", "view"],
  ["stabilisation", "steadying"],
  ["bit_depth", "depth"],
  ["codec", "codec"],
  ["profile", "colour"],
  ["high_dynamic_range", "wide range"],
];

export function same(asked: Asked, dial: string, value: unknown): boolean {
  return asked !== null && asked.dial === dial && String(asked.value) === String(value);
}

/** Which pairs of a cell go with what is asked. */
function kept(asked: Asked, row: MapRow, cell: MapCell): boolean[] {
  const all = (yes: boolean) => cell.pairs.map(() => yes);
  if (asked === null) return all(true);
  const { dial, value } = asked;
  if (dial === "frame") return all(`${row.width}x${row.height}` === value);
  if (dial === "frame_rate") return all(cell.rate === value);
  if (dial === "lens") return all(row.lens === value);
  if (dial === "view") return cell.pairs.map(([view]) => view === value);
  if (dial === "stabilisation") return cell.pairs.map(([, level]) => level === value);
  const has =
    dial === "bit_depth"
      ? cell.bit_depths.includes(Number(value))
      : dial === "codec"
        ? cell.codecs.includes(String(value))
        : dial === "profile"
          ? cell.profiles.includes(String(value))
          : !value || cell.high_dynamic_range;
  if (!has) return all(false);
  // The core writes its own truth of flags with a capital.
  const word = typeof value === "boolean" ? (value ? "True" : "False") : String(value);
  const lacking = cell.without[`${dial}=${word}`] ?? [];
  return cell.pairs.map((_, index) => !lacking.includes(index));
}

export function ModeMapPicture({ map, asked, onAsk, tight, caption }: Props) {
  const hatch = useId();
  const width = map.views.length * (PAIR.width + PAIR.gap) + PAIR.gap;
  const height = map.steadyings.length * (PAIR.height + PAIR.gap) + PAIR.gap;
  const toggle = (dial: string, value: Loss["value"], label: string) =>
    onAsk(same(asked, dial, value) ? null : { dial, value, label });
  const lives = map.rows.map((row) => row.cells.map((cell) => kept(asked, row, cell)));
  const rateLives = (rate: number) =>
    map.rows.some((row, r) =>
      row.cells.some((cell, c) => cell.rate === rate && lives[r]?.[c]?.some(Boolean)),
    );
  const rowLives = (r: number) => lives[r]?.some((cell) => cell.some(Boolean)) ?? false;
  let lens = "";
  return (
    <div>
      <svg width="0" height="0" className="absolute" aria-hidden="true">
        <pattern id={hatch} width="4" height="4" patternUnits="userSpaceOnUse" patternTransform="rotate(45)">
          <rect width="1.5" height="4" fill="var(--note)" />
        </pattern>
      </svg>
      <table className="border-collapse" data-testid="mode-map">
        <caption className="sr-only">{caption}</caption>
        <thead>
          <tr className="border-ink border-b align-bottom">
            <th scope="col" className="pb-1 text-left font-normal">
              <Key map={map} />
            </th>
            {map.rates.map((rate) => (
              <th key={rate} scope="col" className="p-0 font-normal">
                <AskButton
                  on={same(asked, "frame_rate", rate)}
                  dead={asked !== null && !rateLives(rate)}
                  className="w-full px-1 pb-1 text-center text-[14px]"
                  says={`${rate} frames per second`}
                  onClick={() => toggle("frame_rate", rate, `${rate}\u202ffps`)}
                >
                  {rate}
                </AskButton>
              </th>
            ))}
            <th scope="col" className="pb-1 pl-1 text-left text-[12.5px] font-normal text-muted">
              fps
            </th>
          </tr>
        </thead>
        <tbody>
          {map.rows.map((row, r) => {
            const starts = row.lens !== lens && new Set(map.rows.map((other) => other.lens)).size > 1;
            lens = row.lens;
            const frame = `${row.width}x${row.height}`;
            return (
              <tr
                key={`${row.lens} ${frame}`}
                className={starts && r > 0 ? "border-rule border-y" : "border-hair border-b"}
              >
                <th scope="row" className="p-0 pr-2 text-left font-normal">
                  {starts && (
                    <span className="block pt-1 font-serif text-[12.5px] italic text-muted">
                      {row.lens_name}
                    </span>
                  )}
                  <AskButton
                    on={same(asked, "frame", frame)}
                    dead={asked !== null && !rowLives(r)}
                    className="w-full py-[3px] text-left leading-tight"
                    says={`frame ${row.width} by ${row.height}`}
                    onClick={() => toggle("frame", frame, nameOf(row))}
                  >
                    <b className="text-[14px]">{row.label || `${row.width}`}</b>{" "}
                    {!row.label.includes(row.shape) && <span className="text-[12.5px]">{row.shape}</span>}
                    {!tight && (
                      <span className="ml-2 text-[12px] text-muted">
                        {row.width}
                        {"\u202f×\u202f"}
                        {row.height}
                      </span>
                    )}
                  </AskButton>
                </th>
                {map.rates.map((rate) => {
                  const c = row.cells.findIndex((cell) => cell.rate === rate);
                  const cell = row.cells[c];
                  return (
                    <td key={rate} className="px-[3px] py-[3px] text-center align-middle">
                      {cell && (
                        <Cell
                          map={map}
                          cell={cell}
                          live={lives[r]?.[c] ?? []}
                          size={[width, height]}
                          hatch={hatch}
                        />
                      )}
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

export function nameOf(row: MapRow): string {
  const label = row.label || `${row.width}\u202f×\u202f${row.height}`;
  return label.includes(row.shape) ? label : `${label} ${row.shape}`;
}

function AskButton(props: {
  on: boolean;
  dead: boolean;
  className: string;
  says: string;
  onClick: () => void;
  children: ReactNode;
}) {
  const { on, dead, className, says, onClick, children } = props;
  return (
    <button
      type="button"
      aria-pressed={on}
      aria-label={`Ask for ${says}${dead ? ", lost" : ""}`}
      className={`${className} min-h-6 hover:bg-second ${on ? "bg-ink text-ground [&_*]:text-ground" : ""} ${dead ? "text-note line-through decoration-2 [&_*]:text-note" : ""}`}
      onClick={onClick}
    >
      {children}
    </button>
  );
}

function Cell(props: {
  map: ModeMap;
  cell: MapCell;
  live: boolean[];
  size: [number, number];
  hatch: string;
}) {
  const { map, cell, live, size, hatch } = props;
  const [width, height] = size;
  const views = map.views.map(({ id }) => id);
  const levels = map.steadyings.map(({ id }) => id);
  const left = live.filter(Boolean).length;
  return (
    <svg
      width={width}
      height={height}
      viewBox={`0 0 ${width} ${height}`}
      className="inline-block align-middle"
      role="img"
      aria-label={
        left === live.length
          ? `${live.length} pairs of view and steadying`
          : `${left} of ${live.length} pairs left`
      }
    >
      {views.flatMap((view, column) =>
        levels.map((level, step) => {
          const index = cell.pairs.findIndex(([v, l]) => v === view && l === level);
          const x = PAIR.gap + column * (PAIR.width + PAIR.gap);
          const y = height - (step + 1) * (PAIR.height + PAIR.gap);
          if (index < 0)
            return (
              <rect
                key={`${view} ${level}`}
                x={x + PAIR.width / 2 - 0.75}
                y={y + PAIR.height / 2 - 0.75}
                width="1.5"
                height="1.5"
                fill="var(--rule)"
              />
            );
          return live[index] ? (
            <rect
              key={`${view} ${level}`}
              x={x}
              y={y}
              width={PAIR.width}
              height={PAIR.height}
              fill="var(--deep)"
            />
          ) : (
            <rect
              key={`${view} ${level}`}
              x={x + 0.5}
              y={y + 0.5}
              width={PAIR.width - 1}
              height={PAIR.height - 1}
              fill={`url(#${hatch})`}
              stroke="var(--note)"
              strokeWidth="0.75"
            />
          );
        }),
      )}
    </svg>
  );
}

/** How to read a cell: views from left to right, steadying upwards. */
function Key({ map }: { map: ModeMap }) {
  return (
    <span className="block pr-3 text-[11.5px] leading-[1.35] text-muted">
      in a cell: → {map.views.map(({ label }) => label).join(", ")}
      <br />↑ {map.steadyings.map(({ label }) => label).join(", ")}
    </span>
  );
}

/** The other questions: one short line for each dial that has more than one value. */
export function AskLine({ map, asked, onAsk }: Pick<Props, "map" | "asked" | "onAsk">) {
  return (
    <dl className="grid gap-x-5 gap-y-[2px] text-[13px] sm:grid-cols-[auto_minmax(0,1fr)]">
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
                    className={`min-h-6 px-2 underline decoration-deep underline-offset-3 hover:bg-second ${on ? "bg-ink text-ground no-underline" : ""}`}
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
  if (dial === "high_dynamic_range") return "wide range";
  const noun = CHIPS.find(([id]) => id === dial)?.[1] ?? "";
  return dial === "bit_depth" ? loss.label : `${loss.label} ${noun}`;
}

const NOUNS: Record<string, string> = {
  frame: "frames",
  frame_rate: "rates",
  lens: "lenses",
  view: "views",
  stabilisation: "steadying",
  profile: "colours",
  bit_depth: "depths",
  codec: "codecs",
  bit_rate_mb_s: "bit rates",
  high_dynamic_range: "wide range",
};

/** What is lost, in words: what is gone altogether, and what single frames lose besides. */
export function LossWords({ map, asked }: { map: ModeMap; asked: NonNullable<Asked> }) {
  const loss = map.losses.find((entry) => same(asked, entry.dial, entry.value));
  if (!loss) {
    const all = map.losses.some((entry) => entry.dial === asked.dial);
    return (
      <p className="text-[13px]">
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
    <div className="text-[13px] leading-[1.5]">
      <p>
        <b className="text-[16.5px]">
          {gone.length === 0 && loss.inside.length === 0 ? "Nothing is lost" : `With ${asked.label} you lose`}
        </b>{" "}
        <span className="text-muted">
          {loss.count} of {map.count} ways are left
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
    <p className="pt-2 text-[12.5px] text-muted">
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
