// Calls and queries of the Log: takes, ladders, notes of gear, one's own numbers.
import { keepPreviousData, queryOptions } from "@tanstack/react-query";
import { answered, BINARY, client } from "./http";
import { keys } from "./keys";
import type { Schemas } from "./types";

export type Take = Schemas["TakeOut"];
export type TakeWhole = Schemas["TakeWhole"];
export type Takes = Schemas["Takes"];
export type TakeSaid = Take["said"];
export type FaultCode = Take["faults"][number];
/** A take as it is logged: what is left out is as usual, or as planned. */
export type TakeLogged = Omit<Schemas["TakeLogged"], "said"> & { said: Partial<TakeSaid> & { at: string } };
export type GearNote = Schemas["NoteOut"];
export type NoteSaid = GearNote["note"];
export type OwnNumber = Schemas["OwnOut"];
export type LadderPlan = Schemas["LadderPlan"];
export type Ladder = Schemas["LadderOut"];
export type Rung = Schemas["RungOut"];
export type Answer = Ladder["answers"][number]["answer"];
/** What is said of frames, by whom and when left to the page. */
export type Said = Partial<Omit<Answer, "at" | "who" | "blind" | "how">> & Pick<Answer, "how">;
export type LogRead = Schemas["LogReadOut"];

export type Rating = NonNullable<TakeSaid["rating"]>;

export const RATINGS: Rating[] = ["keep", "maybe", "no"];

/** What takes are found by. */
export const FOUND_BY = [
  "shoot",
  "camera",
  "scenario",
  "place",
  "mount",
  "hands",
  "fault",
  "rating",
] as const;
export type FoundBy = (typeof FOUND_BY)[number];
export type Asked = Partial<Record<FoundBy | "words", string>>;

const one = (take_id: string) => ({ params: { path: { take_id } } });
const note = (note_id: string) => ({ params: { path: { note_id } } });
const ladder = (ladder_id: string) => ({ params: { path: { ladder_id } } });

export const logApi = {
  put: (id: string, body: TakeLogged) =>
    answered<Take>(
      client.PUT("/api/log/takes/{take_id}", { ...one(id), body: body as Schemas["TakeLogged"] }),
    ),
  change: (id: string, body: Schemas["TakeChange"]) =>
    answered<Take>(client.PATCH("/api/log/takes/{take_id}", { ...one(id), body })),
  remove: (id: string) => answered<void>(client.DELETE("/api/log/takes/{take_id}", one(id))),
  restore: (id: string) => answered<Take>(client.POST("/api/log/takes/{take_id}/restore", one(id))),
  putNote: (id: string, body: NoteSaid) =>
    answered<GearNote>(client.PUT("/api/log/notes/{note_id}", { ...note(id), body: body as never })),
  removeNote: (id: string) => answered<void>(client.DELETE("/api/log/notes/{note_id}", note(id))),
  restoreNote: (id: string) => answered<GearNote>(client.POST("/api/log/notes/{note_id}/restore", note(id))),
  switch: (key: string, on: boolean, take_over = false) =>
    answered<OwnNumber>(client.POST("/api/log/numbers", { body: { key, on, take_over } })),
  makeLadder: (shot: string, body: Schemas["LadderAsked"]) =>
    answered<Ladder>(
      client.POST("/api/shots/{shot_id}/ladders", { params: { path: { shot_id: shot } }, body }),
    ),
  removeLadder: (id: string) => answered<void>(client.DELETE("/api/ladders/{ladder_id}", ladder(id))),
  restoreLadder: (id: string) =>
    answered<Ladder>(client.POST("/api/ladders/{ladder_id}/restore", ladder(id))),
  answer: (id: string, answer_id: string, body: Answer) =>
    answered<Ladder>(
      client.PUT("/api/ladders/{ladder_id}/answers/{answer_id}", {
        params: { path: { ladder_id: id, answer_id } },
        body,
      }),
    ),
  takeBack: (id: string, answer_id: string) =>
    answered<Ladder>(
      client.DELETE("/api/ladders/{ladder_id}/answers/{answer_id}", {
        params: { path: { ladder_id: id, answer_id } },
      }),
    ),
  read: (file: File, zone: string, apply: boolean) =>
    answered<LogRead>(
      client.POST("/api/log/import", {
        body: file as never,
        ...BINARY,
        params: { query: { name: file.name.slice(0, 200) || "the file", zone, apply } },
      } as never),
    ),
};

export const takesQuery = (asked: Asked) =>
  queryOptions({
    queryKey: keys.takes(asked),
    queryFn: () => answered<Takes>(client.GET("/api/log/takes", { params: { query: asked } })),
    placeholderData: keepPreviousData,
  });

/** The takes of one shot, the newest first; they may be read again at any time. */
export const takesOfShotQuery = (shot: string) =>
  queryOptions({
    queryKey: keys.shotTakes(shot),
    queryFn: () => answered<Takes>(client.GET("/api/log/takes", { params: { query: { shot } } })),
    retry: false,
  });

export const takeQuery = (id: string) =>
  queryOptions({
    queryKey: keys.take(id),
    queryFn: () => answered<TakeWhole>(client.GET("/api/log/takes/{take_id}", one(id))),
  });

export const notesQuery = queryOptions({
  queryKey: keys.notes,
  queryFn: () => answered<Schemas["Notes"]>(client.GET("/api/log/notes")),
});

export const numbersQuery = queryOptions({
  queryKey: keys.numbers,
  queryFn: () => answered<Schemas["OwnNumbers"]>(client.GET("/api/log/numbers")),
});

export const laddersQuery = queryOptions({
  queryKey: keys.ladders,
  queryFn: () => answered<Schemas["LadderList"]>(client.GET("/api/ladders")),
});

/** The ladders of one shot; they may be read again at any time. */
export const laddersOfShotQuery = (shot: string) =>
  queryOptions({
    queryKey: keys.shotLadders(shot),
    queryFn: () =>
      answered<Schemas["LadderList"]>(client.GET("/api/ladders", { params: { query: { shot } } })),
    retry: false,
  });

export const ladderQuery = (id: string) =>
  queryOptions({
    queryKey: keys.ladder(id),
    queryFn: () => answered<Ladder>(client.GET("/api/ladders/{ladder_id}", ladder(id))),
  });

export const offersQuery = (shot: string) =>
  queryOptions({
    queryKey: keys.ladderOffers(shot),
    queryFn: () =>
      answered<Schemas["Offers"]>(
        client.GET("/api/shots/{shot_id}/ladders", { params: { path: { shot_id: shot } } }),
      ),
  });

export function filesOf(asked: Asked): { json: string; csv: string } {
  const query = new URLSearchParams(asked as Record<string, string>).toString();
  return { json: "/api/log/log.json", csv: `/api/log/takes.csv${query ? `?${query}` : ""}` };
}
