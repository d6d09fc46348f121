/** The typed client, and the one error it throws. */
import createClient from "openapi-fetch";
import { v7 } from "uuid";
import type { paths } from "./schema";
import type { Problem, Refusal } from "./types";

export const api = createClient<paths>({ baseUrl: window.location.origin });

/** Ids are made here, in the order of time, so that sending a write again is harmless. */
export const newId = (): string => v7();

export const ifMatch = (version: number): { "If-Match": string } => ({ "If-Match": `"${version}"` });

/** A body that goes as it is: it is read, and refused, on the server. */
export const raw = (body: BodyInit, kind: string) => ({
  body: body as never,
  bodySerializer: (sent: unknown) => sent as BodyInit,
  headers: { "content-type": kind },
});

/** What the API refused or could not do. `status` 0: it was not reached at all. */
export class ApiError extends Error {
  readonly status: number;
  readonly errors: Refusal[];

  constructor(problem: Pick<Problem, "status" | "detail" | "errors">) {
    super(problem.detail);
    this.status = problem.status;
    this.errors = problem.errors ?? [];
  }

  /** What is wrong with the field whose pointer ends so. */
  at(ending: string): string | undefined {
    return this.errors.find((e) => e.pointer.endsWith(ending))?.detail;
  }
}

/** What is wrong with the one thing that was sent, as it is told beside it. */
export const detail = (error: ApiError | undefined): string | undefined =>
  error?.at("/value") ?? error?.errors[0]?.detail ?? error?.message;

/** The client's own typing loses that a point has exactly two numbers; otherwise it must agree with `T`. */
type Loose<T> = T extends [number, number] ? number[] : T extends object ? { [K in keyof T]: Loose<T[K]> } : T;

/** The data of an answer, or an `ApiError`. */
export async function answer<T>(
  request: Promise<{ data?: Loose<T>; error?: unknown; response: Response }>,
): Promise<T> {
  const { data, error, response } = await request.catch((cause: unknown) => {
    if (cause instanceof DOMException && cause.name === "AbortError") throw cause;
    throw new ApiError({ status: 0, detail: "Wedge does not answer. What you typed is kept in this browser." });
  });
  if (!response.ok) {
    const problem = error as Partial<Problem> | undefined;
    throw new ApiError({
      status: response.status,
      detail: problem?.detail ?? response.statusText,
      errors: problem?.errors,
    });
  }
  return data as T;
}

/** The words of any error. */
export const words = (error: unknown): string =>
  error instanceof Error ? error.message : "Something went wrong. Try again.";

/** How long after the server was not reached it is tried again. */
export const AGAIN_MS = 1500;
