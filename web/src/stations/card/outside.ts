// What is ticked and set outside: kept here at once, handed over when the connection is there.
import { useQuery } from "@tanstack/react-query";
import { useCallback, useEffect, useRef, useState } from "react";
import { api, type OutsideKept, Problem, queries } from "../../api/client";
import { recall, remember } from "../../app/remembered";

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

/** What of `sent` is still the last word; what was said meanwhile goes on waiting. */
function without<T>(now: Record<string, T>, sent: Record<string, T>): Record<string, T> {
  return Object.fromEntries(Object.entries(now).filter(([key, value]) => sent[key] !== value));
}

export function useOutside(shotId: string) {
  const key = `outside.${shotId}`;
  const known = useQuery({
    queryKey: ["outside", shotId],
    queryFn: () => api.outside(shotId),
    retry: false,
    refetchOnWindowFocus: true,
  });
  const [waiting, setWaiting] = useState<Waiting>(() => recall(key) ?? NOTHING);
  const [away, setAway] = useState(false);
  const [refused, setRefused] = useState<string | null>(null);
  const latest = useRef(waiting);
  const sending = useRef(false);
  const keep = useCallback(
    (next: Waiting) => {
      latest.current = next;
      setWaiting(next);
      remember(key, isEmpty(next) ? null : next);
    },
    [key],
  );
  const hand = useCallback(async () => {
    if (sending.current || isEmpty(latest.current)) return;
    sending.current = true;
    const sent = latest.current;
    try {
      const kept = await api.noteOutside(shotId, sent);
      // An answer that was asked for before would not hold what was just handed over.
      await queries.cancelQueries({ queryKey: ["outside", shotId] });
      queries.setQueryData(["outside", shotId], kept);
      keep({
        ticks: without(latest.current.ticks, sent.ticks),
        really_set: without(latest.current.really_set, sent.really_set),
      });
      setAway(false);
      setRefused(null);
    } catch (error) {
      const status = error instanceof Problem ? error.status : 0;
      setAway(status === 0 || status >= 500);
      setRefused(status >= 400 && status < 500 ? (error as Error).message : null);
    } finally {
      sending.current = false;
    }
  }, [shotId, keep]);
  useEffect(() => {
    void hand();
    const again = setInterval(() => void hand(), TRY_AGAIN_MS);
    const online = () => void hand();
    window.addEventListener("online", online);
    return () => {
      clearInterval(again);
      window.removeEventListener("online", online);
    };
  }, [hand]);
  const note = (part: Partial<Waiting>) => {
    keep({
      ticks: { ...latest.current.ticks, ...part.ticks },
      really_set: { ...latest.current.really_set, ...part.really_set },
    });
    void hand();
  };
  return {
    ...laidOver(known.data ?? { ticks: {}, really_set: {} }, waiting),
    tick: (id: string, on: boolean) => note({ ticks: { [id]: on } }),
    clear: (ids: string[]) => note({ ticks: Object.fromEntries(ids.map((id) => [id, false])) }),
    set: (dial: string, value: string | null) => note({ really_set: { [dial]: value } }),
    says: refused
      ? `Not taken: ${refused}`
      : !isEmpty(waiting) && away
        ? "Kept on this device; waits for the connection."
        : "",
  };
}
