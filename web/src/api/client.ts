// The one way to the service: typed calls, and refusals as Problem errors.
import { QueryClient, queryOptions } from "@tanstack/react-query";
import createClient from "openapi-fetch";
import type { components, paths } from "./schema";

type Schemas = components["schemas"];
export type Brief = Schemas["Brief"];
export type Plan = Schemas["Plan"];
export type Shot = Schemas["ShotOut"];
export type ShotLine = Schemas["ShotLine"];
export type Shoot = Schemas["ShootOut"];
export type ShootFields = Schemas["ShootFields"];
export type Vocabulary = Schemas["Vocabulary"];
export type Card = Schemas["Card"];
export type Fault = Schemas["ProblemFault"];
export type DialValue = Schemas["DialValue"];
export type LedgerItem = Schemas["LedgerItem"];
export type RankedCamera = Schemas["RankedCamera"];
export type DayOfLight = Schemas["DayOut"];
export type GlassSpan = Schemas["GlassSpan"];
export type Instruments = Schemas["Instruments"];
export type MeterReading = Schemas["MeterReading"];
export type School = Schemas["School"];
export type ShootBudget = Schemas["ShootBudget"];
export type ShotBudget = Schemas["ShotBudget"];
export type Fail = Schemas["Fail"];
export type Mend = Schemas["Mend"];
export type PresetPlan = Schemas["PresetPlan"];
export type Packing = Schemas["Packing"];
export type DayAsked = Schemas["DayAsked"];
export type DayRules = Schemas["DayRules"];
export type ShotWishes = Schemas["ShotWishes"];
export type DayOrder = Schemas["DayOrder"];
export type OrderLine = Schemas["OrderLine"];
export type OutsideKept = Schemas["OutsideKept"];
export type Outlook = Schemas["Outlook"];
export type IntervalFilm = Schemas["IntervalFilm"];
export type ListRead = Schemas["ListRead"];

export type CameraSheet = Schemas["CameraSheet"];
export type KitView = Schemas["KitView"];
export type KeptCamera = Schemas["KeptCamera"];
export type Keeping = Schemas["Keeping"];
export type ThingKind = Schemas["ThingOut"]["kind"];
export type ModeMap = Schemas["ModeMap"];
export type MapRow = Schemas["MapRow"];
export type MapCell = Schemas["MapCell"];
export type Loss = Schemas["Loss"];
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
export type EstimateCheck = Schemas["EstimateCheck"];
export type Replanned = Schemas["Replanned"];
/** A sheet that is begun: any part of the open format, and what else is known. */
export type Rough = { sheet: Record<string, unknown>; known: Partial<Known> };

export type Summary = {
  title: string;
  camera?: string;
  ev100?: [number, number];
  sheet?: string;
  given_up_stops?: number;
  /** Whether the sky of the day lights it. */
  daylight?: boolean;
  pins?: number;
  warnings?: number;
  problem?: string;
};

const client = createClient<paths>({ baseUrl: window.location.origin });

/** A refusal by the service, or the lack of any answer (status 0). */
export class Problem extends Error {
  constructor(
    readonly status: number,
    readonly title: string,
    detail: string,
    readonly faults: Fault[] = [],
    readonly pins: string[] = [],
  ) {
    super(detail);
  }
}

type Answer<T> = { data?: T; error?: unknown; response: Response };

// The client widens tuples to arrays; the caller names the type that the OpenAPI document gives.
async function answered<T>(call: Promise<Answer<unknown>>): Promise<T> {
  let answer: Answer<unknown>;
  try {
    answer = await call;
  } catch (error) {
    if (error instanceof DOMException && error.name === "AbortError") throw error;
    throw new Problem(0, "No answer", "Steady Tide does not answer. Is it still running?");
  }
  if (answer.response.ok) return answer.data as T;
  const said = (answer.error ?? {}) as Partial<Schemas["Problem"]>;
  throw new Problem(
    answer.response.status,
    said.title ?? "Refused",
    said.detail ?? `The service answered ${answer.response.status}.`,
    said.faults ?? [],
    said.pins ?? [],
  );
}

type InstrumentsQuery = {
  camera: string;
  frame_rate?: number;
  height_px?: number;
  missing_stops?: number | null;
};
const XML = {
  bodySerializer: (file: unknown) => file as Blob,
  headers: { "Content-Type": "application/xml" },
};

