// Measuring: short guided tests that put one's own numbers in the place of estimates.
import { useEffect } from "react";
import { Link, useParams } from "react-router";
import type { KitView } from "../../api/types";
import { Glass } from "./measure-glass";
import { Noise } from "./measure-noise";

const TESTS = [
  ["noise", "Noise"],
  ["glass", "Density of a filter"],
  ["others", "Others"],
] as const;

export default function Measure({ kit }: { kit: KitView }) {
  const { what = "noise" } = useParams();
  useEffect(() => {
    document.title = "Measure it · Kit · Steady Tide";
  }, []);
  return (
    <section className="min-w-0 px-7 py-5" aria-label="Measure it">
      <h2 className="font-serif text-head font-semibold">Measure it</h2>
      <nav aria-label="Tests" className="flex flex-wrap gap-x-5 border-hair border-b pt-1">
        {TESTS.map(([id, says]) => (
          <Link
            key={id}
            to={`/kit/measure/${id}`}
            aria-current={what === id ? "page" : undefined}
            className={`border-b-2 py-[5px] text-body ${what === id ? "border-ink font-bold" : "border-transparent text-muted hover:text-ink"}`}
          >
            {says}
          </Link>
        ))}
      </nav>
      {what === "noise" && <Noise kit={kit} />}
      {what === "glass" && <Glass kit={kit} />}
      {what === "others" && <Others />}
    </section>
  );
}

/** Tests that have their place, but are still done by hand. */
function Others() {
  const tests = [
    [
      "A charge",
      "Charge it full, record in one mode until it stops, and time it. Write the hours under “From the box” in the sheet.",
    ],
    [
      "Gigabytes a minute",
      "Drop a clip of each mode into the sheet's first page: the bit rates are read from it.",
    ],
    [
      "Readout",
      "Pan past an upright edge at a steady pace: its lean in pixels, over the pan's pixels a second, is the readout. Write it under “Lenses and sensors”.",
    ],
    [
      "Crop of stabilisation",
      "Film one scene with and without stabilisation: the width that is left, as a share, goes under “Stabilisation”.",
    ],
  ];
  return (
    <>
      <p className="max-w-[66ch] py-3">
        These are still worked out by hand; each has its field in the sheet, and a number that you write there
        is no estimate any more.
      </p>
      <dl className="max-w-[760px]">
        {tests.map(([says, how]) => (
          <div
            key={says}
            className="grid grid-cols-[150px_minmax(0,1fr)] border-hair border-b py-[7px] max-sm:grid-cols-1"
          >
            <dt className="font-bold">{says}</dt>
            <dd>{how}</dd>
          </div>
        ))}
      </dl>
    </>
  );
}
