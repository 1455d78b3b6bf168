// Calls and queries of the Card station.
import { queryOptions } from "@tanstack/react-query";
import { answered, client } from "./http";
import { keys } from "./keys";
import type { Card, OutsideKept, Schemas } from "./types";

export const cardApi = {
  card: (id: string) =>
    answered<Card>(client.GET("/api/shots/{shot_id}/card", { params: { path: { shot_id: id } } })),
  outside: (id: string) =>
    answered<OutsideKept>(client.GET("/api/shots/{shot_id}/outside", { params: { path: { shot_id: id } } })),
  noteOutside: (id: string, body: Schemas["Outside"]) =>
    answered<OutsideKept>(
      client.POST("/api/shots/{shot_id}/outside", { params: { path: { shot_id: id } }, body }),
    ),
};

const COUNTING_MS = 1000;

export const cardQuery = (id: string) =>
  queryOptions({
    queryKey: keys.card(id),
    queryFn: () => cardApi.card(id),
    staleTime: 0,
    // What has to be turned follows as soon as it is counted.
    refetchInterval: (query) => (query.state.data?.counting ? COUNTING_MS : false),
  });
export const outsideQuery = (id: string) =>
  queryOptions({ queryKey: keys.outside(id), queryFn: () => cardApi.outside(id), retry: false });
