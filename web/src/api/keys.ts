// The keys of what the service has told: one factory, so that a change knows what it makes stale.
import { queries } from "./http";

export const keys = {
  health: ["health"] as const,
  shoots: ["shoots"] as const,
  shots: ["shots"] as const,
  shotsOf: (shoot: string) => ["shots", shoot] as const,
  anyShot: ["shot"] as const,
  shot: (id: string) => ["shot", id] as const,
  recipes: (shot: string) => ["recipes", shot] as const,
  ownChanges: (asked: unknown) => ["own changes", asked] as const,
  compared: (asked: unknown) => ["compared", asked] as const,
  vocabulary: ["vocabulary"] as const,
  film: (asked: unknown) => ["film", asked] as const,
  cards: ["card"] as const,
  card: (id: string) => ["card", id] as const,
  outside: (id: string) => ["outside", id] as const,
  days: ["day"] as const,
  day: (shoot: string) => ["day", shoot] as const,
  glass: ["glass"] as const,
  glassOf: (shot: string) => ["glass", shot] as const,
  budgets: ["budget"] as const,
  budget: (shoot: string) => ["budget", shoot] as const,
  mends: (shoot: string, shot: string, kind: string) => ["mends", shoot, shot, kind] as const,
  allPresets: ["presets"] as const,
  presets: (shoot: string) => ["presets", shoot] as const,
  packings: ["packing"] as const,
  packing: (shoot: string) => ["packing", shoot] as const,
  asked: (shoot: string) => ["asked", shoot] as const,
  kit: ["kit"] as const,
  map: (camera: string) => ["kit", "map", camera] as const,
  editions: ["kit", "editions"] as const,
  editionsOf: (camera: string) => ["kit", "editions", camera] as const,
  sheet: (camera: string) => ["kit", "sheet", camera] as const,
  drafts: ["kit", "drafts"] as const,
  draft: (id: string | null, of: string | null) => ["draft", id, of] as const,
  fields: ["fields"] as const,
  gearForms: ["gear forms"] as const,
  look: (side: unknown, sight: unknown) => ["look", side, sight] as const,
  scenes: ["look", "scenes"] as const,
  lookText: (left: unknown, right: unknown) => ["look", "told", left, right] as const,
  rushes: ["rushes"] as const,
  folders: ["rushes", "folders"] as const,
  clips: ["rushes", "clips"] as const,
  clip: (id: string) => ["rushes", "clip", id] as const,
  nextTime: (shot: string) => ["rushes", "next", shot] as const,
  rushReport: (shoot: string | null) => ["rushes", "report", shoot] as const,
  log: ["log"] as const,
  takes: (asked: unknown) => ["log", "takes", asked] as const,
  take: (id: string) => ["log", "take", id] as const,
  shotTakes: (shot: string) => ["log", "shot", shot] as const,
  notes: ["log", "notes"] as const,
  numbers: ["log", "numbers"] as const,
  ladders: ["log", "ladders"] as const,
  shotLadders: (shot: string) => ["log", "ladders", shot] as const,
  ladder: (id: string) => ["log", "ladder", id] as const,
  ladderOffers: (shot: string) => ["log", "offers", shot] as const,
  places: (asked: string) => ["places", asked] as const,
  glossary: ["glossary"] as const,
  practice: (kinds: string, camera: string, deck: string, seed: number) =>
    ["practice", "session", kinds, camera, deck, seed] as const,
  practiceQuestion: (topic: string, camera: string, deck: string, seed: number) =>
    ["practice", "question", topic, camera, deck, seed] as const,
  uses: ["uses", "shelf"] as const,
  demo: ["demo"] as const,
  allUses: ["uses"] as const,
  sharing: (camera: string, chosen: string) => ["uses", "sharing", camera, chosen] as const,
  beside: (camera: string, first: string, second: string) =>
    ["uses", "beside", camera, first, second] as const,
  standing: (camera: string, chosen: string) => ["uses", "standing", camera, chosen] as const,
  setUp: (camera: string) => ["uses", "set-up", camera] as const,
  stories: ["story"] as const,
  story: (shoot: string) => ["story", shoot] as const,
  proposals: (film: string, beat: string, prompts: boolean) =>
    ["story", "proposals", film, beat, prompts] as const,
  edit: (shoot: string, look: string | null) => ["story", "edit", shoot, look] as const,
  sun: (shot: string, told: unknown) => ["story", "sun", shot, told] as const,
};

