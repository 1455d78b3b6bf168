// Plans the brief at hand again and again. The last good plan stays until a better one arrives.
import { useEffect, useRef, useState } from "react";
import { api, type Brief, type Plan, Problem } from "../../api/client";

export type Planning = {
  plan: Plan | null;
  problem: Problem | null;
  moved: Set<string>;
  pending: boolean;
  /** The camera that was in use before another one took its place. */
  left: Plan["camera"] | null;
};

const BUSY_AFTER_MS = 250;

/** First the camera in use alone, which is shown at once; then all of them, ranked. */
export function usePlanning(brief: Brief, first: Plan | null, held: string | null): Planning {
  const [state, setState] = useState<Planning>({
    plan: first,
    problem: null,
    moved: new Set(),
    pending: false,
    left: null,
  });
  const planned = useRef(first ? JSON.stringify(brief) : "");
  const inUse = useRef(first?.camera.id ?? null);
  const [attempt, setAttempt] = useState(0);
  // biome-ignore lint/correctness/useExhaustiveDependencies: a further attempt plans the same brief again
  useEffect(() => {
    const asked = JSON.stringify(brief);
    if (asked === planned.current) return;
    // What is shown meanwhile may be half of the answer, so nothing counts as planned until all of it is there.
    planned.current = "";
    const abort = new AbortController();
    let retry = 0;
    // Only what takes long is worth a word, and a paint.
    const busy = window.setTimeout(() => setState((now) => ({ ...now, pending: true })), BUSY_AFTER_MS);
    const before = state.plan;
    const show = (plan: Plan, whole: boolean) => {
      const left =
        whole && before && before.camera.id !== plan.camera.id && !("camera" in (brief.pins ?? {}))
          ? before.camera
          : null;
      window.clearTimeout(busy);
      setState({ plan, problem: null, pending: !whole, moved: movedDials(before, plan), left });
    };
    const refused = (error: unknown) => {
      if (abort.signal.aborted) return;
      window.clearTimeout(busy);
      const problem =
        error instanceof Problem ? error : new Problem(0, "Something went wrong", String(error));
      setState((now) => ({ ...now, problem, pending: false, moved: new Set(), left: null }));
      if (problem.status === 0 || problem.status >= 500)
        retry = window.setTimeout(() => setAttempt((n) => n + 1), 2000);
    };
    const all = () =>
      api.plan(brief, null, held, abort.signal).then((plan) => {
        planned.current = asked;
        inUse.current = plan.camera.id;
        show(plan, true);
      });
    const quick =
      inUse.current && !("camera" in (brief.pins ?? {}))
        ? api.plan(brief, inUse.current, held, abort.signal).then(
            (plan) => {
              // Of other cameras and schools nothing new is known yet: what was said of them stays.
              show(before ? { ...plan, cameras: before.cameras, schools: before.schools } : plan, false);
            },
            () => undefined, // The camera in use cannot; another one may.
          )
        : Promise.resolve();
    quick.then(() => (abort.signal.aborted ? undefined : all())).catch(refused);
    return () => {
      abort.abort();
      window.clearTimeout(retry);
      window.clearTimeout(busy);
    };
  }, [brief, attempt, held]);
  return state;
}

function movedDials(before: Plan | null, after: Plan): Set<string> {
  if (!before) return new Set();
  return new Set(Object.keys(after.values).filter((dial) => before.values[dial] !== after.values[dial]));
}
