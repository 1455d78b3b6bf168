// All frames in a row from the best to the worst: good enough up to here.
import { useState } from "react";
import type { Ladder, Said } from "../../api/log";
import { RungFrame } from "./rung-frame";

type Props = {
  found: Ladder;
  blind: boolean;
  busy: boolean;
  say: (answer: Said) => void;
};

export function JudgeRow({ found, blind, busy, say }: Props) {
  const [close, setClose] = useState(true);
  const row = found.best_first.flatMap((place) => {
    const rung = found.rungs[place];
    return rung ? [{ place, rung }] : [];
  });
  return (
    <div>
      <p className="pb-2 font-serif text-lead">Up to which frame is it good enough?</p>
      <ol className="grid grid-cols-[repeat(auto-fill,minmax(230px,1fr))] gap-3">
        {row.map(({ place, rung }, n) => (
          <li key={place} className="grid content-start gap-1">
            <RungFrame
              found={found}
              rung={rung}
              place={`ladder row ${n}`}
              close={close}
              moment={0}
              says={blind ? `Frame ${n + 1}` : `${rung.label}, ${rung.amount}`}
            />
            {!blind && (
              <span className="text-small text-muted">
                {rung.label}
                {rung.amount && `, ${rung.amount}`}
              </span>
            )}
            <button
              type="button"
              className="plain min-h-11"
              disabled={busy}
              onClick={() => say({ how: "row", up_to: n })}
            >
              good up to here
            </button>
          </li>
        ))}
      </ol>
      <p className="flex flex-wrap items-center gap-x-5 pt-3 text-small">
        <button
          type="button"
          className="plain"
          disabled={busy}
          onClick={() => say({ how: "row", up_to: -1 })}
        >
          none of them
        </button>
        <label className="flex items-center gap-2">
          <input type="checkbox" checked={close} onChange={(event) => setClose(event.target.checked)} />
          close, as large as it is delivered
        </label>
      </p>
    </div>
  );
}
