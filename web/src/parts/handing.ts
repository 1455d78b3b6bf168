// One engine for what a person typed or ticked: kept in this browser at once, handed over when the service is there.
import { useCallback, useEffect, useRef, useState } from "react";
import { Problem } from "../api/http";
import { recall, remember } from "./remembered";

export type Handing =
  | { kind: "new" }
  | { kind: "saving" }
  | { kind: "saved"; at: Date }
  | { kind: "away" }
  | { kind: "refused"; why: string }
  | { kind: "conflict" };

type Options<T> = {
  /** Where it is kept in this browser until it is handed over. */
  place: string;
  hand: (sent: T) => Promise<unknown>;
  /** What of it still waits once `sent` was taken; null where nothing does. Usually all or nothing. */
  rest?: (latest: T, sent: T) => T | null;
  first: Handing;
  /** Handed over this long after the last change. */
  pauseMs: number;
  retryMs: number;
};

/** Places that a mounted view hands over from: a view that was left stops where another one goes on. */
const mounted = new Set<string>();

const allOrNothing = <T>(latest: T, sent: T) => (latest === sent ? null : latest);

/** What of several still waits once `sent` was taken: what was said anew meanwhile. */
export function saidSince<T>(now: Record<string, T>, sent: Record<string, T>): Record<string, T> {
  return Object.fromEntries(Object.entries(now).filter(([key, value]) => sent[key] !== value));
}

/** What is told of things that are ticked and set: nothing while all goes well. */
export function handingWords(state: Handing, waits: boolean): string {
  if (state.kind === "refused") return `Not taken: ${state.why}`;
  return waits && state.kind === "away" ? "Kept on this device; waits for the connection." : "";
}

export function useHanding<T>({ place, hand, rest = allOrNothing, first, pauseMs, retryMs }: Options<T>) {
  const [state, setState] = useState<Handing>(first);
  const [waiting, setWaiting] = useState<T | null>(() => recall<T>(place));
  const latest = useRef(waiting);
  const busy = useRef(false);
  const over = useRef(false);
  const timer = useRef(0);
  const how = useRef({ hand, rest });
  how.current = { hand, rest };

  const keep = useCallback(
    (next: T | null) => {
      latest.current = next;
      remember(place, next);
      if (!over.current) setWaiting(next);
    },
    [place],
  );
  const flush = useCallback(async (): Promise<void> => {
    window.clearTimeout(timer.current);
    const sent = latest.current;
    if (busy.current || sent === null || (over.current && mounted.has(place))) return;
    busy.current = true;
    // While it is away, it stays so until something was handed over.
    setState((now) => (now.kind === "away" ? now : { kind: "saving" }));
    try {
      await how.current.hand(sent);
      busy.current = false;
      const left = latest.current === null ? null : how.current.rest(latest.current, sent);
      keep(left);
      if (left === null) setState({ kind: "saved", at: new Date() });
      else timer.current = window.setTimeout(flush, pauseMs);
    } catch (error) {
      busy.current = false;
      const status = error instanceof Problem ? error.status : 0;
      if (status === 409) setState({ kind: "conflict" });
      else if (status >= 400 && status < 500) setState({ kind: "refused", why: (error as Error).message });
      else {
        setState({ kind: "away" });
        timer.current = window.setTimeout(flush, retryMs);
      }
    }
  }, [keep, place, pauseMs, retryMs]);
  /** Keeps something new, to be handed over in a moment. */
  const put = useCallback(
    (next: T) => {
      keep(next);
      // "Saved" must not stand there while something newer waits; of a conflict a person decides.
      setState((now) => (["saved", "refused", "new"].includes(now.kind) ? { kind: "saving" } : now));
      window.clearTimeout(timer.current);
      timer.current = window.setTimeout(flush, pauseMs);
    },
    [keep, flush, pauseMs],
  );
  /** Nothing waits any more: it stands there as the service has it, or is not wanted. */
  const clear = useCallback(() => {
    window.clearTimeout(timer.current);
    keep(null);
    setState((now) => (now.kind === "saved" ? now : { kind: "saved", at: new Date() }));
  }, [keep]);
  useEffect(() => {
    over.current = false;
    mounted.add(place);
    const online = () => void flush();
    window.addEventListener("online", online);
    return () => {
      over.current = true;
      mounted.delete(place);
      window.removeEventListener("online", online);
      void flush();
    };
  }, [flush, place]);
  const isBusy = useCallback(() => busy.current, []);
  return { state, waiting, latest, put, flush, clear, isBusy };
}
