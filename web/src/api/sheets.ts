// Calls and queries of the sheet editor: drafts, tables, clips.
import { queryOptions } from "@tanstack/react-query";
import type { Fields } from "../changes/fields";
import { answered, BINARY, client } from "./http";
import { keys } from "./keys";
import type {
  CameraSheet,
  ClipsDraft,
  Completed,
  DraftOut,
  FileFacts,
  ModeMap,
  Rough,
  Schemas,
  TableOut,
} from "./types";

export const sheetsApi = {
  roughMap: (body: Rough) => answered<ModeMap>(client.POST("/api/sheets/map", { body: body as never })),
  fields: () => answered<Schemas["Fields"]>(client.GET("/api/sheets/fields")),
  complete: (body: Rough, signal?: AbortSignal) =>
    answered<Completed>(client.POST("/api/sheets/complete", { body: body as never, signal })),
  readTable: (text: string, signal?: AbortSignal) =>
    answered<TableOut>(client.POST("/api/sheets/table", { body: { text }, signal })),
  /** What a table or files told, joined to what was typed. */
  joined: (body: { rough: Rough; modes?: TableOut["modes"]; instead?: boolean; draft?: Rough }) =>
    answered<Rough>(client.POST("/api/sheets/joined", { body: body as never })),
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
  beginDraft: (id: string, body: { camera_id: string | null; edition: number | null; rough: Rough }) =>
    answered<DraftOut>(
      client.PUT("/api/sheets/drafts/{draft_id}", {
        params: { path: { draft_id: id } },
        body: body as never,
      }),
    ),
  changeDraft: (id: string, revision: number, change: Fields) =>
    answered<DraftOut>(
      client.PATCH("/api/sheets/drafts/{draft_id}", {
        params: { path: { draft_id: id } },
        body: { revision, change },
      }),
    ),
  dropDraft: (id: string) =>
    answered<void>(client.DELETE("/api/sheets/drafts/{draft_id}", { params: { path: { draft_id: id } } })),
};

export const draftsQuery = queryOptions({ queryKey: keys.drafts, queryFn: sheetsApi.drafts });
export const fieldsQuery = queryOptions({
  queryKey: keys.fields,
  queryFn: sheetsApi.fields,
  staleTime: Number.POSITIVE_INFINITY,
});
