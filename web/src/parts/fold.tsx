// A list at the side where there is room, else folded away behind its name.
import { type ReactNode, useSyncExternalStore } from "react";
import { useLocation } from "react-router";

const WIDE = "(min-width: 768px)";

function watch(changed: () => void): () => void {
  const media = window.matchMedia(WIDE);
  media.addEventListener("change", changed);
  return () => media.removeEventListener("change", changed);
}

export function useWide(): boolean {
  return useSyncExternalStore(watch, () => window.matchMedia(WIDE).matches);
}

/** says: what the folded list is called; wherever one goes from it, it folds again. */
export function Fold({ says, children }: { says: ReactNode; children: ReactNode }) {
  const wide = useWide();
  const { pathname } = useLocation();
  if (wide) return children;
  return (
    <details key={pathname} className="group">
      <summary className="flex min-h-10 cursor-pointer items-center justify-between gap-3 font-bold">
        {says}
        <span aria-hidden="true" className="font-normal text-muted group-open:hidden">
          all
        </span>
        <span aria-hidden="true" className="hidden font-normal text-muted group-open:inline">
          fold
        </span>
      </summary>
      {children}
    </details>
  );
}
