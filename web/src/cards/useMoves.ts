import { useRef } from "react";
import type { Change, Scale } from "../api/types";
import { useFit } from "../fit/useFit";
import { useKeys } from "../ui/keys";

/** What the schools of a scale propose, the leading one first. */
export const proposed = (scale: Scale | null | undefined): Change[][] =>
  [...(scale?.schools ?? [])]
    .sort((a, b) => Number(b.leads) - Number(a.leads))
    .flatMap((school) => (school.trial ? [school.trial.changes] : []));

/**
 * `S` puts what the leading school proposes on the board, pressed again what the next one does, round and round: of each
 * decision of a station its first proposal, then its others.
 */
export function useMoves(decisions: Change[][][]) {
  const { still, foresee } = useFit();
  const at = useRef(-1);
  const moves = decisions.filter((of) => of.length > 0);
  const most = Math.max(0, ...moves.map((of) => of.length));
  const show = (place: number) => {
    at.current = place;
    foresee(moves.flatMap((of) => of[place % of.length] ?? []));
  };
  useKeys({
    s: still || most === 0 ? undefined : () => show((at.current + 1) % most),
  });
}
