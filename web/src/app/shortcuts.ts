// Every key in one list: the interface shows it, and the keyboard listens to it. No key works while typing.
export type Station = "anywhere" | "bench" | "shoots" | "card";

export type Shortcut = { id: string; key: string; says: string; where: Station };

export const shortcuts: Shortcut[] = [
  { id: "go-shoots", key: "1", says: "Shoots", where: "anywhere" },
  { id: "go-bench", key: "2", says: "Bench", where: "anywhere" },
  { id: "go-card", key: "3", says: "Card", where: "anywhere" },
  { id: "ground", key: "0", says: "next ground: Day, Night, Red", where: "anywhere" },
  { id: "help", key: "?", says: "this list", where: "anywhere" },
  { id: "new-shot", key: "n", says: "new shot", where: "shoots" },
  { id: "next-card", key: "n", says: "the next shot's card", where: "card" },
  { id: "card-before", key: "b", says: "the card before", where: "card" },
  { id: "sentence", key: "/", says: "to the sentence", where: "bench" },
  { id: "cameras", key: "k", says: "compare the cameras", where: "bench" },
  { id: "undo", key: "u", says: "undo", where: "bench" },
  { id: "redo", key: "U", says: "redo", where: "bench" },
  { id: "pin", key: "p", says: "pin or release the open row", where: "bench" },
  { id: "row-frame", key: "f", says: "open Frame", where: "bench" },
  { id: "row-rate", key: "r", says: "open Rate", where: "bench" },
  { id: "row-view", key: "v", says: "open View", where: "bench" },
  { id: "row-steadying", key: "s", says: "open Steadying", where: "bench" },
  { id: "row-shutter", key: "t", says: "open Shutter", where: "bench" },
  { id: "row-aperture", key: "a", says: "open Aperture", where: "bench" },
  { id: "row-iso", key: "i", says: "open ISO", where: "bench" },
  { id: "row-glass", key: "g", says: "open Glass", where: "bench" },
  { id: "row-exposure", key: "e", says: "open Exposure", where: "bench" },
  { id: "row-balance", key: "b", says: "open Balance", where: "bench" },
  { id: "row-focus", key: "o", says: "open Focus", where: "bench" },
  { id: "row-colour", key: "c", says: "open Colour", where: "bench" },
  { id: "row-sharpness", key: "h", says: "open Sharpness", where: "bench" },
  { id: "row-stream", key: "m", says: "open Stream", where: "bench" },
  { id: "row-sound", key: "d", says: "open Sound", where: "bench" },
  { id: "row-power", key: "w", says: "open Power", where: "bench" },
];
