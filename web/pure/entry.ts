// The pure parts of the front end, asked from the tests: one JSON line in, one out.
import { createInterface } from "node:readline";
import { differing, flat, isSame, nested } from "../src/changes/fields";
import { namedIn, refusalWords } from "../src/changes/refusals";
import { labelsOf, shorter } from "../src/instruments/strip-labels";
import { durationText, readClock, readDuration, readNumber } from "../src/parts/reading";
import { shortcuts } from "../src/parts/shortcuts";
import * as words from "../src/parts/words";
import { togglePins } from "../src/stations/bench/rows";
import { faultsOf, faultWords, tokensOf } from "../src/stations/bench/tokens";
import * as when from "../src/stations/bench/when";
import { withValue, valueAt } from "../src/stations/kit/doc";
import { estimateRows } from "../src/stations/kit/estimates";
import { simulated } from "./simulated";

const CALLS: Record<string, (...said: never[]) => unknown> = {
  ...words,
  ...when,
  simulated,
  isSame,
  differing,
  flat,
  nested,
  namedIn: (error: object, change: object) => [...namedIn(Object.assign(new Error(), error), change).keys()],
  refusalWords: (error: object) => refusalWords(Object.assign(new Error(), error)),
  readNumber,
  readDuration,
  durationText,
  readClock,
  labelsOf,
  shorter,
  shortcuts: () => shortcuts,
  togglePins,
  // What stands in the sentence; its editors are functions, which do not travel.
  tokensOf: (...said: Parameters<typeof tokensOf>) => tokensOf(...said).map(({ editor: _, ...token }) => token),
  faultsOf,
  faultWords,
  withValue,
  valueAt,
  estimateRows,
};

for await (const line of createInterface({ input: process.stdin })) {
  const { call, said } = JSON.parse(line) as { call: string; said: never[] };
  let answer: object;
  try {
    const asked = CALLS[call];
    if (!asked) throw new Error(`There is no '${call}'.`);
    answer = { value: (await asked(...said)) ?? null };
  } catch (error) {
    answer = { error: String(error) };
  }
  process.stdout.write(`${JSON.stringify(answer)}\n`);
}
