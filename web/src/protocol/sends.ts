/** What a run of a protocol asks the server to write. */
import { answer, api, newId } from "../api/client";
import type { RunView, Spoken } from "../api/types";

export type Answered = { key: string } | { number: number };

export const callRun = (run: string, ask: string, called: Answered) =>
  answer<RunView>(
    api.POST("/api/runs/{id}/calls", {
      params: { path: { id: run } },
      body: { id: newId(), call: { ask, answer: called } },
    }),
  );

export const takeBack = (run: string) =>
  answer<RunView>(api.POST("/api/runs/{id}/back", { params: { path: { id: run } }, body: { id: newId() } }));

export const endRun = (run: string) =>
  answer<RunView>(api.POST("/api/runs/{id}/end", { params: { path: { id: run } } }));

export const hiddenSetting = (run: string) =>
  answer<{ setting: string }>(api.GET("/api/runs/{id}/setting", { params: { path: { id: run } } }));

/** What a rider who is not there says and shows on what is ridden now. */
export const sayOfRun = (run: string) =>
  answer<Spoken>(api.GET("/api/runs/{id}/said", { params: { path: { id: run } } }));
