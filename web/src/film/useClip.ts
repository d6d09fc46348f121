/** The clip on the bench: when its frames are, which one is shown, its dots followed. */
import { type RefObject, useRef, useState } from "react";
import type { Dot, Learnt } from "../api/types";
import { frameTimes, middleOf, pictureOf, seek } from "./clip";
import { dotsOf } from "./sends";
import type { Placed } from "./useDraft";

interface ClipProps<F> {
  shown: RefObject<HTMLVideoElement | HTMLImageElement | null>;
  draft: Placed;
  learnt: Learnt | undefined;
  /** Follows the dots through the frames and reads them; none while something is missing. */
  send: ((times: number[], start: number, blobs: Dot[][]) => Promise<F>) | undefined;
  /** Turns a minute, once it is read. */
  rpm: (followed: F) => number;
  working: (what: string, work: () => Promise<void>) => Promise<void>;
  say: (what: string) => void;
  busy: string | undefined;
}

/** When frames really were, however slowly the clip plays. */
const inTime = (times: number[], slow: number | undefined) => times.map((time) => time / (slow ?? 1));

/** A turn until one was read: 86 a minute. */
const USUAL_TURN_S = 0.7;

export function useClip<F>({ shown, draft, learnt, send, rpm, working, say, busy }: ClipProps<F>) {
  const stop = useRef<AbortController>(undefined);
  const [times, setTimes] = useState<number[]>([]);
  const [frame, setFrame] = useState(0);
  const [followed, setFollowed] = useState<F>();

  const show = (to: number) => {
    const video = shown.current;
    if (!(video instanceof HTMLVideoElement) || times.length === 0) return;
    const at = Math.min(times.length - 1, Math.max(0, to));
    setFrame(at);
    void seek(video, middleOf(times, at));
  };
  /** Plays a clip through once when it is there. */
  const ready = () => {
    const video = shown.current;
    if (!(video instanceof HTMLVideoElement) || times.length > 0 || busy) return;
    void working("Playing it through once, for when its frames are…", async () => {
      stop.current = new AbortController();
      const told = (share: number) => say(`Playing it through once: ${Math.round(100 * share)} %`);
      const all = await frameTimes(video, told, stop.current.signal);
      setTimes(all);
      setFrame(0);
      await seek(video, middleOf(all, 0));
    });
  };
  const follow = () =>
    working("Following…", async () => {
      const video = shown.current;
      if (!send || !(video instanceof HTMLVideoElement) || !learnt) return;
      stop.current = new AbortController();
      const { signal } = stop.current;
      const blobs = [];
      const under: Promise<unknown>[] = [];
      for (const [index] of times.entries()) {
        if (signal.aborted) return;
        await seek(video, middleOf(times, index));
        const sent = dotsOf(learnt, await pictureOf(video, draft.size));
        blobs.push(sent);
        // Two on their way at a time.
        under.push(sent);
        if (under.length > 1) await under.shift();
        say(`Finding dots: ${index + 1} of ${times.length} frames`);
      }
      setFollowed(await send(inTime(times, draft.slow), draft.start ?? frame, await Promise.all(blobs)));
      await seek(video, middleOf(times, frame));
    });
  const stroke = (way: 1 | -1) => {
    const turn = (draft.slow ?? 1) * (followed ? 60 / rpm(followed) : USUAL_TURN_S);
    const to = (times[frame] ?? 0) + way * turn;
    const off = (index: number) => Math.abs((times[index] ?? 0) - to);
    show(times.reduce((best, _, index) => (off(index) < off(best) ? index : best), 0));
  };
  return {
    times,
    frame,
    followed,
    /** When frames really were, however slowly the clip plays. */
    real: inTime(times, draft.slow),
    show,
    ready,
    follow,
    stroke,
    stop: () => stop.current?.abort(),
    /** A point moved: what was followed is of another. */
    stale: () => setFollowed(undefined),
    forget: () => {
      setFollowed(undefined);
      setTimes([]);
      setFrame(0);
    },
  };
}
