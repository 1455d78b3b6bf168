// A short tour that points: nothing is covered, nothing is held, and what is pointed at can be used meanwhile.
import { useEffect, useState } from "react";
import { useLocation } from "react-router";
import { goTour, useTour } from "../parts/touring";

const STEPS = [
  {
    at: 'section[aria-label="Brief"]',
    part: "sentence",
    says: "This sentence is the brief: what you film, in what light, from what. Whatever is underlined can be changed.",
  },
  {
    at: '[aria-label="Setting sheet"]',
    part: "sheet",
    says: "One setting for each dial that this camera can do together. The bar says how many stops it gives up; open a row to see why, and what other values would cost.",
  },
  {
    at: '[aria-label="Setting sheet"] [data-row] button[aria-pressed]',
    part: "sheet",
    says: "Do you know better? Pin it. All the rest is planned anew around it, and its price stands in the ledger.",
  },
  {
    at: 'aside[aria-label="Ledger"]',
    part: "total",
    says: "All that is given up, the largest first, in stops: one stop is half or double the light. Less is better.",
  },
  {
    at: 'figure[aria-label="Gauge"]',
    part: "light",
    says: "The light of the whole shot, and beside it what the exposure reaches of it. What sticks out comes out too dark or too bright.",
  },
  {
    at: 'nav[aria-label="Stations"]',
    part: "",
    says: "Look draws the frame before it is filmed, the Card goes outside, Rushes measures what came back, the Log learns from it. The keys and words of the program stand under the question mark.",
  },
];

const CORNERS = [
  ["right-4", "bottom-16"],
  ["left-4", "bottom-16"],
  ["right-4", "top-14"],
  ["left-4", "top-14"],
] as const;
const WIDE = 384;
const HIGH = 210;

/** How much of what is pointed at a corner's words would cover. */
function covered([side, end]: (typeof CORNERS)[number], spot: Spot | null): number {
  if (!spot) return 0;
  const left = side === "left-4" ? 16 : window.innerWidth - 16 - WIDE;
  const top = end === "top-14" ? 56 : window.innerHeight - 64 - HIGH;
  const across = Math.min(left + WIDE, spot.left + spot.width) - Math.max(left, spot.left);
  const down = Math.min(top + HIGH, spot.top + spot.height) - Math.max(top, spot.top);
  return Math.max(0, across) * Math.max(0, down);
}

type Spot = { left: number; top: number; width: number; height: number };

export function Tour() {
  const step = useTour();
  const { pathname } = useLocation();
  useEffect(() => () => goTour(null), []);
  if (step === null) return null;
  return <Pointing key={`${step} ${pathname}`} step={step} />;
}

function Pointing({ step }: { step: number }) {
  const [spot, setSpot] = useState<Spot | null>(null);
  const shown = STEPS[step];
  useEffect(() => {
    if (!shown) return;
    let frame = 0;
    let brought = false;
    // A small screen shows one part at a time: the one that is pointed at.
    document.querySelector<HTMLElement>(`[data-part="${shown.part}"][aria-pressed="false"]`)?.click();
    const look = () => {
      const there = document.querySelector<HTMLElement>(shown.at);
      const box = there?.getBoundingClientRect();
      if (there && box && box.width > 0) {
        if (!brought) there.scrollIntoView({ block: "nearest" });
        brought = true;
        setSpot((last) =>
          last &&
          last.left === box.left &&
          last.top === box.top &&
          last.width === box.width &&
          last.height === box.height
            ? last
            : { left: box.left, top: box.top, width: box.width, height: box.height },
        );
      } else setSpot(null);
      frame = requestAnimationFrame(look);
    };
    look();
    return () => cancelAnimationFrame(frame);
  }, [shown]);
  if (!shown) return null;
  const last = step === STEPS.length - 1;
  const corner = CORNERS.reduce((best, one) => (covered(one, spot) < covered(best, spot) ? one : best));
  return (
    <>
      {spot && (
        <div
          aria-hidden="true"
          className="no-print pointer-events-none fixed z-30 border-3 border-note"
          style={{
            left: Math.max(0, spot.left - 3),
            top: Math.max(0, spot.top - 3),
            width: Math.min(window.innerWidth - Math.max(0, spot.left - 3), spot.width + 6),
            height: spot.height + 6,
          }}
        />
      )}
      <section
        aria-label="Tour"
        className={`no-print fixed z-40 w-[min(24rem,calc(100vw-2rem))] border-2 border-ink bg-ground p-4 ${corner.join(" ")}`}
      >
        <p role="status" className="font-serif text-lead leading-snug">
          {shown.says}
        </p>
        <p className="flex items-center gap-3 pt-3">
          {step > 0 && (
            <button type="button" className="plain" onClick={() => goTour(step - 1)}>
              Back
            </button>
          )}
          <button
            type="button"
            className="bold-plain"
            autoFocus
            onClick={() => goTour(last ? null : step + 1)}
          >
            {last ? "That was it" : "Next"}
          </button>
          {!last && (
            <button type="button" className="underline" onClick={() => goTour(null)}>
              enough
            </button>
          )}
          <span className="ml-auto text-small text-muted">
            {step + 1} of {STEPS.length}
          </span>
        </p>
      </section>
    </>
  );
}
