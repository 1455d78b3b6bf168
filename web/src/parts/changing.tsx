// A change of something that others may change, too: one after the other, on the revision last seen; whoever meets
// another's change of the same is asked.
import { useRef, useState } from "react";
import { Problem } from "../api/http";

/** Whether a refusal says that the same was changed elsewhere meanwhile. */
export function wasMet(error: unknown): error is Problem {
  return error instanceof Problem && error.status === 409 && error.faults.length > 0;
}

type Change = Record<string, unknown>;
const SHOWN_MS = 60;
export type MetChange = { change: Change; says: string };

/**
 * revision: of what is shown; send: hands a change over and tells the new revision; after: what has to be read again.
 */
export function useChange(
  revision: number,
  send: (revision: number, change: Change) => Promise<{ revision: number }>,
  after: () => unknown,
) {
  const [problem, setProblem] = useState("");
  const [met, setMet] = useState<MetChange | null>(null);
  const known = useRef(revision);
  const turn = useRef<Promise<unknown>>(Promise.resolve());
  const said = useRef<Change[]>([]);
  known.current = Math.max(known.current, revision);
  /** What a change takes the place of: what was said last, though it may not be shown yet. */
  const before = (change: Change, shown: Change): Change => {
    const stands = Object.assign({}, shown, ...said.current);
    return Object.fromEntries(Object.keys(change).map((name) => [name, stands[name] ?? null]));
  };
  const put = (change: Change) => {
    said.current = [...said.current, change];
    const mine = turn.current.then(async () => {
      try {
        known.current = (await send(known.current, change)).revision;
        setProblem("");
        setMet(null);
        await after();
        return true;
      } catch (error) {
        if (wasMet(error)) {
          setProblem("");
          setMet({
            change,
            says: metWords(error),
          });
          await after();
          // What was read has to be shown before the next goes out on it; else it meets the same change again.
          await new Promise((shown) => setTimeout(shown, SHOWN_MS));
        } else setProblem(saysOf(error as Error));
        return false;
      } finally {
        said.current = said.current.filter((other) => other !== change);
      }
    });
    turn.current = mine;
    return mine;
  };
  return { put, before, problem, met, again: () => met && put(met.change), leave: () => setMet(null) };
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

type MetProps = { met: MetChange | null; again: () => void; leave: () => void };

/** Another's change of the same: what stands there now, and what one typed oneself. */
export function Met({ met, again, leave }: MetProps) {
  if (!met) return null;
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
