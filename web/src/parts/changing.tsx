// A change of something that others may change, too: one after the other, on the revision last seen; whoever meets
// another's change of the same is asked.
import { useEffect, useReducer, useRef, useState } from "react";
import { Problem } from "../api/http";
import { recall, remember } from "./remembered";

/** Whether a refusal says that the same was changed elsewhere meanwhile. */
export function wasMet(error: unknown): error is Problem {
  return error instanceof Problem && error.status === 409 && error.faults.length > 0;
}

type Change = Record<string, unknown>;
const SHOWN_MS = 60;
const RETRY_MS = 5_000;
const WAITS_HERE = "What you said stays here and is handed over when it answers.";

/** Whether nobody answered, or somebody who could not; else the change itself was refused. */
const isAway = (error: unknown) => !(error instanceof Problem) || error.status === 0 || error.status >= 500;
export type MetChange = { change: Change; says: string };

/** A change without the fields of another. */
const without = (change: Change, other: Change): Change =>
  Object.fromEntries(Object.entries(change).filter(([name]) => !(name in other)));

type Kept = { revision: number; change: Change };

/** Places that a mounted view hands over from: a view that was left goes on only until another one is there. */
const mounted = new Set<string>();

/**
 * place: where what is not handed over yet is kept in this browser; shown: as the service told it; revision: of that; send:
 * hands a change over and tells the new revision; after: what has to be read again. What was said stands in `now` at once,
 * and stays there while it is under way and where it was not taken.
 */
export function useChange<T extends object>(
  place: string,
  shown: T,
  revision: number,
  send: (revision: number, change: Change) => Promise<{ revision: number }>,
  after: () => unknown,
) {
  const [problem, setProblem] = useState("");
  const [met, setMet] = useState<MetChange | null>(null);
  const known = useRef(revision);
  const turn = useRef<Promise<unknown>>(Promise.resolve());
  known.current = Math.max(known.current, revision);
  const timer = useRef(0);
  const gone = useRef(false);
  const tryAgain = useRef(() => {});
  const [, show] = useReducer((times: number) => times + 1, 0);
  // What was not taken, and what it was made on: others may have changed the same since.
  const waited = useRef<Kept | null | undefined>(undefined);
  if (waited.current === undefined) waited.current = recall<Kept>(place);
  const said = useRef<{ underWay: Change[]; notTaken: Change }>({
    underWay: [],
    notTaken: waited.current?.change ?? {},
  });
  const latest = (): T => Object.assign({}, shown, said.current.notTaken, ...said.current.underWay);
  const lay = (next: typeof said.current) => {
    said.current = next;
    const change: Change = Object.assign({}, next.notTaken, ...next.underWay);
    remember(
      place,
      Object.keys(change).length ? { revision: waited.current?.revision ?? known.current, change } : null,
    );
    show();
  };
  /** madeOn: what a change was made on, where it waited through a reload. */
  const put = (change: Change, madeOn?: number) => {
    const { underWay, notTaken } = said.current;
    const waits = without(notTaken, change);
    // What is said anew was made on what is seen now; nothing older waits any more.
    if (madeOn === undefined && Object.keys(waits).length === 0) waited.current = null;
    lay({ underWay: [...underWay, change], notTaken: waits });
    const over = (left: Change) => {
      lay({
        underWay: said.current.underWay.filter((other) => other !== change),
        notTaken: { ...without(said.current.notTaken, change), ...left },
      });
    };
    const mine = turn.current.then(async () => {
      const seen = madeOn ?? known.current;
      try {
        known.current = (await send(seen, change)).revision;
        setProblem("");
        setMet(null);
        // The next goes out at once; this one is shown as said until it was read again.
        void Promise.resolve(after()).finally(() => over({}));
        return true;
      } catch (error) {
        if (wasMet(error)) {
          setProblem("");
          setMet({
            change,
            says: metWords(error),
          });
          await after();
          over({});
          // What was read has to be shown before the next goes out on it; else it meets the same change again.
          await new Promise((shown) => setTimeout(shown, SHOWN_MS));
        } else {
          waited.current ??= { revision: seen, change };
          over(change);
          if (isAway(error)) {
            setProblem(`${(error as Error).message} ${WAITS_HERE}`);
            window.clearTimeout(timer.current);
            timer.current = window.setTimeout(() => tryAgain.current(), RETRY_MS);
          } else setProblem(saysOf(error as Error));
        }
        return false;
      }
    });
    turn.current = mine;
    return mine;
  };
  /** What a change takes the place of, to be had back; null where all of it stands already. */
  const before = (change: Change): Change | null => {
    const stands = latest() as Change;
    const was = Object.fromEntries(Object.keys(change).map((name) => [name, stands[name] ?? null]));
    return Object.keys(differing(was, change)).length ? was : null;
  };
  tryAgain.current = () => {
    const { notTaken } = said.current;
    if (Object.keys(notTaken).length === 0 || (gone.current && mounted.has(place))) return;
    void put(notTaken, waited.current?.revision);
    waited.current = null;
  };
  useEffect(() => {
    gone.current = false;
    mounted.add(place);
    // What waited when this was closed goes first.
    tryAgain.current();
    const online = () => tryAgain.current();
    window.addEventListener("online", online);
    return () => {
      gone.current = true;
      mounted.delete(place);
      window.removeEventListener("online", online);
    };
  }, [place]);
  const meeting = {
    met,
    again: () => met && put(met.change),
    leave: () => setMet(null),
    problem,
    tryAgain: () => tryAgain.current(),
  };
  return { now: latest(), put, before, meeting };
}

