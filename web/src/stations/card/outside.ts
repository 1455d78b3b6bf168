// What is ticked and set outside: kept here at once, handed over when the connection is there.
import { useQuery } from "@tanstack/react-query";
import { useEffect } from "react";
import { cardApi, outsideQuery } from "../../api/card";
import { queries } from "../../api/http";
import { keys } from "../../api/keys";
import type { OutsideKept } from "../../api/types";
import { handingWords, saidSince, useHanding } from "../../parts/handing";

type Waiting = { ticks: Record<string, boolean>; really_set: Record<string, string | null> };

const NOTHING: Waiting = { ticks: {}, really_set: {} };
const TRY_AGAIN_MS = 5_000;

const isEmpty = (waiting: Waiting) =>
  Object.keys(waiting.ticks).length === 0 && Object.keys(waiting.really_set).length === 0;

/** What is known with what still waits laid over it. */
function laidOver(known: OutsideKept, waiting: Waiting) {
  const set = Object.entries({ ...known.really_set, ...waiting.really_set }).filter(
    (entry): entry is [string, string] => entry[1] !== null && entry[1] !== "",
  );
  return { ticks: { ...known.ticks, ...waiting.ticks }, reallySet: Object.fromEntries(set) };
}

export function useOutside(shotId: string) {
  const known = useQuery(outsideQuery(shotId));
  const { state, waiting, latest, put, flush } = useHanding<Waiting>({
    place: `outside.${shotId}`,
    first: { kind: "new" },
    pauseMs: 0,
    retryMs: TRY_AGAIN_MS,
    hand: async (sent) => {
      const kept = await cardApi.noteOutside(shotId, sent);
      // An answer that was asked for before would not hold what was just handed over.
      await queries.cancelQueries({ queryKey: keys.outside(shotId) });
      queries.setQueryData(keys.outside(shotId), kept);
    },
    rest: (now, sent) => {
      const left = {
        ticks: saidSince(now.ticks, sent.ticks),
        really_set: saidSince(now.really_set, sent.really_set),
      };
      return isEmpty(left) ? null : left;
    },
  });
  // What waited when this was closed goes first.
  useEffect(() => void flush(), [flush]);
  const note = (part: Partial<Waiting>) => {
    const now = latest.current ?? NOTHING;
    put({
      ticks: { ...now.ticks, ...part.ticks },
      really_set: { ...now.really_set, ...part.really_set },
    });
  };
  return {
    ...laidOver(known.data ?? { ticks: {}, really_set: {} }, waiting ?? NOTHING),
    tick: (id: string, on: boolean) => note({ ticks: { [id]: on } }),
    clear: (ids: string[]) => note({ ticks: Object.fromEntries(ids.map((id) => [id, false])) }),
    set: (dial: string, value: string | null) => note({ really_set: { [dial]: value } }),
    says: handingWords(state, waiting !== null),
  };
}
