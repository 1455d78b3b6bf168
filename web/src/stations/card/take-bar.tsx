// One thumb logs a take: take, then keep, maybe or no. It is kept on this device at once, and waits for the connection.
import { useQuery } from "@tanstack/react-query";
import { useState } from "react";
import { Link } from "react-router";
import { vocabularyQuery } from "../../api/bench";
import { Problem, queries } from "../../api/http";
import { changed, keys } from "../../api/keys";
import {
  laddersOfShotQuery,
  logApi,
  RATINGS,
  type Rating,
  type TakeLogged,
  takesOfShotQuery,
} from "../../api/log";
import type { Fields } from "../../changes/fields";
import { recall, remember } from "../../changes/storage";
import { useChanges } from "../../changes/use-changes";
import { firstName } from "../../parts/person-field";
import { clock } from "../../parts/words";

type OnLadder = Pick<TakeLogged, "ladder_id" | "rung">;
/** Takes that were logged here, by id: whole, or a rating of one that is known to the service. */
type Waiting = Record<string, TakeLogged>;

const TRIES = 3;
const NOTHING: Fields = {};

async function handOver(id: string, take: TakeLogged): Promise<void> {
  const { rating } = take.said;
  for (let tries = 0; ; tries++) {
    const kept = await logApi.put(id, take);
    if (!rating || kept.said.rating === rating) return;
    // It was logged before its rating was said: the rating goes after it, unless it was removed meanwhile.
    try {
      await logApi.change(id, { revision: kept.revision, change: { rating } });
      return;
    } catch (error) {
      const status = error instanceof Problem ? error.status : 0;
      if (status === 404) return;
      // Somebody else rated it between the two.
      if (status !== 409 || tries === TRIES) throw error;
    }
  }
}

type Props = { shotId: string; reallySet: Record<string, string>; zone: string; hands: string | null };

/** What is logged of a shot from here, with what still waits. */
function useTakes(shotId: string) {
  const known = useQuery(takesOfShotQuery(shotId));
  const { engine, say, status } = useChanges<Fields>({
    place: `takes.${shotId}`,
    shown: NOTHING,
    revision: 0,
    overlay: false,
    oneByOne: true,
    send: async (_, change) => {
      for (const [id, take] of Object.entries(change)) await handOver(id, take as TakeLogged);
      await queries.invalidateQueries({ queryKey: keys.shotTakes(shotId) });
      void changed.log();
      return { revision: 0 };
    },
    reread: () => {},
    ofBefore: (kept: Waiting) => kept,
  });
  const waiting = engine.pending as Waiting;
  const items = new Map<string, { at: string; rating: Rating | null; of: OnLadder; isHere?: boolean }>();
  for (const { id, said, ladder_id, rung } of known.data?.items ?? [])
    items.set(id, { at: said.at, rating: said.rating ?? null, of: { ladder_id, rung } });
  for (const [id, { said, ladder_id, rung }] of Object.entries(waiting))
    items.set(id, {
      at: said.at,
      rating: said.rating ?? null,
      of: { ladder_id, rung },
      isHere: status.kind === "refused" || status.kind === "away",
    });
  const takes = [...items].map(([id, take]) => ({ id, ...take })).sort((a, b) => a.at.localeCompare(b.at));
  const log = (id: string, said: TakeLogged["said"], of: OnLadder) =>
    void say({ [id]: { shot_id: shotId, said, ...of } });
  /** How many takes of a ladder there are; kept: as the service last told, before some that are known here. */
  const filmed = (ladder: string, kept: number) =>
    Math.max(kept, takes.filter((take) => take.of.ladder_id === ladder).length);
  return {
    takes,
    log,
    filmed,
    says:
      status.kind === "refused"
        ? `Kept on this device, and not taken yet: ${status.why}`
        : status.kind === "away"
          ? "The take is kept on this device; it waits for the connection."
          : "",
  };
}

export function TakeBar({ shotId, reallySet, zone, hands }: Props) {
  const { takes, log, says, filmed } = useTakes(shotId);
  const vocabulary = useQuery(vocabularyQuery);
  const people = vocabulary.data?.people ?? [];
  const last = takes.at(-1);
  const who = recall<string>("hands") ?? hands;
  const ladders = useQuery(laddersOfShotQuery(shotId));
  // A ladder that is begun goes on until all of it is filmed; what waits here counts, too.
  const ladder = ladders.data?.items.find((one) => filmed(one.id, one.takes) < one.order.length);
  const step = ladder ? filmed(ladder.id, ladder.takes) : 0;
  const [onLadder, setOnLadder] = useState(true);
  const rung = ladder && onLadder ? ladder.order[step] : undefined;
  const begin = () =>
    log(
      crypto.randomUUID(),
      { at: new Date().toISOString(), settings: reallySet, hands: who },
      ladder && rung !== undefined ? { ladder_id: ladder.id, rung } : {},
    );
  const rate = (rating: Rating) =>
    last && log(last.id, { at: last.at, settings: reallySet, hands: who, rating }, last.of);
  return (
    <section aria-label="Takes of this shot" className="no-print border-hair border-b">
      {says && (
        <p role="status" className="px-4 pt-1 text-small text-note">
          {says}
        </p>
      )}
      {ladder && (
        <label className="flex min-h-9 items-center gap-2 border-hair border-b px-4 text-body">
          <input
            type="checkbox"
            className="[--tick:20px]"
            checked={onLadder}
            onChange={(event) => setOnLadder(event.target.checked)}
          />
          <span>
            <span className="text-muted">
              ladder, {step + 1} of {ladder.order.length}:
            </span>{" "}
            <b>{ladder.steps[step]}</b>
          </span>
        </label>
      )}
      <p className="flex items-baseline justify-between gap-2 px-4 pt-1 text-small text-muted">
        <span role="status">
          {last
            ? `Take ${takes.length} at ${clock(last.at, zone)}${last.isHere ? ", on this device only" : ""}${last.rating ? `, ${last.rating}` : ": what do you think of it?"}`
            : "No take yet"}
        </span>
        {people.length > 0 && (
          <label>
            <span className="sr-only">Whose hands</span>
            <select
              className="bg-transparent text-small"
              defaultValue={who ?? ""}
              onChange={(event) => remember("hands", event.target.value || null)}
            >
              <option value="">whose hands?</option>
              {people.map((name) => (
                <option key={name} value={name}>
                  {firstName(name)}
                </option>
              ))}
            </select>
          </label>
        )}
        <Link className="underline" to="/log">
          Log
        </Link>
      </p>
      <div className="grid grid-cols-[1.4fr_1fr_1fr_1fr] gap-2 px-4 pt-1 pb-2">
        <button type="button" className="bold-plain min-h-[52px] text-lead" onClick={begin}>
          Take {takes.length + 1}
        </button>
        {RATINGS.map((rating) => (
          <button
            key={rating}
            type="button"
            aria-pressed={last?.rating === rating}
            disabled={!last}
            className={`min-h-[52px] border text-body disabled:opacity-50 ${last?.rating === rating ? "border-2 border-ink font-bold" : "border-muted"}`}
            onClick={() => rate(rating)}
          >
            {rating}
          </button>
        ))}
      </div>
    </section>
  );
}
