// Calls and queries of the Bench: a shot, its plan, and what briefs are made of.
import { queryOptions } from "@tanstack/react-query";
import type { Fields } from "../changes/fields";
import { answered, client, XML } from "./http";
import { keys } from "./keys";
import type {
  BenchAnswer,
  Brief,
  IntervalFilm,
  MeterReading,
  MovedShot,
  Recipe,
  Replanned,
  Schemas,
  School,
  Shot,
  Vocabulary,
} from "./types";

/** What is known of the sky over a shot. */
type SkyHere = { latitude: number | null; longitude: number | null; starts_at: string | null };

const stated = (here: SkyHere) =>
  Object.fromEntries(Object.entries(here).filter(([, value]) => value !== null));

export const benchApi = {
  takeReading: () => answered<MeterReading>(client.POST("/api/meter/readings")),
  readTrack: (file: Blob) =>
    answered<Schemas["TrackOut"]>(client.POST("/api/tracks", { body: file as never, ...XML })),
  readDive: (file: Blob, water_type: string) =>
    answered<Schemas["DiveOut"]>(
      client.POST("/api/dives", { body: file as never, params: { query: { water_type } }, ...XML }),
    ),
  shot: (id: string) =>
    answered<Shot>(client.GET("/api/shots/{shot_id}", { params: { path: { shot_id: id } } })),
  changeShot: (id: string, body: { revision: number; change: Fields; latest_sheet?: boolean }) =>
    answered<Shot>(
      client.PATCH("/api/shots/{shot_id}", {
        params: { path: { shot_id: id } },
        body: { latest_sheet: false, ...body },
      }),
    ),
  /** What a shot would be at another time; nothing is kept. */
  moved: (id: string, starts_at: string, signal: AbortSignal) =>
    answered<MovedShot>(
      client.GET("/api/shots/{shot_id}/moved", {
        signal,
        params: { path: { shot_id: id }, query: { starts_at } },
      }),
    ),
  replanned: (id: string) =>
    answered<Replanned>(client.GET("/api/shots/{shot_id}/replanned", { params: { path: { shot_id: id } } })),
  changeCrew: (revision: number, change: Partial<School>) =>
    answered<Schemas["WayOfCrew"]>(client.PATCH("/api/crew/school", { body: { revision, change } })),
  vocabulary: () => answered<Vocabulary>(client.GET("/api/vocabulary")),
  intervalFilm: (body: Schemas["FilmAsked"]) =>
    answered<IntervalFilm>(client.POST("/api/interval-film", { body })),
  /** All that the Bench shows of a brief; `only` asks for one camera in a hurry: no others, no other schools. */
  answer: (body: Brief, only: string | null, held: string | null, signal: AbortSignal) =>
    answered<BenchAnswer>(
      client.POST("/api/bench", {
        body,
        signal,
        params: { query: { ...(only !== null && { only, whole: false }), ...(held && { held }) } },
      }),
    ),
  recipes: (shot: string) =>
    answered<Schemas["RecipeList"]>(
      client.GET("/api/shots/{shot_id}/recipes", { params: { path: { shot_id: shot } } }),
    ),
  keepRecipe: (shot: string, recipe: Recipe) =>
    answered<Schemas["RecipeList"]>(
      client.PUT("/api/shots/{shot_id}/recipes/{recipe_id}", {
        params: { path: { shot_id: shot, recipe_id: recipe.id } },
        body: recipe,
      }),
    ),
  discardRecipe: (shot: string, recipe: string) =>
    answered<Schemas["RecipeList"]>(
      client.DELETE("/api/shots/{shot_id}/recipes/{recipe_id}", {
        params: { path: { shot_id: shot, recipe_id: recipe } },
      }),
    ),
  /** Recipes of a shot, each planned and priced. */
  comparedRecipes: (brief: Brief, recipes: Recipe[], held: string | null, signal: AbortSignal) =>
    answered<Schemas["PricedRecipes"]>(
      client.POST("/api/bench/recipes", {
        body: { brief, recipes },
        signal,
        params: { query: held ? { held } : {} },
      }),
    ),
  /** What each own number changes of a brief's plan. */
  ownChanges: (body: Brief, held: string | null, signal: AbortSignal) =>
    answered<Schemas["OwnChanges"]>(
      client.POST("/api/bench/own", { body, signal, params: { query: held ? { held } : {} } }),
    ),
  /** What a brief becomes in another kind of shot. */
  turned: (body: Brief, scenario: string, here: SkyHere) =>
    answered<Brief>(
      client.POST("/api/briefs/turned", { body, params: { query: { scenario, ...stated(here) } } }),
    ),
  /** The same shot as it begins at a time: its sky begins then. */
  placed: (body: Brief, starts_at: string) =>
    answered<Brief>(client.POST("/api/briefs/placed", { body, params: { query: { starts_at } } })),
};

export const shotQuery = (id: string) =>
  queryOptions({ queryKey: keys.shot(id), queryFn: () => benchApi.shot(id), staleTime: 0, gcTime: 0 });
export const recipesQuery = (shot: string) =>
  queryOptions({ queryKey: keys.recipes(shot), queryFn: () => benchApi.recipes(shot) });
export const vocabularyQuery = queryOptions({
  queryKey: keys.vocabulary,
  queryFn: benchApi.vocabulary,
  staleTime: Number.POSITIVE_INFINITY,
});
