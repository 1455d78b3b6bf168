// The one way to the service: typed calls, and refusals as Problem errors.
import { QueryClient } from "@tanstack/react-query";
import createClient from "openapi-fetch";
import type { paths } from "./schema";
import type { Fault, Schemas } from "./types";

/** This window: its newest question to the planner takes the place of an older one that still waits. */
const EDITOR = crypto.randomUUID();

export const client = createClient<paths>({
  baseUrl: window.location.origin,
  headers: { "X-Editor": EDITOR },
});

/** A refusal by the service, or the lack of any answer (status 0). */
export class Problem extends Error {
  constructor(
    readonly status: number,
    readonly title: string,
    detail: string,
    readonly faults: Fault[] = [],
    readonly pins: string[] = [],
  ) {
    super(detail);
  }
}

type Answer<T> = { data?: T; error?: unknown; response: Response };

// The client widens tuples to arrays; the caller names the type that the OpenAPI document gives.
export async function answered<T>(call: Promise<Answer<unknown>>): Promise<T> {
  let answer: Answer<unknown>;
  try {
    answer = await call;
  } catch (error) {
    if (error instanceof DOMException && error.name === "AbortError") throw error;
    throw new Problem(0, "No answer", "Steady Tide does not answer. Is it still running?");
  }
  if (answer.response.ok) return answer.data as T;
  const said = (answer.error ?? {}) as Partial<Schemas["Problem"]>;
  throw new Problem(
    answer.response.status,
    said.title ?? "Refused",
    said.detail ?? `The service answered ${answer.response.status}.`,
    said.faults ?? [],
    said.pins ?? [],
  );
}

export const XML = {
  bodySerializer: (file: unknown) => file as Blob,
  headers: { "Content-Type": "application/xml" },
};

export const BINARY = {
  bodySerializer: (file: unknown) => file as Blob,
  headers: { "Content-Type": "application/octet-stream" },
};

export const FORM = { bodySerializer: (form: unknown) => form as FormData };

export function formOf(fields: Record<string, File[]>): FormData {
  const form = new FormData();
  for (const [name, files] of Object.entries(fields)) for (const file of files) form.append(name, file);
  return form;
}

export function of(shoot: string) {
  return { params: { path: { shoot_id: shoot } } };
}

export const queries = new QueryClient({
  defaultOptions: {
    queries: {
      staleTime: 5_000,
      retry: (count, error) =>
        count < 2 && !(error instanceof Problem && error.status >= 400 && error.status < 500),
    },
  },
});
