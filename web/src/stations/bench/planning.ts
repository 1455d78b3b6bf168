// Plans the brief at hand again and again. The last good plan stays until a better one arrives.
import { useEffect, useRef, useState } from "react";
import { api, type Brief, type Plan, Problem } from "../../api/client";

export type Planning = { plan: Plan | null; problem: Problem | null; moved: Set<string>; pending: boolean };

export function usePlanning(brief: Brief, first: Plan | null): Planning {
  const [state, setState] = useState<Planning>({
    plan: first,
    problem: null,
    moved: new Set(),
    pending: false,
  });
  const planned = useRef(first ? JSON.stringify(brief) : "");
  const [attempt, setAttempt] = useState(0);
  // biome-ignore lint/correctness/useExhaustiveDependencies: a further attempt plans the same brief again
  useEffect(() => {
    const asked = JSON.stringify(brief);
    if (asked === planned.current) return;
    const abort = new AbortController();
    let retry = 0;
    setState((before) => ({ ...before, pending: true }));
    api.plan(brief, abort.signal).then(
      (plan) => {
        planned.current = asked;
        setState((before) => ({ plan, problem: null, pending: false, moved: movedDials(before.plan, plan) }));
      },
      (error) => {
        if (abort.signal.aborted) return;
        planned.current = "";
        const problem =
          error instanceof Problem ? error : new Problem(0, "Something went wrong", String(error));
        setState((before) => ({ ...before, problem, pending: false, moved: new Set() }));
        if (problem.status === 0 || problem.status >= 500)
          retry = window.setTimeout(() => setAttempt((n) => n + 1), 2000);
      },
    );
    return () => {
      abort.abort();
      window.clearTimeout(retry);
    };
  }, [brief, attempt]);
  return state;
}

function movedDials(before: Plan | null, after: Plan): Set<string> {
  if (!before) return new Set();
  return new Set(Object.keys(after.values).filter((dial) => before.values[dial] !== after.values[dial]));
}
