import { useEffect, useState } from "react";

/** Turns a second while the stroke is watched: slow enough to see. */
const TURNS_PER_SECOND = 0.6;
/** With reduced motion the crank stands still this far on. */
const STILL_DEG = 90;

/** The crank angle to draw: resting, or turning while the stroke is watched. */
export function useStroke(resting: number, turning: boolean): number {
  const [turned, setTurned] = useState(0);
  useEffect(() => {
    if (!turning) return;
    if (window.matchMedia("(prefers-reduced-motion: reduce)").matches) {
      const timer = setInterval(() => setTurned((t) => t + STILL_DEG), 1500);
      return () => {
        clearInterval(timer);
        setTurned(0);
      };
    }
    let frame = 0;
    let begun: number | undefined;
    const draw = (time: number) => {
      begun ??= time;
      setTurned(((time - begun) / 1000) * 360 * TURNS_PER_SECOND);
      frame = requestAnimationFrame(draw);
    };
    frame = requestAnimationFrame(draw);
    return () => {
      cancelAnimationFrame(frame);
      setTurned(0);
    };
  }, [turning]);
  return resting + (turning ? turned : 0);
}
