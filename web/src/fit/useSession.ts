import { useQuery, useQueryClient } from "@tanstack/react-query";
import { useCallback, useRef, useState } from "react";
import { answer, api, ApiError } from "../api/client";
import { sessionQuery } from "../api/queries";
import type { SessionView } from "../api/types";

/** Sends one write, made from this view. */
export type Send = (view: SessionView) => Promise<SessionView>;
/** What stands against sending it again after another window wrote; nothing when the two do not touch. */
export type Against = (mine: SessionView, fresh: SessionView) => string | undefined;
/** What was wrong with a write, `undefined` when it was acknowledged. */
export type Write = (send: Send, against?: Against) => Promise<ApiError | undefined>;

/** A session, and its writes queued one by one. */
export function useSession(id: string) {
  const queries = useQueryClient();
  const query = useQuery(sessionQuery(id));
  const queue = useRef<Promise<unknown>>(Promise.resolve());
  const [waiting, setWaiting] = useState(0);

  const write = useCallback<Write>(
    (send, against) => {
      const key = sessionQuery(id).queryKey;
      const run = async (): Promise<ApiError | undefined> => {
        const mine = queries.getQueryData<SessionView>(key);
        if (!mine) return new ApiError({ status: 0, detail: "The session is not loaded yet." });
        try {
          queries.setQueryData(key, await send(mine));
          return undefined;
        } catch (error) {
          if (!(error instanceof ApiError) || error.status !== 412) return asApiError(error);
        }
        // Another window wrote. What does not touch it is sent again; what does is shown.
        try {
          const fresh = await answer<SessionView>(api.GET("/api/sessions/{id}", { params: { path: { id } } }));
          queries.setQueryData(key, fresh);
          const words = against?.(mine, fresh);
          if (words !== undefined) return new ApiError({ status: 412, detail: words });
          queries.setQueryData(key, await send(fresh));
          return undefined;
        } catch (error) {
          return asApiError(error);
        }
      };
      setWaiting((n) => n + 1);
      const done = queue.current.then(run).finally(() => setWaiting((n) => n - 1));
      queue.current = done;
      return done;
    },
    [id, queries],
  );

  return { view: query.data, error: query.error, write, writing: waiting > 0 };
}

function asApiError(error: unknown): ApiError {
  return error instanceof ApiError
    ? error
    : new ApiError({ status: 0, detail: error instanceof Error ? error.message : "Something went wrong." });
}
