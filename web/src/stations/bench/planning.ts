// Asks the service for the brief at hand again and again. The last good answer stays until a better one arrives.
import { useEffect, useRef, useState } from "react";
import { benchApi } from "../../api/bench";
import { Problem } from "../../api/http";
import type { BenchAnswer, Brief, Plan } from "../../api/types";
import { isSame } from "../../changes/fields";

export type Planning = {
  plan: Plan | null;
  /** What else the Bench shows of the plan, once the service has told it. */
  answer: BenchAnswer | null;
  problem: Problem | null;
  moved: Set<string>;
  pending: boolean;
  /** All that is shown belongs to the brief as it was a moment ago. */
  old: boolean;
  /** What is said of other cameras and schools belongs to the brief as it was a moment ago. */
  othersOld: boolean;
  /** The camera that was in use before another one took its place. */
  left: Plan["camera"] | null;
};

const BUSY_AFTER_MS = 250;

/** First the camera in use alone, which is shown at once; then all of them, ranked. */
export function usePlanning(brief: Brief, first: Plan | null, held: string | null): Planning {
  const [state, setState] = useState<Planning>({
    plan: first,
    answer: null,
    problem: null,
    moved: new Set(),
    pending: false,
    old: false,
    othersOld: false,
    left: null,
  });
  const answered = useRef<Brief | null>(null);
  const inUse = useRef(first?.camera.id ?? null);
  // A kept plan is shown as it is; only what stands beside it has to be asked for.
  const opening = useRef(first ? brief : null);
  const [attempt, setAttempt] = useState(0);
  // biome-ignore lint/correctness/useExhaustiveDependencies: a further attempt plans the same brief again
  useEffect(() => {
    if (isSame(brief, answered.current)) return;
    // What is shown meanwhile may be half of the answer, so nothing counts as answered until all of it is there.
    answered.current = null;
    const isOpening = isSame(opening.current, brief);
    const abort = new AbortController();
    let retry = 0;
    // Only what takes long is worth a word, and a paint.
    const busy = window.setTimeout(
      () => setState((now) => ({ ...now, pending: true, old: true })),
      BUSY_AFTER_MS,
    );
    const before = state.plan;
    const pinned = "camera" in brief.pins;
    const show = (answer: BenchAnswer) => {
      opening.current = null;
      const { plan, whole } = answer;
      const left = whole && before && before.camera.id !== plan.camera.id && !pinned ? before.camera : null;
      window.clearTimeout(busy);
      setState({
        // Of other cameras and schools nothing new is known before the whole answer: what was said of them stays.
        plan: whole || !before ? plan : { ...plan, cameras: before.cameras, schools: before.schools },
        answer,
        problem: null,
        pending: !whole,
        old: false,
        othersOld: !whole,
        moved: isOpening ? new Set() : movedDials(before, plan),
        left: isOpening ? null : left,
      });
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
      benchApi.answer(brief, null, held, abort.signal).then((answer) => {
        answered.current = brief;
        inUse.current = answer.plan.camera.id;
        show(answer);
      });
    const quick =
      inUse.current && !pinned && !isOpening
        ? benchApi.answer(brief, inUse.current, held, abort.signal).then(
            show,
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

/** Dials whose value is another one; values are compared, not their words. */
function movedDials(before: Plan | null, after: Plan): Set<string> {
  if (!before) return new Set();
  return new Set(
    Object.keys(after.chosen).filter((dial) => !isSame(before.chosen[dial], after.chosen[dial])),
  );
}