const BINARY = {
  bodySerializer: (file: unknown) => file as Blob,
  headers: { "Content-Type": "application/octet-stream" },
};

/** The edition of a camera's sheet that a plan keeps, where it is not the latest. */
export function heldBy(shot: Shot): string | null {
  const { sheet } = shot;
  return sheet && sheet.latest !== sheet.edition ? `${sheet.camera}:${sheet.edition}` : null;
}

export type Curve = "usual" | "linear" | "srgb" | "rec709";

const FORM = { bodySerializer: (form: unknown) => form as FormData };

function formOf(fields: Record<string, File[]>): FormData {
  const form = new FormData();
  for (const [name, files] of Object.entries(fields)) for (const file of files) form.append(name, file);
  return form;
}

export const api = {
  shoots: () => answered<Schemas["ShootList"]>(client.GET("/api/shoots")),
  addShoot: (body: ShootFields) => answered<Shoot>(client.POST("/api/shoots", { body })),
  changeShoot: (shoot: Shoot, change: Partial<ShootFields>) => {
    const { id, shots: _, crew: __, people: ___, school: ____, ...fields } = shoot;
    return answered<Shoot>(
      client.PUT("/api/shoots/{shoot_id}", {
        params: { path: { shoot_id: id } },
        body: { ...fields, ...change },
      }),
    );
  },
  day: (shoot: string) =>
    answered<DayOfLight>(
      client.GET("/api/shoots/{shoot_id}/light", { params: { path: { shoot_id: shoot } } }),
    ),
  glassTimes: (shot: string) =>
    answered<Schemas["GlassTimes"]>(
      client.GET("/api/shots/{shot_id}/glass-times", { params: { path: { shot_id: shot } } }),
    ),
  instruments: (body: Brief, query: InstrumentsQuery, signal?: AbortSignal) =>
    answered<Instruments>(client.POST("/api/instruments", { body, params: { query }, signal })),
  takeReading: () => answered<MeterReading>(client.POST("/api/meter/readings")),
  readTrack: (file: Blob) =>
    answered<Schemas["TrackOut"]>(client.POST("/api/tracks", { body: file as never, ...XML })),
  readDive: (file: Blob, water_type: string) =>
    answered<Schemas["DiveOut"]>(
      client.POST("/api/dives", { body: file as never, params: { query: { water_type } }, ...XML }),
    ),
  removeShoot: (id: string) =>
    answered<void>(client.DELETE("/api/shoots/{shoot_id}", { params: { path: { shoot_id: id } } })),
  restoreShoot: (id: string) =>
    answered<Shoot>(client.POST("/api/shoots/{shoot_id}/restore", { params: { path: { shoot_id: id } } })),
  shots: (shoot: string) =>
    answered<Schemas["ShotList"]>(
      client.GET("/api/shoots/{shoot_id}/shots", { params: { path: { shoot_id: shoot } } }),
    ),
  addShot: (shoot: string, body: { brief: Brief; starts_at: string | null }) =>
    answered<Shot>(
      client.POST("/api/shoots/{shoot_id}/shots", { params: { path: { shoot_id: shoot } }, body }),
    ),
  shot: (id: string) =>
    answered<Shot>(client.GET("/api/shots/{shot_id}", { params: { path: { shot_id: id } } })),
  saveShot: (
    id: string,
    body: { brief: Brief; starts_at: string | null; revision: number; latest_sheet?: boolean },
  ) =>
    answered<Shot>(
      client.PUT("/api/shots/{shot_id}", {
        params: { path: { shot_id: id } },
        body: { latest_sheet: false, ...body },
      }),
    ),
  replanned: (id: string) =>
    answered<Replanned>(client.GET("/api/shots/{shot_id}/replanned", { params: { path: { shot_id: id } } })),
  estimates: (body: Brief, camera: string, held: string | null, signal?: AbortSignal) =>
    answered<EstimateCheck>(
      client.POST("/api/estimates", { body, params: { query: { camera, ...(held && { held }) } }, signal }),
    ),
  kit: () => answered<KitView>(client.GET("/api/kit")),
  keepCamera: (id: string, body: { count: number; keeping: Keeping }) =>
    answered<void>(
      client.PUT("/api/kit/cameras/{camera_id}/keeping", { params: { path: { camera_id: id } }, body }),
    ),
  putCameraAway: (id: string) =>
    answered<void>(client.DELETE("/api/kit/cameras/{camera_id}", { params: { path: { camera_id: id } } })),
  bringCameraBack: (id: string) =>
    answered<Schemas["Named"]>(
      client.POST("/api/kit/cameras/{camera_id}/back", { params: { path: { camera_id: id } } }),
    ),
  moveExamples: (away: boolean) =>
    answered<Schemas["Moved"]>(client.POST(away ? "/api/kit/examples/away" : "/api/kit/examples/back")),
  putThing: (
    kind: ThingKind,
    id: string,
    body: { thing: Record<string, unknown>; keeping: Keeping },
    isNew = false,
  ) =>
    answered<Schemas["ThingOut"]>(
      client.PUT("/api/kit/things/{kind}/{thing_id}", {
        params: { path: { kind, thing_id: id }, query: { new: isNew } },
        body,
      }),
    ),
  putThingAway: (kind: ThingKind, id: string) =>
    answered<void>(
      client.DELETE("/api/kit/things/{kind}/{thing_id}", { params: { path: { kind, thing_id: id } } }),
    ),
  bringThingBack: (kind: ThingKind, id: string) =>
    answered<Schemas["ThingOut"]>(
      client.POST("/api/kit/things/{kind}/{thing_id}/back", { params: { path: { kind, thing_id: id } } }),
    ),
  importKit: (file: Blob, name: string, choices: string[]) =>
    answered<Schemas["KitRead"]>(
      client.POST("/api/kit/import", {
        body: file as never,
        params: { query: { name, choices } },
        ...BINARY,
      }),
    ),
  modeMap: (id: string) =>
    answered<ModeMap>(client.GET("/api/cameras/{camera_id}/map", { params: { path: { camera_id: id } } })),
  roughMap: (body: Rough) => answered<ModeMap>(client.POST("/api/sheets/map", { body: body as never })),
  editions: (id: string) =>
    answered<Editions>(
      client.GET("/api/cameras/{camera_id}/editions", { params: { path: { camera_id: id } } }),
    ),
  editionAgain: (id: string, edition: number) =>
    answered<CameraSheet>(
      client.POST("/api/cameras/{camera_id}/editions/{edition}/again", {
        params: { path: { camera_id: id, edition } },
      }),
    ),
  sheet: (id: string) =>
    answered<CameraSheet>(client.GET("/api/cameras/{camera_id}", { params: { path: { camera_id: id } } })),
  putMeasured: (id: string, body: Schemas["Measured"]) =>
    answered<CameraSheet>(
      client.POST("/api/cameras/{camera_id}/measured", { params: { path: { camera_id: id } }, body }),
    ),
  fields: () => answered<Schemas["Fields"]>(client.GET("/api/sheets/fields")),
  complete: (body: Rough, signal?: AbortSignal) =>
    answered<Completed>(client.POST("/api/sheets/complete", { body: body as never, signal })),
  readTable: (text: string, signal?: AbortSignal) =>
    answered<TableOut>(client.POST("/api/sheets/table", { body: { text }, signal })),
  clipFacts: (parts: Blob, query: { name: string; size: number; head: number }) =>
    answered<FileFacts>(
      client.POST("/api/sheets/clips", { body: parts as never, params: { query }, ...BINARY }),
    ),
  draftOfClips: (facts: FileFacts[]) =>
    answered<ClipsDraft>(client.POST("/api/sheets/draft-of-clips", { body: { facts } })),
  addCamera: (rough: Rough) =>
    answered<CameraSheet>(client.POST("/api/cameras", { body: { rough } as never })),
  changeCamera: (id: string, rough: Rough, made_on: number) =>
    answered<CameraSheet>(
      client.PUT("/api/cameras/{camera_id}", {
        params: { path: { camera_id: id } },
        body: { rough, made_on } as never,
      }),
    ),
  rough: (id: string) =>
    answered<Schemas["DraftIn"]>(
      client.GET("/api/cameras/{camera_id}/rough", { params: { path: { camera_id: id } } }),
    ),
  drafts: () => answered<Schemas["Drafts"]>(client.GET("/api/sheets/drafts")),
  draft: (id: string) =>
    answered<DraftOut>(client.GET("/api/sheets/drafts/{draft_id}", { params: { path: { draft_id: id } } })),
  putDraft: (id: string, body: { camera_id: string | null; edition: number | null; rough: Rough }) =>
    answered<DraftOut>(
      client.PUT("/api/sheets/drafts/{draft_id}", {
        params: { path: { draft_id: id } },
        body: body as never,
      }),
    ),
  dropDraft: (id: string) =>
    answered<void>(client.DELETE("/api/sheets/drafts/{draft_id}", { params: { path: { draft_id: id } } })),
  greySteps: (files: File[], query: { iso?: number; transfer: Curve }) =>
    answered<GreyStep[]>(
      client.POST("/api/measure/grey-step", { body: formOf({ files }) as never, params: { query }, ...FORM }),
    ),
  fitNoise: (steps: GreyStep[]) =>
    answered<NoiseMeasured>(client.POST("/api/measure/noise", { body: { steps } })),
  sampleLadder: () => answered<Schemas["SampleLadder"]>(client.GET("/api/measure/sample-ladder")),
  measureGlass: (with_glass: File, without: File, query: { exposure_stops?: number; transfer: Curve }) =>
    answered<GlassOut>(
      client.POST("/api/measure/glass", {
        body: formOf({ with_glass: [with_glass], without: [without] }) as never,
        params: { query },
        ...FORM,
      }),
    ),
  removeShot: (id: string) =>
    answered<void>(client.DELETE("/api/shots/{shot_id}", { params: { path: { shot_id: id } } })),
  restoreShot: (id: string) =>
    answered<Shot>(client.POST("/api/shots/{shot_id}/restore", { params: { path: { shot_id: id } } })),
  /** Plans a brief; `only` asks for one camera in a hurry: no others, no other schools. */
  plan: (body: Brief, only: string | null, held: string | null, signal: AbortSignal) =>
    answered<Plan>(
      client.POST("/api/plan", {
        body,
        signal,
        params: { query: { ...(only !== null && { only, schools: false }), ...(held && { held }) } },
      }),
    ),
  changeCrew: (body: School) => answered<School>(client.PUT("/api/crew/school", { body })),
  vocabulary: () => answered<Vocabulary>(client.GET("/api/vocabulary")),
  card: (id: string) =>
    answered<Card>(client.GET("/api/shots/{shot_id}/card", { params: { path: { shot_id: id } } })),
  outside: (id: string) =>
    answered<OutsideKept>(client.GET("/api/shots/{shot_id}/outside", { params: { path: { shot_id: id } } })),
  noteOutside: (id: string, body: Schemas["Outside"]) =>
    answered<OutsideKept>(
      client.POST("/api/shots/{shot_id}/outside", { params: { path: { shot_id: id } }, body }),
    ),
  budget: (shoot: string) => answered<ShootBudget>(client.GET("/api/shoots/{shoot_id}/budget", of(shoot))),
  mends: (shoot: string, shot: string, kind: Fail["kind"]) =>
    answered<Schemas["MendList"]>(
      client.GET("/api/shoots/{shoot_id}/mends", {
        params: { path: { shoot_id: shoot }, query: { shot, kind } },
      }),
    ),
  presets: (shoot: string) =>
    answered<Schemas["PresetList"]>(client.GET("/api/shoots/{shoot_id}/presets", of(shoot))),
  packing: (shoot: string) => answered<Packing>(client.GET("/api/shoots/{shoot_id}/packing", of(shoot))),
  dayAsked: (shoot: string) => answered<DayAsked>(client.GET("/api/shoots/{shoot_id}/rules", of(shoot))),
  changeRules: (shoot: string, body: DayRules) =>
    answered<DayRules>(client.PUT("/api/shoots/{shoot_id}/rules", { ...of(shoot), body })),
  changeWishes: (shot: string, body: ShotWishes) =>
    answered<ShotWishes>(
      client.PUT("/api/shots/{shot_id}/wishes", { params: { path: { shot_id: shot } }, body }),
    ),
  takeOrder: (shoot: string, starts: Record<string, string | null>) =>
    answered<Schemas["Taken"]>(
      client.PUT("/api/shoots/{shoot_id}/order", { ...of(shoot), body: { starts } }),
    ),
  /** Tells every line of the search as it comes; aborting ends the search over there. */
  findOrder: async (shoot: string, signal: AbortSignal, tell: (line: OrderLine) => void) => {
    const call = client.POST("/api/shoots/{shoot_id}/order", { ...of(shoot), signal, parseAs: "stream" });
    const stream = (await answered<ReadableStream<Uint8Array>>(call)).getReader();
    const decoder = new TextDecoder();
    let rest = "";
    for (;;) {
      const { done, value } = await stream.read();
      if (done) return;
      rest += decoder.decode(value, { stream: true });
      const lines = rest.split("\n");
      rest = lines.pop() ?? "";
      for (const line of lines) if (line) tell(JSON.parse(line) as OrderLine);
    }
  },
  outlook: (body: Brief, camera: string, held: string | null, signal?: AbortSignal) =>
    answered<Outlook>(
      client.POST("/api/outlook", { body, params: { query: { camera, ...(held && { held }) } }, signal }),
    ),
  intervalFilm: (body: Schemas["FilmAsked"]) =>
    answered<IntervalFilm>(client.POST("/api/interval-film", { body })),
  importShoot: (file: Blob) =>
    answered<Schemas["ShootRead"]>(client.POST("/api/shoots/import", { body: file as never, ...BINARY })),
  importShots: (shoot: string, file: Blob) =>
    answered<ListRead>(
      client.POST("/api/shoots/{shoot_id}/shots/import", { ...of(shoot), body: file as never, ...BINARY }),
    ),
};

