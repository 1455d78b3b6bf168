// Calls and queries of the edit: notes by group, and what is handed over.
import { queryOptions } from "@tanstack/react-query";
import { answered, client, of } from "./http";
import { keys } from "./keys";
import type { Schemas } from "./types";

export type Edit = Schemas["EditOut"];
export type EditClip = Edit["edit"]["clips"][number];
export type EditStep = EditClip["steps"][number];

export const editQuery = (shoot: string, look: string | null) =>
  queryOptions({
    queryKey: keys.edit(shoot, look),
    queryFn: () =>
      answered<Edit>(
        client.GET("/api/shoots/{shoot_id}/edit", {
          params: { ...of(shoot).params, query: look === null ? {} : { look } },
        }),
      ),
  });
