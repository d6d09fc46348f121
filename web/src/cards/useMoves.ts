import { useRef } from "react";
import type { Change, Scale } from "../api/types";
import { useFit } from "../fit/useFit";
import { useKeys } from "../ui/keys";

/** What the schools of a scale propose, the leading one first. */
const proposed = (scale: Scale): Change[][] =>
  [...scale.schools]
    .sort((a, b) => Number(b.leads) - Number(a.leads))
    .flatMap((school) => (school.trial ? [school.trial.changes] : []));

/** `G` puts the right place on the board as the leading schools have it; `O` the next of the other moves, round and round. */
export function useMoves(scales: (Scale | null | undefined)[]) {
  const { still, foresee } = useFit();
  const at = useRef(0);
  const moves = scales.flatMap((scale) => (scale ? [proposed(scale)] : []));
  const most = Math.max(0, ...moves.map((of) => of.length));
  const show = (place: number) => {
    at.current = place;
    foresee(moves.flatMap((of) => of[place % of.length] ?? []));
  };
  useKeys({
    g: still || most === 0 ? undefined : () => show(0),
    o: still || most === 0 ? undefined : () => show((at.current + 1) % most),
  });
}