function of(shoot: string) {
  return { params: { path: { shoot_id: shoot } } };
}

export const queries = new QueryClient({
  defaultOptions: {
    queries: {
      staleTime: 5_000,
      retry: (count, error) =>
        count < 2 && !(error instanceof Problem && error.status >= 400 && error.status < 500),
    },
  },
});

export const shootsQuery = queryOptions({ queryKey: ["shoots"], queryFn: api.shoots });
export const shotsQuery = (shoot: string) =>
  queryOptions({ queryKey: ["shots", shoot], queryFn: () => api.shots(shoot) });
export const shotQuery = (id: string) =>
  queryOptions({ queryKey: ["shot", id], queryFn: () => api.shot(id), staleTime: 0, gcTime: 0 });
export const cardQuery = (id: string) =>
  queryOptions({ queryKey: ["card", id], queryFn: () => api.card(id), staleTime: 0 });
export const vocabularyQuery = queryOptions({
  queryKey: ["vocabulary"],
  queryFn: api.vocabulary,
  staleTime: Number.POSITIVE_INFINITY,
});
export const kitQuery = queryOptions({ queryKey: ["kit"], queryFn: api.kit });
export const mapQuery = (camera: string) =>
  queryOptions({ queryKey: ["kit", "map", camera], queryFn: () => api.modeMap(camera) });
