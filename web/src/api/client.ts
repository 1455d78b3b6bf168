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
  saveShot: (id: string, body: { brief: Brief; starts_at: string | null; revision: number }) =>
    answered<Shot>(client.PUT("/api/shots/{shot_id}", { params: { path: { shot_id: id } }, body })),
  removeShot: (id: string) =>
    answered<void>(client.DELETE("/api/shots/{shot_id}", { params: { path: { shot_id: id } } })),
  restoreShot: (id: string) =>
    answered<Shot>(client.POST("/api/shots/{shot_id}/restore", { params: { path: { shot_id: id } } })),
  /** Plans a brief; `only` asks for one camera in a hurry: no others, no other schools. */
  plan: (body: Brief, only: string | null, signal: AbortSignal) =>
    answered<Plan>(
      client.POST("/api/plan", {
        body,
        signal,
        params: { query: only === null ? {} : { only, schools: false } },
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
  outlook: (body: Brief, camera: string, signal?: AbortSignal) =>
    answered<Outlook>(client.POST("/api/outlook", { body, params: { query: { camera } }, signal })),
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
