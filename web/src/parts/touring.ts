// Whether somebody is shown around, and where he is on the way.
import { useSyncExternalStore } from "react";

const listeners = new Set<() => void>();
let at: number | null = null;

/** step: counted from nought; null ends it. */
export function goTour(step: number | null): void {
  at = step;
  for (const tell of listeners) tell();
}

export function useTour(): number | null {
  return useSyncExternalStore(
    (tell) => {
      listeners.add(tell);
      return () => listeners.delete(tell);
    },
    () => at,
  );
}
