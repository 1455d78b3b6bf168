// How many of something there are, in what state, and where they lie.
import { useEffect, useState } from "react";
import { changed } from "../../api/keys";
import type { Keeping } from "../../api/types";
import { Met } from "../../changes/met";
import { useChanges } from "../../changes/use-changes";
import { readNumber } from "../../parts/reading";

type KeepingProps = {
  /** Where what is not handed over yet is kept in this browser. */
  place: string;
  name: string;
  count: number | null;
  keeping: Keeping;
  ready: string;
  revision: number;
  /** Hands over what changed of count, state and place. */
  keep: (revision: number, change: Record<string, unknown>) => Promise<{ revision: number }>;
};

/** Count, state and place, kept as soon as they are changed. */
export function KeepingFields({ place, name, count, keeping, ready, revision, keep }: KeepingProps) {
  const shown = { count: count ?? 1, ready: keeping.ready ?? 0, where: keeping.where ?? "" };
  const { engine, now, say } = useChanges({ place, shown, revision, send: keep, reread: changed.kit });
  const most = now.count;
  const [many, setMany] = useState(String(most));
  const [where, setWhere] = useState(now.where);
  const [wrong, setWrong] = useState("");
  const change = (fields: Record<string, unknown>) => void say(fields);
  useEffect(() => setMany(String(now.count)), [now.count]);
  useEffect(() => setWhere(now.where), [now.where]);
  const putCount = () => {
    const next = Math.round(readNumber(many) ?? 0);
    if (next === most) return;
    const fits = next >= 1 && next <= 100;
    setWrong(fits ? "" : "Give a count from 1 to 100.");
    if (fits) change({ count: next, ...(now.ready > next && { ready: next }) });
  };
  return (
    <span className="flex flex-wrap items-baseline gap-x-4 text-small text-muted">
      {count !== null && (
        <label>
          count{" "}
          <input
            className="w-10 border-muted border-b bg-transparent text-right text-body text-ink"
            inputMode="numeric"
            aria-label={`Count of ${name}`}
            value={many}
            onChange={(event) => setMany(event.target.value)}
            onBlur={putCount}
            onKeyDown={(event) => event.key === "Enter" && putCount()}
          />
        </label>
      )}
      {ready && (
        <label>
          {ready}{" "}
          <select
            className="border-muted border-b text-body text-ink"
            aria-label={`${name} ${ready}`}
            value={now.ready}
            onChange={(event) => change({ ready: Number(event.target.value) })}
          >
            {Array.from({ length: most + 1 }, (_, n) => (
              <option key={n} value={n}>
                {n === most && most > 1
                  ? `all ${most}`
                  : n === 0
                    ? "none"
                    : most === 1
                      ? "yes"
                      : `${n} of ${most}`}
              </option>
            ))}
          </select>
        </label>
      )}
      <label>
        where{" "}
        <input
          className="w-36 border-muted border-b bg-transparent text-body text-ink placeholder:text-muted"
          aria-label={`Where ${name} lies`}
          maxLength={120}
          placeholder="not said"
          value={where}
          onChange={(event) => setWhere(event.target.value)}
          onBlur={() => where !== now.where && change({ where })}
          onKeyDown={(event) => event.key === "Enter" && event.currentTarget.blur()}
        />
      </label>
      {engine.history.canUndo && (
        <button
          type="button"
          className="underline"
          aria-label={`Undo the change of ${name}`}
          onClick={engine.undo}
        >
          undo
        </button>
      )}
      <Met engine={engine} />
      {wrong && (
        <span role="alert" className="text-note">
          {wrong}
        </span>
      )}
    </span>
  );
}
