// Calls and queries of the demo: what came with the program.
import { queryOptions } from "@tanstack/react-query";
import { answered, client } from "./http";
import { keys } from "./keys";
import type { Schemas } from "./types";

export type DemoState = Schemas["DemoState"];

export const demoApi = {
  leave: () => answered<DemoState>(client.POST("/api/demo/leave")),
  bringBack: () => answered<DemoState>(client.POST("/api/demo/return")),
};

export const demoQuery = queryOptions({
  queryKey: keys.demo,
  queryFn: () => answered<DemoState>(client.GET("/api/demo")),
});
