// In the head of the page: what was saved, undo and redo.
import { useEffect, useRef, useState } from "react";
import { createPortal } from "react-dom";

/** Where a station puts its own words in the head, such as what was saved. */
export const HEAD_SLOT = "head-slot";

// Where the head has no room for it, a trouble stands at the foot of the screen.
const GRAVE =
  "grave font-bold text-note max-lg:fixed max-lg:inset-x-0 max-lg:bottom-0 max-lg:z-10 max-lg:border-note max-lg:border-t max-lg:bg-second max-lg:px-4 max-lg:py-1";

type Props = {
  says: string;
  grave: boolean;
  canUndo: boolean;
  canRedo: boolean;
  undo: () => void;
  redo: () => void;
};

export function HeadTools({ says, grave, canUndo, canRedo, undo, redo }: Props) {
  const slot = useRef<HTMLElement | null>(null);
  const [ready, setReady] = useState(false);
  useEffect(() => {
    slot.current = document.getElementById(HEAD_SLOT);
    setReady(true);
  }, []);
  if (!ready || !slot.current) return null;
  return createPortal(
    <>
      <span role="status" data-testid="saving" className={grave ? GRAVE : "max-sm:sr-only"}>
        {says}
      </span>
      <button
        type="button"
        className="disabled:opacity-45 max-[480px]:disabled:hidden"
        disabled={!canUndo}
        onClick={undo}
      >
        undo
      </button>
      <button
        type="button"
        className="disabled:opacity-45 max-[480px]:disabled:hidden"
        disabled={!canRedo}
        onClick={redo}
      >
        redo
      </button>
    </>,
    slot.current,
  );
}