function saysOf(error: Error): string {
  const fault = error instanceof Problem ? error.faults[0] : undefined;
  return fault ? `${fault.what}. ${fault.mend}` : error.message;
}

/** What stands there now, of each field that was changed elsewhere. */
export function metWords(error: Problem): string {
  const nameOf = (where: string) => (where.split(".").pop() ?? where).replaceAll("_", " ");
  return error.faults.map((fault) => `${nameOf(fault.where)} ${fault.what}.`).join(" ");
}

/** What a refusal says, fault by fault. */
export function refusalWords(error: Error): string {
  if (wasMet(error)) return metWords(error);
  const faults = error instanceof Problem ? error.faults : [];
  return faults.length
    ? faults
        .slice(0, 5)
        .map((fault) => `${fault.where}: ${fault.what}. ${fault.mend}`)
        .join(" ")
    : error.message;
}

type MetProps = {
  met: MetChange | null;
  again: () => void;
  leave: () => void;
  problem?: string;
  tryAgain?: () => void;
};

/** Another's change of the same: what stands there now, and what one typed oneself. Or why a change was not taken. */
export function Met({ met, again, leave, problem, tryAgain }: MetProps) {
  if (!met)
    return problem ? (
      <b role="alert" className="text-note">
        {problem}{" "}
        <button type="button" className="plain ml-1 min-h-[24px] py-0" onClick={tryAgain}>
          Try again
        </button>
      </b>
    ) : null;
  const mine = Object.values(met.change)
    .map((value) => (value === null || value === "" ? "empty" : String(value)))
    .join(", ");
  return (
    <span role="alert" className="text-note">
      {met.says} Yours was {"\u201c"}
      {mine.length > 80 ? `${mine.slice(0, 80)}\u2026` : mine}
      {"\u201d"}.{" "}
      <button type="button" className="plain ml-1 min-h-[24px] py-0" onClick={again}>
        Put mine
      </button>
      <button type="button" className="plain ml-1 min-h-[24px] py-0" onClick={leave}>
        Leave theirs
      </button>
    </span>
  );
}

/** Another's change of a whole that was being written here: one of the two stays, as the person says. */
export function Conflict({ what, keep, take }: { what: string; keep: () => void; take: () => void }) {
  return (
    <p role="alert" className="pt-1 text-[13px]">
      <b className="text-note">{what} was changed elsewhere meanwhile.</b> Yours is kept here until you
      choose.{" "}
      <button type="button" className="plain ml-1 min-h-[24px] py-0" onClick={keep}>
        keep mine
      </button>
      <button type="button" className="plain ml-2 min-h-[24px] py-0" onClick={take}>
        take the other
      </button>
    </p>
  );
}

/** The fields that differ between two of the same form, as they are now; what is gone is null. */
export function differing(before: object, now: object): Change {
  const [a, b] = [before as Change, now as Change];
  const names = [...new Set([...Object.keys(a), ...Object.keys(b)])];
  return Object.fromEntries(
    names
      .filter((name) => JSON.stringify(a[name] ?? null) !== JSON.stringify(b[name] ?? null))
      .map((name) => [name, b[name] ?? null]),
  );
}
