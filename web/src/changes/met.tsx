// What became of a change: met by another's, or refused; and what can be done.
import type { ChangeEngine } from "./engine";

const LONGEST = 80;
const WAITS_HERE = "What you said stays here and is handed over when it answers.";

/** Another's change of the same: what stands there now, and what one said oneself. Or why a change was not taken. */
export function Met({ engine }: { engine: ChangeEngine }) {
  const { meeting, status } = engine;
  if (meeting) {
    const mine = Object.values(meeting.change)
      .map((value) => (value === null || value === "" ? "empty" : String(value)))
      .join(", ");
    return (
      <span role="alert" className="text-note">
        {meeting.says} Yours was {"\u201c"}
        {mine.length > LONGEST ? `${mine.slice(0, LONGEST)}\u2026` : mine}
        {"\u201d"}.{" "}
        <button type="button" className="plain ml-1 min-h-[24px] py-0" onClick={engine.keepMine}>
          Put mine
        </button>
        <button type="button" className="plain ml-1 min-h-[24px] py-0" onClick={engine.takeTheirs}>
          Leave theirs
        </button>
      </span>
    );
  }
  if (status.kind !== "refused" && status.kind !== "away") return null;
  return (
    <b role="alert" className="text-note">
      {status.kind === "away" ? `${status.why} ${WAITS_HERE}` : status.why}{" "}
      <button type="button" className="plain ml-1 min-h-[24px] py-0" onClick={engine.retry}>
        Try again
      </button>
    </b>
  );
}

/** The same of a whole that is too large for a line: one of the two stays, as the person says. */
export function Conflict({ what, engine }: { what: string; engine: ChangeEngine }) {
  return (
    <p role="alert" className="pt-1 text-small">
      <b className="text-note">{what} was changed elsewhere meanwhile.</b> Yours is kept here until you
      choose.{" "}
      <button type="button" className="plain ml-1 min-h-[24px] py-0" onClick={engine.keepMine}>
        keep mine
      </button>
      <button type="button" className="plain ml-2 min-h-[24px] py-0" onClick={engine.takeTheirs}>
        take the other
      </button>
    </p>
  );
}

/** What is told of things that are ticked and set: nothing while all goes well. */
export function waitingWords(engine: ChangeEngine): string {
  const { status } = engine;
  if (status.kind === "refused") return `Not taken: ${status.why}`;
  return status.kind === "away" ? "Kept on this device; waits for the connection." : "";
}