export const editionsQuery = (camera: string) =>
  queryOptions({ queryKey: ["kit", "editions", camera], queryFn: () => api.editions(camera) });
export const draftsQuery = queryOptions({ queryKey: ["kit", "drafts"], queryFn: api.drafts });
export const fieldsQuery = queryOptions({
  queryKey: ["fields"],
  queryFn: api.fields,
  staleTime: Number.POSITIVE_INFINITY,
});

/** After a change of the kit: what briefs can name, and what was worked out with it, is read again. */
export function kitChanged() {
  for (const key of [
    "kit",
    "vocabulary",
    "packing",
    "budget",
    "presets",
    "shot",
    "card",
    "estimates",
    "outlook",
    "instruments",
  ])
    queries.invalidateQueries({ queryKey: [key] });
}

export const dayQuery = (shoot: string) =>
  queryOptions({ queryKey: ["day", shoot], queryFn: () => api.day(shoot), staleTime: 300_000 });
export const glassQuery = (shot: string) =>
  queryOptions({ queryKey: ["glass", shot], queryFn: () => api.glassTimes(shot), staleTime: 60_000 });
export const budgetQuery = (shoot: string) =>
  queryOptions({ queryKey: ["budget", shoot], queryFn: () => api.budget(shoot) });
export const presetsQuery = (shoot: string) =>
  queryOptions({ queryKey: ["presets", shoot], queryFn: () => api.presets(shoot) });
export const packingQuery = (shoot: string) =>
  queryOptions({ queryKey: ["packing", shoot], queryFn: () => api.packing(shoot) });
export const dayAskedQuery = (shoot: string) =>
  queryOptions({ queryKey: ["asked", shoot], queryFn: () => api.dayAsked(shoot) });
