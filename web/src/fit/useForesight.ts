import { useCallback, useEffect, useRef, useState } from "react";
import { flushSync } from "react-dom";
import { answer, api, ApiError } from "../api/client";
import type { Change, Foresight, SessionView } from "../api/types";
import { Settling } from "./settling";

/** What was asked for is drawn with its answer; without one after so long, by itself. */
const DRAWN_ALONE_MS = 60;

interface Answer {
  key: string;
  foresight?: Foresight;
  refused?: ApiError;
}

const keyOf = (view: SessionView, changes: Change[]) =>
  changes.length === 0 ? "" : `${view.version}:${JSON.stringify(changes)}`;

/**
 * What the changes do. One request is in flight, the latest wanted wins, the last answer stays drawn meanwhile. Changes
 * that ask for what stands there already turn out to turn nothing: then nothing is pending.
 */
export function useForesight(view: SessionView, changes: Change[]) {
  const key = keyOf(view, changes);
  const [got, setGot] = useState<Answer>({ key: "" });
  const wanted = useRef({ key, input: view.input, changes });
  const flying = useRef(false);
  /** What was asked last, until it came to nothing. */
  const last = useRef<string>(undefined);
  /** Draws what was asked for, once: a key is drawn together with its answer, so that a step costs one drawing. */
  const draw = useRef<() => void>(undefined);
  const alone = useRef<ReturnType<typeof setTimeout>>(undefined);
  const [settling] = useState(() => new Settling());

  const drawAsked = useCallback(() => {
    clearTimeout(alone.current);
    draw.current?.();
    draw.current = undefined;
  }, []);
  useEffect(() => () => clearTimeout(alone.current), []);

  const fly = useCallback(async () => {
    if (flying.current) return;
    flying.current = true;
    while (wanted.current.key !== "" && wanted.current.key !== last.current) {
      const { key: asked, input, changes: asking } = wanted.current;
      last.current = asked;
      try {
        const foresight = await answer<Foresight>(api.POST("/api/foresee", { body: { ...input, changes: asking } }));
        // At once: what a key asked for is drawn in the next frame.
        flushSync(() => {
          drawAsked();
          setGot({ key: asked, foresight });
          if (wanted.current.key === asked) settling.set(false);
        });
      } catch (error) {
        drawAsked();
        settling.set(false);
        if (error instanceof ApiError) setGot((before) => ({ ...before, key: asked, refused: error }));
        // The same is asked again only when it is wanted anew.
        if (wanted.current.key === asked) {
          last.current = undefined;
          break;
        }
      }
    }
    flying.current = false;
  }, [drawAsked, settling]);

  /** Asks before what wants it is drawn; `drawing` draws that with the answer, or at once where there is nothing to ask. */
  const soon = (wants: Change[], drawing: (() => void) | undefined) => {
    wanted.current = { key: keyOf(view, wants), input: view.input, changes: wants };
    draw.current = drawing;
    const waits = drawing !== undefined && wanted.current.key !== "" && wanted.current.key !== last.current;
    if (waits) {
      clearTimeout(alone.current);
      alone.current = setTimeout(drawAsked, DRAWN_ALONE_MS);
    } else drawAsked();
    settling.set(waits);
    void fly();
  };

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
  return { foresight, refused, settled, pending, soon, settling };
}
