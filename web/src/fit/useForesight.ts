import { useCallback, useEffect, useRef, useState } from "react";
import { answer, api, ApiError } from "../api/client";
import type { Change, Foresight, SessionView } from "../api/types";

interface Answer {
  key: string;
  foresight?: Foresight;
  refused?: ApiError;
}

/**
 * What the changes do. One request is in flight, the latest wanted wins, the last answer stays drawn meanwhile. Changes
 * that ask for what stands there already turn out to turn nothing: then nothing is pending.
 */
export function useForesight(view: SessionView, changes: Change[]) {
  const key = changes.length === 0 ? "" : `${view.version}:${JSON.stringify(changes)}`;
  const [got, setGot] = useState<Answer>({ key: "" });
  const wanted = useRef({ key, input: view.input, changes });
  const flying = useRef(false);

  const fly = useCallback(async () => {
    if (flying.current) return;
    flying.current = true;
    let last: string | undefined;
    while (wanted.current.key !== "" && wanted.current.key !== last) {
      const { key: asked, input, changes: asking } = wanted.current;
      last = asked;
      try {
        const foresight = await answer<Foresight>(api.POST("/api/foresee", { body: { ...input, changes: asking } }));
        setGot({ key: asked, foresight });
      } catch (error) {
        if (error instanceof ApiError) setGot((before) => ({ ...before, key: asked, refused: error }));
      }
    }
    flying.current = false;
  }, []);

  useEffect(() => {
    wanted.current = { key, input: view.input, changes };
    void fly();
    // The key stands for input and changes alike.
    // eslint-disable-next-line react-hooks/exhaustive-deps
  }, [key, fly]);

  const asked = key !== "";
  const settled = !asked || got.key === key;
  const refused = asked && settled ? got.refused : undefined;
  const foresight = asked ? (got.foresight ?? view.now) : view.now;
  const pending = asked && (!settled || refused !== undefined || foresight.turns.length > 0);
  return { foresight, refused, settled, pending };
}
