// How wide a drawing is shown, so that its letters keep their size on every screen.
import { type RefObject, useEffect, useState } from "react";

const LEAST = 280;

export function useWidth(drawing: RefObject<SVGSVGElement | null>, usual: number): number {
  const [width, setWidth] = useState(usual);
  useEffect(() => {
    const drawn = drawing.current;
    if (!drawn) return;
    const watch = new ResizeObserver(([entry]) => {
      const now = Math.round(entry?.contentRect.width ?? 0);
      if (now > 0) setWidth(Math.max(LEAST, now));
    });
    watch.observe(drawn);
    return () => watch.disconnect();
  }, [drawing]);
  return width;
}
