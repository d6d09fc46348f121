import { useEffect, useState } from "react";

interface TimerProps {
  /** When the clock began to run. */
  from: string;
  seconds: number;
}

const left = (from: string, seconds: number) =>
  Math.ceil((new Date(from).getTime() + seconds * 1000 - Date.now()) / 1000);

/** The time that is left; from nothing on it says so and counts up no more. */
export function Timer({ from, seconds }: TimerProps) {
  const [now, setNow] = useState(() => left(from, seconds));
  useEffect(() => {
    const tick = () => setNow(left(from, seconds));
    tick();
    const clock = setInterval(tick, 250);
    return () => clearInterval(clock);
  }, [from, seconds]);
  const over = now <= 0;
  const shown = Math.min(seconds, Math.max(0, now));
  return (
    <p className={over ? "timer over" : "timer"} role="timer">
      {Math.floor(shown / 60)}:{String(shown % 60).padStart(2, "0")}
      <span>{over ? "time" : "left"}</span>
    </p>
  );
}
