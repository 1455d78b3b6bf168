// Calls and queries of practice.
import { queryOptions } from "@tanstack/react-query";
import { answered, client } from "./http";
import { keys } from "./keys";
import type { Schemas } from "./types";

export type Question = Schemas["QuestionText"];
export type Judged = Schemas["JudgedText"];
export type PracticeSession = Schemas["PracticeSession"];

/** With what one practises: a camera's id, any if empty; a deck's, all questions if empty. */
export type With = { camera: string; deck: string };

const some = ({ camera, deck }: With) => ({ ...(camera ? { camera } : {}), ...(deck ? { deck } : {}) });

export const practiceApi = {
  answer: (body: Schemas["PracticeAnswer"]) =>
    answered<Judged>(client.POST("/api/practice/answers", { body })),
  forget: () => answered<void>(client.DELETE("/api/practice")),
};

/** kinds: ids with commas, all if empty; seed: of the mixing. */
export const practiceQuery = (kinds: string, by: With, seed: number) =>
  queryOptions({
    queryKey: keys.practice(kinds, by.camera, by.deck, seed),
    queryFn: () =>
      answered<PracticeSession>(
        client.GET("/api/practice", {
          params: { query: { seed, ...some(by), ...(kinds ? { kind: kinds.split(",") } : {}) } },
        }),
      ),
  });

export const questionQuery = (topic: string, by: With, seed: number) =>
  queryOptions({
    queryKey: keys.practiceQuestion(topic, by.camera, by.deck, seed),
    queryFn: () =>
      answered<Question>(
        client.GET("/api/practice/question", { params: { query: { topic, seed, ...some(by) } } }),
      ),
    enabled: topic !== "",
    staleTime: Number.POSITIVE_INFINITY,
    retry: false,
  });
