// What the service says of itself.
import { queryOptions } from "@tanstack/react-query";
import { answered, client } from "./http";
import { keys } from "./keys";
import type { Schemas } from "./types";

export const healthQuery = queryOptions({
  queryKey: keys.health,
  queryFn: () => answered<Schemas["Health"]>(client.GET("/api/health")),
});
