// Calls and queries of a shoot's day: its light, budgets, presets, packing, rules, order.
import { queryOptions } from "@tanstack/react-query";
import { answered, client, of } from "./http";
import { keys } from "./keys";
import type {
  DayAsked,
  DayOfLight,
  DayRules,
  Fail,
  OrderLine,
  Packing,
  Schemas,
  ShootBudget,
  ShotWishes,
} from "./types";

export const dayApi = {
  day: (shoot: string) =>
    answered<DayOfLight>(
      client.GET("/api/shoots/{shoot_id}/light", { params: { path: { shoot_id: shoot } } }),
    ),
  glassTimes: (shot: string) =>
    answered<Schemas["GlassTimes"]>(
      client.GET("/api/shots/{shot_id}/glass-times", { params: { path: { shot_id: shot } } }),
    ),
  budget: (shoot: string) => answered<ShootBudget>(client.GET("/api/shoots/{shoot_id}/budget", of(shoot))),
  mends: (shoot: string, shot: string, kind: Fail["kind"]) =>
    answered<Schemas["MendList"]>(
      client.GET("/api/shoots/{shoot_id}/mends", {
        params: { path: { shoot_id: shoot }, query: { shot, kind } },
      }),
    ),
  presets: (shoot: string) =>
    answered<Schemas["PresetList"]>(client.GET("/api/shoots/{shoot_id}/presets", of(shoot))),
  packing: (shoot: string) => answered<Packing>(client.GET("/api/shoots/{shoot_id}/packing", of(shoot))),
  dayAsked: (shoot: string) => answered<DayAsked>(client.GET("/api/shoots/{shoot_id}/rules", of(shoot))),
  changeRules: (shoot: string, revision: number, change: Partial<DayRules>) =>
    answered<Schemas["RulesKept"]>(
      client.PATCH("/api/shoots/{shoot_id}/rules", { ...of(shoot), body: { revision, change } }),
    ),
  changeWishes: (shot: string, revision: number, change: Partial<ShotWishes>) =>
    answered<Schemas["WishesKept"]>(
      client.PATCH("/api/shots/{shot_id}/wishes", {
        params: { path: { shot_id: shot } },
        body: { revision, change },
      }),
    ),
  takeOrder: (shoot: string, starts: Record<string, string | null>) =>
    answered<Schemas["Taken"]>(
      client.PUT("/api/shoots/{shoot_id}/order", { ...of(shoot), body: { starts } }),
    ),
  /** Tells every line of the search as it comes; aborting ends the search over there. */
  findOrder: async (shoot: string, signal: AbortSignal, tell: (line: OrderLine) => void) => {
    const call = client.POST("/api/shoots/{shoot_id}/order", { ...of(shoot), signal, parseAs: "stream" });
    const stream = (await answered<ReadableStream<Uint8Array>>(call)).getReader();
    const decoder = new TextDecoder();
    let rest = "";
    for (;;) {
      const { done, value } = await stream.read();
      if (done) return;
      rest += decoder.decode(value, { stream: true });
      const lines = rest.split("\n");
      rest = lines.pop() ?? "";
      for (const line of lines) if (line) tell(JSON.parse(line) as OrderLine);
    }
  },
};

export const dayQuery = (shoot: string) =>
  queryOptions({ queryKey: keys.day(shoot), queryFn: () => dayApi.day(shoot), staleTime: 300_000 });
export const glassQuery = (shot: string) =>
  queryOptions({ queryKey: keys.glassOf(shot), queryFn: () => dayApi.glassTimes(shot), staleTime: 60_000 });
export const budgetQuery = (shoot: string) =>
  queryOptions({ queryKey: keys.budget(shoot), queryFn: () => dayApi.budget(shoot) });
export const presetsQuery = (shoot: string) =>
  queryOptions({ queryKey: keys.presets(shoot), queryFn: () => dayApi.presets(shoot) });
export const packingQuery = (shoot: string) =>
  queryOptions({ queryKey: keys.packing(shoot), queryFn: () => dayApi.packing(shoot) });
export const mendsQuery = (shoot: string, shot: string, kind: Fail["kind"]) =>
  queryOptions({ queryKey: keys.mends(shoot, shot, kind), queryFn: () => dayApi.mends(shoot, shot, kind) });
export const dayAskedQuery = (shoot: string) =>
  queryOptions({ queryKey: keys.asked(shoot), queryFn: () => dayApi.dayAsked(shoot) });
