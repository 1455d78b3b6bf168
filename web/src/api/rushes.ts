// Calls and queries of Rushes: folders, clips, what was measured of them.
import { queryOptions } from "@tanstack/react-query";
import { answered, BINARY, client } from "./http";
import { keys } from "./keys";
import type { Schemas } from "./types";

export type ClipRow = Schemas["ClipRow"];
export type ClipWhole = Schemas["ClipWhole"];
export type Clips = Schemas["Clips"];
export type Folder = Schemas["FolderOut"];
export type Line = Schemas["Timeline"];
export type Moment = Schemas["Moment"];
export type NextTime = Schemas["NextTimeText"];
export type Report = Schemas["ReportText"];
export type Rating = NonNullable<ClipRow["rating"]>;

const one = (clip_id: string) => ({ params: { path: { clip_id } } });
const folder = (folder_id: string) => ({ params: { path: { folder_id } } });

export const rushesApi = {
  name: (path: string) => answered<Folder>(client.POST("/api/rushes/folders", { body: { path } })),
  look: (id: string) => answered<Folder>(client.POST("/api/rushes/folders/{folder_id}/look", folder(id))),
  forget: (id: string) => answered<void>(client.DELETE("/api/rushes/folders/{folder_id}", folder(id))),
  drop: (file: File) =>
    answered<Folder>(
      client.POST("/api/rushes/drops", {
        params: { query: { name: file.name } },
        body: file as never,
        ...BINARY,
      } as never),
    ),
  change: (id: string, body: Schemas["ClipChange"]) =>
    answered<ClipWhole>(client.PATCH("/api/rushes/clips/{clip_id}", { ...one(id), body })),
  measure: (id: string, quick: boolean) =>
    answered<ClipRow>(
      client.POST("/api/rushes/clips/{clip_id}/measure", {
        params: { path: { clip_id: id }, query: { quick } },
      }),
    ),
  /** Say that the clips that were put to a shot are of it. */
  confirm: (shot: string) =>
    answered<Schemas["HowMany"]>(
      client.POST("/api/rushes/shots/{shot_id}/confirm", { params: { path: { shot_id: shot } } }),
    ),
  cancel: (clip?: string) =>
    answered<Schemas["HowMany"]>(
      client.POST("/api/rushes/cancel", { params: { query: clip ? { clip } : {} } }),
    ),
  resume: () => answered<Schemas["HowMany"]>(client.POST("/api/rushes/resume")),
};

export const foldersQuery = queryOptions({
  queryKey: keys.folders,
  queryFn: () => answered<Schemas["Folders"]>(client.GET("/api/rushes/folders")),
});

/** All clips, page after page. */
export const clipsQuery = queryOptions({
  queryKey: keys.clips,
  queryFn: async () => {
    const items: ClipRow[] = [];
    for (;;) {
      const page = await answered<Clips>(
        client.GET("/api/rushes/clips", { params: { query: { offset: items.length } } }),
      );
      items.push(...page.items);
      if (items.length >= page.total || page.items.length === 0) return { ...page, items };
    }
  },
});

export const clipQuery = (id: string) =>
  queryOptions({
    queryKey: keys.clip(id),
    queryFn: () => answered<ClipWhole>(client.GET("/api/rushes/clips/{clip_id}", one(id))),
  });

export const nextTimeQuery = (shot: string) =>
  queryOptions({
    queryKey: keys.nextTime(shot),
    queryFn: () =>
      answered<NextTime>(
        client.GET("/api/rushes/shots/{shot_id}/next", { params: { path: { shot_id: shot } } }),
      ),
    retry: false,
  });

/** The report of a shoot's day; of all clips where none is named. */
export const reportQuery = (shoot: string | null) =>
  queryOptions({
    queryKey: keys.rushReport(shoot),
    queryFn: () =>
      answered<Report>(client.GET("/api/rushes/report", { params: { query: shoot ? { shoot } : {} } })),
  });

export const framePath = (clip: string, position: number, marked: boolean) =>
  `/api/rushes/clips/${clip}/frames/${position}${marked ? "?marked=true" : ""}`;

export type Heard = { clips: { id: string; state: ClipRow["state"]; share: number }[]; gone: boolean };

/** Hear what becomes of clips, as it changes. Returns how to stop. */
export function hearClips(heard: (news: Heard) => void): () => void {
  const source = new EventSource("/api/rushes/events");
  source.onmessage = (event) => heard(JSON.parse(event.data) as Heard);
  return () => source.close();
}
