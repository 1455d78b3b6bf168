// How many of something there are, in what state, and where they lie.
import { useEffect, useState } from "react";
import { Problem } from "../../api/http";
import { changed } from "../../api/keys";
import type { Keeping } from "../../api/types";
import { readNumber } from "../../parts/fields";

type KeepingProps = {
  name: string;
  count: number | null;
  keeping: Keeping;
  ready: string;
  // biome-ignore lint/suspicious/noExplicitAny: each kind is kept by its own call
  keep: (count: any, keeping: Keeping) => Promise<unknown>;
};

/** Count, state and place, kept as soon as they are changed. */
export function KeepingFields({ name, count, keeping, ready, keep }: KeepingProps) {
  const [many, setMany] = useState(String(count ?? 1));
  const [where, setWhere] = useState(keeping.where ?? "");
  const [problem, setProblem] = useState("");
  const most = count ?? 1;
  useEffect(() => setMany(String(count ?? 1)), [count]);
  useEffect(() => setWhere(keeping.where ?? ""), [keeping.where]);
  const save = (nextCount: number | null, next: Keeping) =>
    keep(nextCount, next).then(
      () => {
        setProblem("");
        changed.kit();
      },
      (error: Error) =>
        setProblem(
          error instanceof Problem && error.faults[0]
            ? `${error.faults[0].what}. ${error.faults[0].mend}`
            : error.message,
        ),
    );
  const putCount = () => {
    const next = Math.round(readNumber(many) ?? 0);
    if (next === most) return;
    if (next < 1 || next > 100) setProblem("Give a count from 1 to 100.");
    else void save(next, { ...keeping, ready: Math.min(keeping.ready ?? 0, next) });
  };
  return (
    <span className="flex flex-wrap items-baseline gap-x-4 text-[13px] text-muted">
      {count !== null && (
        <label>
          count{" "}
          <input
            className="w-10 border-muted border-b bg-transparent text-right text-[15px] text-ink"
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
            className="border-muted border-b text-[15px] text-ink"
            aria-label={`${name} ${ready}`}
            value={keeping.ready ?? 0}
            onChange={(event) => void save(count, { ...keeping, ready: Number(event.target.value) })}
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
          className="w-36 border-muted border-b bg-transparent text-[15px] text-ink placeholder:text-muted"
          aria-label={`Where ${name} lies`}
          maxLength={120}
          placeholder="not said"
          value={where}
          onChange={(event) => setWhere(event.target.value)}
          onBlur={() => where !== (keeping.where ?? "") && void save(count, { ...keeping, where })}
          onKeyDown={(event) => event.key === "Enter" && event.currentTarget.blur()}
        />
      </label>
      {problem && (
        <span role="alert" className="text-note">
          {problem}
        </span>
      )}
    </span>
  );
}
