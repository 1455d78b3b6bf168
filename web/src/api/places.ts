// Where something is.
import { keepPreviousData, queryOptions } from "@tanstack/react-query";
import { answered, client } from "./http";
import { keys } from "./keys";
import type { Schemas } from "./types";

export const placesQuery = (asked: string) =>
  queryOptions({
    queryKey: keys.places(asked),
    queryFn: ({ signal }) =>
      answered<Schemas["FoundPlaces"]>(client.GET("/api/places", { signal, params: { query: { asked } } })),
    staleTime: Number.POSITIVE_INFINITY,
    placeholderData: keepPreviousData,
  });
