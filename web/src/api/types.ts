// The forms that travel, by the names that the interface uses.
import type { components } from "./schema";

export type Schemas = components["schemas"];
/** A brief as the service gives it: what was left out is filled in, so nothing here has to know a default. */
type Whole<T> = T extends readonly unknown[]
  ? { [K in keyof T]: Whole<T[K]> }
  : T extends object
    ? { [K in keyof T]-?: Whole<T[K]> }
    : T;
export type Brief = Whole<Schemas["Brief"]>;
export type Plan = Schemas["PlanText"];
export type Shot = Omit<Schemas["ShotOut"], "brief"> & { brief: Brief };
export type ShotLine = Schemas["ShotLine"];
export type Shoot = Schemas["ShootOut"];
export type ShootFields = Schemas["ShootFields"];
export type Vocabulary = Schemas["Vocabulary"];
export type Card = Schemas["Card"];
export type Fault = Schemas["ProblemFault"];
export type DialValue = Schemas["ValueText"];
export type LedgerItem = Schemas["ItemText"];
export type RankedCamera = Schemas["CameraText"];
export type DayOfLight = Schemas["DayOut"];
export type GlassSpan = Schemas["SpanText"];
export type Instruments = Schemas["Instruments"];
export type MeterReading = Schemas["MeterReading"];
export type School = Schemas["School"];
export type ShootBudget = Schemas["BudgetText"];
export type ShotBudget = Schemas["ShotBudgetText"];
export type Fail = Schemas["FailText"];
export type Mend = Schemas["MendText"];
export type PresetPlan = Schemas["PresetsText"];
export type Packing = Schemas["PackingText"];
export type DayAsked = Schemas["DayAsked"];
export type DayRules = Schemas["DayRules"];
export type ShotWishes = Schemas["ShotWishes"];
export type DayOrder = Schemas["OrderText"];
export type OrderLine = Schemas["OrderLine"];
export type OutsideKept = Schemas["OutsideKept"];
export type Outlook = Schemas["OutlookText"];
export type IntervalFilm = Schemas["IntervalFilm"];
export type ListRead = Schemas["ListRead"];

export type CameraSheet = Schemas["CameraSheet"];
export type KitView = Schemas["KitView"];
export type KeptCamera = Schemas["KeptCamera"];
export type Keeping = Schemas["Keeping"];
export type ThingKind = Schemas["ThingOut"]["kind"];
export type ModeMap = Schemas["MapText"];
export type MapRow = Schemas["MapRow"];
export type MapCell = Schemas["MapCell"];
export type Loss = Schemas["LossText"];
export type Editions = Schemas["Editions"];
export type Completed = Schemas["Completed"];
export type Known = Schemas["Known"];
export type FieldGroup = Schemas["FieldGroup"];
export type FieldNote = Schemas["FieldNote"];
export type TableOut = Schemas["TableOut"];
export type FileFacts = Schemas["FileFacts"];
export type ClipsDraft = Schemas["ClipsDraft"];
export type DraftOut = Schemas["DraftOut"];
export type GreyStep = Schemas["GreyStep"];
export type NoiseMeasured = Schemas["NoiseMeasured"];
export type GlassOut = Schemas["GlassOut"];
export type EstimateCheck = Schemas["CheckText"];
export type MovedShot = Schemas["MovedShot"];
export type Replanned = Schemas["Replanned"];
/** A sheet that is begun: any part of the open format, and what else is known. */
export type Rough = { sheet: Record<string, unknown>; known: Partial<Known> };
export type Recipe = Schemas["Recipe"];
export type Summary = Schemas["SummaryText"];
export type BenchAnswer = Schemas["BenchAnswer"];
export type Row = Plan["rows"][number];
export type Reach = Plan["exposure"]["reaches"][string][number];

/** The edition of a camera's sheet that a plan keeps, where it is not the latest. */
/** Values that a person holds, by dial. */
export type Pins = Record<string, unknown>;

export function pinsOf(brief: Brief): Pins {
  return (brief.pins ?? {}) as Pins;
}

export function withPins(brief: Brief, pins: Pins): Brief {
  return { ...brief, pins: pins as Brief["pins"] };
}

export function heldBy(shot: Shot): string | null {
  return shot.sheet?.held ?? null;
}

export type Curve = "usual" | "linear" | "srgb" | "rec709";

export type Trait = NonNullable<Vocabulary["scenarios"][number]["traits"]>[number];

/** A brief's kind of shot, where the library has it. */
export function kindOf(brief: Brief, { scenarios }: Vocabulary) {
  return scenarios.find(({ id }) => id === brief.scenario);
}

/** Whether a brief's kind of shot has a trait; nobody asks for a kind by its name. */
export function isShot(brief: Brief, trait: Trait, vocabulary: Vocabulary): boolean {
  return kindOf(brief, vocabulary)?.traits?.includes(trait) ?? false;
}
