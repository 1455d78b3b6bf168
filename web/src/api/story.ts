// Calls and queries of Story: films, beats, framings, the sun against them.
import { queryOptions } from "@tanstack/react-query";
import { answered, client, of } from "./http";
import { keys } from "./keys";
import type { Schemas } from "./types";

export type Story = Schemas["StoryOut"];
export type FilmOut = Schemas["FilmOut"];
export type Film = FilmOut["film"]["told"]["film"];
export type Beat = NonNullable<Film["beats"]>[number];
export type FramingFacts = FilmOut["film"]["told"]["framings"][number];
export type FramingWords = FilmOut["film"]["framings"][number];
export type Framing = FramingFacts["framing"];
export type Strip = FilmOut["film"]["told"]["strip"];
export type Sketch = NonNullable<FramingFacts["sketch"]>;
export type Need = FilmOut["film"]["needs"][number];
export type Proposal = Schemas["Proposal"];
export type SunText = Schemas["SunText"];
type BriefParts = Record<string, Record<string, unknown>>;

const film = (film_id: string) => ({ params: { path: { film_id } } });
const shot = (shot_id: string) => ({ params: { path: { shot_id } } });

export const storyApi = {
  story: (shoot: string) => answered<Story>(client.GET("/api/shoots/{shoot_id}/story", of(shoot))),
  add: (shoot: string, body: { title: string; beats: { id: string; title: string }[] }) =>
    answered<FilmOut>(client.POST("/api/shoots/{shoot_id}/films", { ...of(shoot), body: body as never })),
  change: (id: string, revision: number, change: Record<string, unknown>) =>
    answered<FilmOut>(client.PATCH("/api/films/{film_id}", { ...film(id), body: { revision, change } })),
  remove: (id: string) => answered<void>(client.DELETE("/api/films/{film_id}", film(id))),
  restore: (id: string) => answered<FilmOut>(client.POST("/api/films/{film_id}/restore", film(id))),
  proposals: (id: string, beat: string, prompts: boolean) =>
    answered<Schemas["ProposalList"]>(
      client.GET("/api/films/{film_id}/beats/{beat_id}/proposals", {
        params: { path: { film_id: id, beat_id: beat }, query: { prompts } },
      }),
    ),
  addFramings: (id: string, items: Proposal[]) =>
    answered<Schemas["FramingsAdded"]>(
      client.POST("/api/films/{film_id}/framings", { ...film(id), body: { items } as never }),
    ),
  place: (id: string, beats: Record<string, string[]>) =>
    answered<FilmOut>(client.PUT("/api/films/{film_id}/places", { ...film(id), body: { beats } })),
  frame: (id: string, body: Partial<Framing> & { film: string; beat: string }) =>
    answered<Schemas["FramingOut"]>(
      client.PUT("/api/shots/{shot_id}/framing", { ...shot(id), body: body as never }),
    ),
  changeFraming: (id: string, revision: number, change: Record<string, unknown>, brief: BriefParts = {}) =>
    answered<Schemas["FramingOut"]>(
      client.PATCH("/api/shots/{shot_id}/framing", { ...shot(id), body: { revision, change, brief } }),
    ),
  unframe: (id: string) => answered<void>(client.DELETE("/api/shots/{shot_id}/framing", shot(id))),
  sun: (id: string) => answered<SunText>(client.GET("/api/shots/{shot_id}/sun", shot(id))),
};

export const storyQuery = (shoot: string) =>
  queryOptions({ queryKey: keys.story(shoot), queryFn: () => storyApi.story(shoot) });
export const proposalsQuery = (id: string, beat: string, prompts: boolean) =>
  queryOptions({
    queryKey: keys.proposals(id, beat, prompts),
    queryFn: () => storyApi.proposals(id, beat, prompts),
  });
/** told: what it follows from, so that it is asked again when that changes. */
export const sunQuery = (id: string, told: unknown) =>
  queryOptions({ queryKey: keys.sun(id, told), queryFn: () => storyApi.sun(id), retry: false });
