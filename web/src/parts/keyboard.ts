// Listens for the shortcuts of the station at hand.
import { useEffect, useRef } from "react";
import { type Station, shortcuts } from "./shortcuts";

function isTyping(target: EventTarget | null): boolean {
  if (!(target instanceof HTMLElement)) return false;
  return target.isContentEditable || ["INPUT", "SELECT", "TEXTAREA"].includes(target.tagName);
}

/** Calls `act` with the id of a shortcut of this station; false from `act` leaves the key to the browser. */
export function useShortcuts(where: Station, act: (id: string) => boolean | undefined): void {
  const latest = useRef(act);
  latest.current = act;
  useEffect(() => {
    const listen = (event: KeyboardEvent) => {
      if (event.ctrlKey || event.metaKey || event.altKey || event.defaultPrevented || isTyping(event.target))
        return;
      if (document.querySelector("[role=dialog]")) return;
      const found = shortcuts.find((entry) => entry.where === where && entry.key === event.key);
      if (found && latest.current(found.id) !== false) event.preventDefault();
    };
    window.addEventListener("keydown", listen);
    return () => window.removeEventListener("keydown", listen);
  }, [where]);
}
