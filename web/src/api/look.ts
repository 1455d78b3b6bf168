// Calls and queries of Look: frames of a plan, films of it, scenes.
import { keepPreviousData, queryOptions } from "@tanstack/react-query";
import { answered, BINARY, client, Problem } from "./http";
import { keys } from "./keys";
import type { Brief, Schemas } from "./types";

export type LookNumbers = Schemas["LookNumbers"];
export type LookText = Schemas["FramesText"];
export type FilmState = Schemas["FilmState"];
export type SceneListed = Schemas["SceneListed"];

/** A plan to be seen: a brief, values over its pins, and an older sheet where one is kept. */
export type Side = { brief: Brief; chosen: Record<string, unknown>; held: string | null };

/** What is to be seen of it. */
export type Sight = {
  scene: string | null;
  at: number;
  width: number;
  loupe: [number, number] | null;
  graded: boolean | null;
  marked: boolean;
};

export type Frame = { src: string; numbers: LookNumbers };

function bodyOf(side: Side, sight: Sight, form: "webp" | "png") {
  const { width, ...rest } = sight;
  return {
    brief: side.brief,
    settings: side.chosen,
    size: width,
    ...rest,
    form,
  } as unknown as Schemas["LookAsked"];
}

/** Draw a frame. place: of the window that shows it; its newer request takes the place of an older one. */
export async function drawFrame(
  side: Side,
  sight: Sight,
  place: string,
  signal?: AbortSignal,
  form: "webp" | "png" = "webp",
): Promise<Frame> {
  let numbers: LookNumbers | null = null;
  const picture = await answered<Blob>(
    client
      .POST("/api/look/frame", {
        body: bodyOf(side, sight, form),
        params: {
          query: side.held ? { held: side.held } : {},
          header: { "x-editor": `${WINDOW} ${place}` },
        },
        parseAs: "blob",
        signal,
      })
      .then((answer) => {
        numbers = JSON.parse(answer.response.headers.get("Look-Numbers") ?? "null");
        return answer;
      }),
  );
  if (numbers === null) throw new Problem(0, "No numbers", "The picture came without its numbers.");
  return { src: await asAddress(picture), numbers };
}

const WINDOW = crypto.randomUUID().slice(0, 13);

// A picture within the page: nothing has to be taken back when it is not shown any more.
function asAddress(blob: Blob): Promise<string> {
  return new Promise((resolve, reject) => {
    const reader = new FileReader();
    reader.onload = () => resolve(String(reader.result));
    reader.onerror = () => reject(reader.error);
    reader.readAsDataURL(blob);
  });
}

export const frameQuery = (side: Side, sight: Sight, place: string) =>
  queryOptions({
    queryKey: keys.look(side, sight),
    queryFn: ({ signal }) => drawFrame(side, sight, place, signal),
    staleTime: Number.POSITIVE_INFINITY,
    placeholderData: keepPreviousData,
    // A newer request of this window took its place; it is asked again only if it is still wanted.
    retry: (count, error) => count < 3 && error instanceof Problem && [0, 409, 503].includes(error.status),
    retryDelay: 150,
  });

export const scenesQuery = queryOptions({
  queryKey: keys.scenes,
  queryFn: () => answered<Schemas["Scenes"]>(client.GET("/api/look/scenes")),
});

export const toldQuery = (left: LookNumbers, right: LookNumbers | null) =>
  queryOptions({
    queryKey: keys.lookText(left, right),
    queryFn: () => answered<LookText>(client.POST("/api/look/told", { body: { left, right } })),
    staleTime: Number.POSITIVE_INFINITY,
    placeholderData: keepPreviousData,
  });

export const lookApi = {
  putOnCard: (shot: string, frames: { name: string; side: Side }[], sight: Sight) =>
    answered<Schemas["FramesPut"]>(
      client.PUT("/api/shots/{shot_id}/frames", {
        params: { path: { shot_id: shot }, query: frames[0]?.side.held ? { held: frames[0].side.held } : {} },
        body: {
          frames: frames.map(({ name, side }) => ({ name, look: bodyOf(side, sight, "webp") })),
        } as never,
      }),
    ),
  beginFilm: (sides: Side[], sight: Sight, seconds: number) =>
    answered<FilmState>(
      client.POST("/api/look/clip", {
        body: { plans: sides.map((side) => bodyOf(side, sight, "webp")), seconds } as never,
        params: { query: sides[0]?.held ? { held: sides[0].held } : {} },
      }),
    ),
  film: (id: string) =>
    answered<FilmState>(client.GET("/api/look/clips/{clip_id}", { params: { path: { clip_id: id } } })),
  stopFilm: (id: string) =>
    answered<void>(client.DELETE("/api/look/clips/{clip_id}", { params: { path: { clip_id: id } } })),
  filmAt: (id: string) => `/api/look/clips/${id}/file`,
  addStill: (file: File, distance_m: number) =>
    answered<SceneListed>(
      client.POST("/api/look/stills", {
        body: file as never,
        ...BINARY,
        params: { query: { name: file.name.slice(0, 120) || "still", distance_m } },
      }),
    ),
  discardStill: (id: string) =>
    answered<void>(client.DELETE("/api/look/stills/{still_id}", { params: { path: { still_id: id } } })),
};
