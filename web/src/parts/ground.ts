// Day, Night and Red: which ground the charts are drawn on.
import { useSyncExternalStore } from "react";

export const grounds = ["day", "night", "red"] as const;
export type Ground = (typeof grounds)[number];
export const groundNames: Record<Ground, string> = { day: "Day", night: "Night", red: "Red" };

const listeners = new Set<() => void>();

export function currentGround(): Ground {
  return (document.documentElement.dataset.ground as Ground) ?? "day";
}

export function setGround(ground: Ground): void {
  document.documentElement.dataset.ground = ground;
  try {
    localStorage.setItem("steady-tide.ground", ground);
  } catch {
    // kept for this visit only
  }
  for (const tell of listeners) tell();
}

export function nextGround(): void {
  setGround(grounds[(grounds.indexOf(currentGround()) + 1) % grounds.length] ?? "day");
}

export function useGround(): Ground {
  return useSyncExternalStore((tell) => {
    listeners.add(tell);
    return () => listeners.delete(tell);
  }, currentGround);
}