/** Changes of the same thing go out one after the other, as they were asked for. */
export const inTurn = (...of: string[]) => ({ scope: { id: of.join(" ") } });

type Key = readonly unknown[];

function stale(...old: Key[]) {
  return Promise.all(old.map((queryKey) => queries.invalidateQueries({ queryKey })));
}

/** What has to be read again after a change of something. */
export const changed = {
  /** A shot's brief, its plan or its time. */
  shot: (id: string) =>
    stale(
      keys.stories,
      keys.shots,
      keys.card(id),
      keys.glassOf(id),
      keys.days,
      keys.budgets,
      keys.allPresets,
      keys.packings,
    ),
  /** A film or its framings, which are shots. */
  story: () =>
    stale(
      keys.stories,
      keys.shoots,
      keys.shots,
      keys.anyShot,
      keys.cards,
      keys.days,
      keys.budgets,
      keys.allPresets,
      keys.packings,
    ),
  /** The edition of the camera's sheet that a shot's plan keeps. */
  sheetOf: (id: string) => stale(keys.shots, keys.shot(id), keys.card(id), keys.kit),
  /** Shots of a day were moved. */
  starts: () =>
    stale(
      keys.stories,
      keys.shots,
      keys.anyShot,
      keys.cards,
      keys.glass,
      keys.days,
      keys.budgets,
      keys.allPresets,
      keys.packings,
    ),
  /** Which shoots there are. */
  shoots: () => stale(keys.shoots, keys.shots, keys.stories),
  /** The sky that a shoot is planned under. */
  sky: (shoot: string) => stale(keys.shoots, keys.day(shoot), keys.glass, keys.cards),
  /** The rules of a day. */
  rules: (shoot: string) => stale(keys.asked(shoot)),
  /** The crew's way of working: every plan that follows it. */
  way: () =>
    stale(keys.stories, keys.vocabulary, keys.shots, keys.anyShot, keys.cards, keys.budgets, keys.allPresets),
  /** The kit: what briefs can name, and all plans made with it. */
  kit: () =>
    stale(
      keys.allUses,
      keys.stories,
      keys.kit,
      keys.vocabulary,
      keys.shots,
      keys.anyShot,
      keys.cards,
      keys.glass,
      keys.budgets,
      keys.allPresets,
      keys.packings,
    ),
  presetNames: (shoot: string) => stale(keys.presets(shoot), keys.cards),
  recipes: (shot: string) => stale(keys.recipes(shot)),
  scenes: () => stale(keys.scenes),
  cardFrames: (shot: string) => stale(keys.card(shot)),
  /** Clips, or what is thought of them. */
  rushes: () => stale(keys.rushes, keys.log, keys.stories),
  /** Takes, ladders and notes: what they teach, and what clips are called. */
  log: () => stale(keys.log, keys.rushes, keys.stories, keys.cards),
  /** Own numbers that are switched on or off: all plans made with them. */
  own: () =>
    stale(
      keys.allUses,
      keys.stories,
      keys.numbers,
      keys.vocabulary,
      keys.shots,
      keys.anyShot,
      keys.cards,
      keys.glass,
      keys.budgets,
      keys.allPresets,
      keys.packings,
    ),
  /** Uses, what is chosen of them, or what was set up. */
  uses: () => stale(keys.allUses),
  drafts: () => stale(keys.drafts),
  editions: () => stale(keys.editions),
  everything: () => queries.invalidateQueries(),
};
