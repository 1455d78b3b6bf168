// Calls and queries of practice.
import { queryOptions } from "@tanstack/react-query";
import { answered, client } from "./http";
import { keys } from "./keys";
import type { Schemas } from "./types";

export type Question = Schemas["ToldQuestion"];
export type Judged = Schemas["ToldJudged"];
export type PracticeSession = Schemas["PracticeSession"];

const some = (camera: string) => (camera ? { camera } : {});

export const practiceApi = {
  answer: (body: Schemas["PracticeAnswer"]) =>
    answered<Judged>(client.POST("/api/practice/answers", { body })),
  forget: () => answered<void>(client.DELETE("/api/practice")),
};

/** kinds: ids with commas, all if empty; camera: id, any if empty; seed: of the mixing. */
export const practiceQuery = (kinds: string, camera: string, seed: number) =>
  queryOptions({
    queryKey: keys.practice(kinds, camera, seed),
    queryFn: () =>
      answered<PracticeSession>(
        client.GET("/api/practice", {
          params: { query: { seed, ...some(camera), ...(kinds ? { kind: kinds.split(",") } : {}) } },
        }),
      ),
  });

export const questionQuery = (topic: string, camera: string, seed: number) =>
  queryOptions({
    queryKey: keys.practiceQuestion(topic, camera, seed),
    queryFn: () =>
      answered<Question>(
        client.GET("/api/practice/question", { params: { query: { topic, seed, ...some(camera) } } }),
      ),
    enabled: topic !== "",
    staleTime: Number.POSITIVE_INFINITY,
    retry: false,
  });
