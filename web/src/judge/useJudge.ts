import { useQuery } from "@tanstack/react-query";
import { useNavigate } from "react-router";
import { judgeQuery } from "../api/queries";
import type { MoveView } from "../api/types";
import { useFit } from "../fit/useFit";

/** What the judge says of the fit, while there is something to say: nothing of a trial on the bench, or of a finished fit. */
export function useJudge() {
  const { view, version, closed, finished, bench } = useFit();
  const asked = closed && !finished && !bench && view.unknown.length === 0;
  const judge = useQuery({ ...judgeQuery(view.session.id, version), enabled: asked });
  return asked ? judge.data : undefined;
}

/** Does a move: foresees it on the board, begins it, or goes where it is done. */
export function useDo() {
  const { view, foreseeAt, beginRun, go, setWhy } = useFit();
  const navigate = useNavigate();
  return (move: MoveView) => {
    if (move.step) {
      foreseeAt(move.station, move.step.changes);
      setWhy([move.because, ...move.speaks_for.map((said) => said.words)].filter(Boolean).join("; ").slice(0, 2000));
    } else if (move.start && view.run) void navigate(`/runs/${view.run.id}`);
    else if (move.start) beginRun(move.start.plan);
    else go(move.station);
  };
}
