import { useQuery, useQueryClient } from "@tanstack/react-query";
import { useCallback, useEffect, useMemo, useRef, useState } from "react";
import { AGAIN_MS, answer, api, ApiError, newId } from "../api/client";
import { sessionQuery } from "../api/queries";
import type { SessionView } from "../api/types";
import { put, taken, type Waiting, waiting } from "./outbox";
import { type Order, orderAgainst, ordered, shownWith } from "./sends";

/** Sends one write, made from this view. One that carries its order is an entry: it is kept until it has arrived. */
export type Send = ((view: SessionView) => Promise<SessionView>) & { order?: Order };
/** What stands against sending it again after another window wrote; nothing when the two do not touch. */
export type Against = (mine: SessionView, fresh: SessionView) => string | undefined;
/** What was wrong with a write, `undefined` when it was acknowledged. */
export type Write = (send: Send, against?: Against) => Promise<ApiError | undefined>;

/** How often another window may come in between before a write is given up. */
const MEETINGS = 8;
/** A session, and its writes queued one by one. */
export function useSession(id: string) {
  const queries = useQueryClient();
  const query = useQuery(sessionQuery(id));
  const queue = useRef<Promise<unknown>>(Promise.resolve());
  const [writing, setWriting] = useState(0);
  /** What this window waits for: another one keeps its own in the same place. */
  const [outbox, setOutbox] = useState<Waiting[]>(() => waiting(id));
  const [gone, setGone] = useState(false);
  const isGone = useRef(false);
  const isHere = useRef(true);

  const away = useCallback((is: boolean) => {
    isGone.current = is;
    setGone(is);
  }, []);

  /** One try; after another window wrote, what does not touch it is sent again, and what does is shown. */
  const attempt = useCallback(
    async (send: Send, against?: Against): Promise<ApiError | undefined> => {
      const key = sessionQuery(id).queryKey;
      const mine = queries.getQueryData<SessionView>(key);
      if (!mine) return new ApiError({ status: 404, detail: "The session is not loaded yet." });
      let at = mine;
      for (let left = MEETINGS; ; left -= 1) {
        try {
          queries.setQueryData(key, await send(at));
          return undefined;
        } catch (error) {
          if (!(error instanceof ApiError) || error.status !== 412 || left === 0) return asApiError(error);
        }
        try {
          at = await answer<SessionView>(api.GET("/api/sessions/{id}", { params: { path: { id } } }));
        } catch (error) {
          return asApiError(error);
        }
        queries.setQueryData(key, at);
        const words = against?.(mine, at);
        if (words !== undefined) return new ApiError({ status: 412, detail: words });
      }
    },
    [id, queries],
  );

  /** An entry is tried until the server has answered; anything else is not done later than it was asked for. */
  const queued = useCallback(
    (one: Waiting | undefined, send: Send, against?: Against): Promise<ApiError | undefined> => {
      const run = async (): Promise<ApiError | undefined> => {
        for (;;) {
          const error = await attempt(send, against);
          const unreached = error?.status === 0;
          away(unreached);
          if (unreached && one && isHere.current) {
            await new Promise((go) => setTimeout(go, AGAIN_MS));
            continue;
          }
          if (one && !unreached) {
            taken(id, one.id);
            setOutbox((mine) => mine.filter((other) => other.id !== one.id));
          }
          return error;
        }
      };
      setWriting((n) => n + 1);
      const done = queue.current.then(run).finally(() => setWriting((n) => n - 1));
      queue.current = done;
      return done;
    },
    [attempt, away, id],
  );

  const write = useCallback<Write>(
    (send, against) => {
      if (!send.order) {
        if (!isGone.current) return queued(undefined, send, against);
        return Promise.resolve(new ApiError({ status: 0, detail: "Wedge does not answer: try again once it does." }));
      }
      const one = { id: newId(), order: send.order };
      put(id, one);
      setOutbox((mine) => [...mine, one]);
      return queued(one, send, against ?? orderAgainst(send.order));
    },
    [id, queued],
  );

  // What an earlier page could not send is sent now.
  const loaded = query.data !== undefined;
  const begun = useRef(false);
  useEffect(() => {
    if (!loaded || begun.current) return;
    begun.current = true;
    const again = () => {
      for (const one of waiting(id)) void queued(one, ordered(one.order), orderAgainst(one.order));
    };
    setTimeout(again, 0);
  }, [loaded, id, queued]);
  useEffect(() => {
    isHere.current = true;
    return () => {
      isHere.current = false;
    };
  }, []);

  const view = useMemo(
    () =>
      query.data &&
      shownWith(
        query.data,
        outbox.map((one) => one.order),
      ),
    [query.data, outbox],
  );
  // All of it is written once nothing waits.
  const unsent = outbox.length > 0;
  return { view, error: query.error, write, writing: writing > 0 || unsent, kept: gone && unsent };
}

function asApiError(error: unknown): ApiError {
  return error instanceof ApiError
    ? error
    : new ApiError({ status: 500, detail: error instanceof Error ? error.message : "Something went wrong." });
}
