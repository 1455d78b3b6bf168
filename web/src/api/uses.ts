// Calls and queries of usual uses, standing presets and the set-up pass.
import { keepPreviousData, queryOptions } from "@tanstack/react-query";
import { answered, BINARY, client, of } from "./http";
import { keys } from "./keys";
import type { Schemas } from "./types";

export type Uses = Schemas["UseList"];
export type Use = Uses["items"][number];
export type Standing = Schemas["StandingOut"];
export type SetUp = Schemas["SetUpOut"];

const use = (use_id: string) => ({ params: { path: { use_id } } });
const onCamera = (camera: string) => ({ params: { path: { camera } } });

export const usesApi = {
  uses: () => answered<Uses>(client.GET("/api/uses")),
  keep: (body: { shot_id: string; name: string; says?: string; per_year?: number }) =>
    answered<Uses>(client.POST("/api/uses", { body: body as Schemas["UseAdded"] })),
  change: (id: string, revision: number, change: Record<string, unknown>) =>
    answered<Uses>(client.PATCH("/api/uses/{use_id}", { ...use(id), body: { revision, change } })),
  remove: (id: string) => answered<void>(client.DELETE("/api/uses/{use_id}", use(id))),
  restore: (id: string) => answered<Uses>(client.POST("/api/uses/{use_id}/restore", use(id))),
  begin: (
    shoot: string,
    body: { use: string; place: string | null; starts_at: string | null; camera?: string | null },
  ) =>
    answered<Schemas["ShotMade"]>(
      client.POST("/api/shoots/{shoot_id}/shots/from-use", { ...of(shoot), body }),
    ),
  takeIn: (file: Blob) =>
    answered<Schemas["UsesTaken"]>(client.POST("/api/uses/import", { body: file as never, ...BINARY })),
  beside: (camera: string, first: string, second: string) =>
    answered<Schemas["BesideText"]>(
      client.GET("/api/uses/beside/{camera}", { params: { path: { camera }, query: { first, second } } }),
    ),
  standing: (camera: string) =>
    answered<Standing>(client.GET("/api/uses/standing/{camera}", onCamera(camera))),
  sharing: (camera: string) =>
    answered<Schemas["SharingOut"]>(client.GET("/api/uses/sharing/{camera}", onCamera(camera))),
  setUp: (camera: string) => answered<SetUp>(client.GET("/api/uses/set-up/{camera}", onCamera(camera))),
  note: (camera: string, body: Partial<Schemas["SetUpNoted"]>) =>
    answered<SetUp>(
      client.POST("/api/uses/set-up/{camera}", { ...onCamera(camera), body: body as Schemas["SetUpNoted"] }),
    ),
};

export const glossaryQuery = queryOptions({
  queryKey: keys.glossary,
  queryFn: () => answered<Schemas["Glossary"]>(client.GET("/api/glossary")),
  staleTime: Number.POSITIVE_INFINITY,
});

const COUNTING_MS = 1200;

export const usesQuery = queryOptions({ queryKey: keys.uses, queryFn: usesApi.uses });
/** chosen: what is counted; its key, so that an answer to what was chosen before is never taken for one to this. */
export const standingQuery = (camera: string, chosen: string) =>
  queryOptions({
    queryKey: keys.standing(camera, chosen),
    queryFn: () => usesApi.standing(camera),
    placeholderData: keepPreviousData,
    refetchInterval: (query) => (query.state.data?.counting ? COUNTING_MS : false),
  });
export const setUpQuery = (camera: string) =>
  queryOptions({
    queryKey: keys.setUp(camera),
    queryFn: () => usesApi.setUp(camera),
    refetchInterval: (query) => (query.state.data?.counting ? COUNTING_MS : false),
  });
export const besideQuery = (camera: string, first: string, second: string) =>
  queryOptions({
    queryKey: keys.beside(camera, first, second),
    queryFn: () => usesApi.beside(camera, first, second),
    enabled: Boolean(camera && first && second),
  });
export const sharingQuery = (camera: string, chosen: string, enabled: boolean) =>
  queryOptions({
    queryKey: keys.sharing(camera, chosen),
    queryFn: () => usesApi.sharing(camera),
    enabled,
    refetchInterval: (query) => (query.state.data?.counting ? COUNTING_MS : false),
  });
