import { type ReactNode, useDeferredValue, useState } from "react";
import { FitContext, useFit } from "./useFit";

/**
 * What tells of answers, and holds no text being typed, waits for the next answer: while one is on its way only the
 * board and the card are drawn anew, and once it is there they are drawn first.
 */
export function Held({ children }: { children: ReactNode }) {
  const fit = useFit();
  const [held, setHeld] = useState(fit);
  if (fit.settled && held !== fit) setHeld(fit);
  const later = useDeferredValue(held);
  return <FitContext value={fit.pending ? later : fit}>{children}</FitContext>;
}
