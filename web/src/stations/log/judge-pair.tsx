// Two frames side by side, without their labels: which of them is good enough?
import { useState } from "react";
import type { Ladder, Said } from "../../api/log";
import { useShortcuts } from "../../parts/keyboard";
import { RungFrame } from "./rung-frame";

type Props = {
  found: Ladder;
  who: string;
  blind: boolean;
  busy: boolean;
  say: (answer: Said) => void;
  /** What was said last, its labels told by now. */
  before: string | null;
  undo: (() => void) | null;
};

export function JudgePair({ found, who, blind, busy, say, before, undo }: Props) {
  const pair = found.next[who] ?? found.first;
  // Which of the two stands left is thrown for each question, so that nobody learns it.
  const [turned] = useState(() => crypto.getRandomValues(new Uint8Array(1))[0] ?? 0);
  const [close, setClose] = useState(true);
  const [moment, setMoment] = useState(0);
  const [left, right] = turned % 2 === 0 ? pair : [pair[1], pair[0]];
  const [a, b] = [found.rungs[left], found.rungs[right]];
  const answer = (good: number[]) => !busy && say({ how: "pair", left, right, good });
  useShortcuts("log", (id) => {
    if (id === "log-keep") answer([left]);
    else if (id === "log-right") answer([right]);
    else if (id === "log-maybe") answer([left, right]);
    else if (id === "log-no") answer([]);
    else if (id === "log-undo" && undo) undo();
    else return false;
    return true;
  });
  if (!a || !b) return <p className="text-muted">This ladder has no two rungs to choose between.</p>;
  const filmed = Math.min((a.frames ?? []).length, (b.frames ?? []).length);
  const label = (rung: typeof a) => (blind ? "" : `${rung.label}, ${rung.amount}`);
  return (
    <div>
      <p className="pb-2 font-serif text-lead">Which of the two is good enough?</p>
      <div className="grid grid-cols-2 gap-3 max-sm:grid-cols-1">
        {[a, b].map((rung, place) => (
          <figure key={place === 0 ? "left" : "right"}>
            <RungFrame
              found={found}
              rung={rung}
              place={place === 0 ? "ladder left" : "ladder right"}
              close={close}
              moment={moment}
              says={blind ? `The ${place === 0 ? "left" : "right"} frame` : label(rung)}
            />
            <figcaption className="min-h-6 pt-1 text-small text-muted">{label(rung)}</figcaption>
          </figure>
        ))}
      </div>
      <div className="grid grid-cols-4 gap-2 pt-1 max-sm:grid-cols-2">
        <Say says="only the left" onSay={() => answer([left])} busy={busy} />
        <Say says="both" onSay={() => answer([left, right])} busy={busy} />
        <Say says="neither" onSay={() => answer([])} busy={busy} />
        <Say says="only the right" onSay={() => answer([right])} busy={busy} />
      </div>
      <p className="flex flex-wrap items-center gap-x-5 gap-y-1 pt-2 text-small">
        {filmed > 1 && (
          <button type="button" className="underline" onClick={() => setMoment((now) => now + 1)}>
            another moment, the same in both
          </button>
        )}
        {filmed === 0 && (
          <>
            <label className="flex items-center gap-2">
              <input type="checkbox" checked={close} onChange={(event) => setClose(event.target.checked)} />
              close, as large as it is delivered
            </label>
            <span className="text-muted">
              Drawn from the plans
              {a.takes + b.takes > 0 ? ": its takes brought no frames." : ": nothing was filmed yet."}
            </span>
          </>
        )}
        {undo && before && (
          <span>
            Before: {before}.{" "}
            <button type="button" className="underline" disabled={busy} onClick={undo}>
              take it back
            </button>
          </span>
        )}
      </p>
    </div>
  );
}

function Say({ says, onSay, busy }: { says: string; onSay: () => void; busy: boolean }) {
  return (
    <button type="button" className="plain min-h-11" disabled={busy} onClick={onSay}>
      {says}
    </button>
  );
}
