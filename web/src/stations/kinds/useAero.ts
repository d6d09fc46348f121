import { useQuery } from "@tanstack/react-query";
import { useEffect, useRef } from "react";
import { aeroQuery } from "../../api/queries";
import { barOf } from "../../fit/fields";
import { useFit } from "../../fit/useFit";

/** How far the position is turned, among the texts being typed: it survives a reload. */
const TURN = "bars.turn";
/** The board turns so far either way, and by so much for a key. */
export const TURNS = { least: -6, most: 6, step: 1, fine: 0.1 } as const;

const known = (text: string | undefined) => {
  const value = text === undefined ? Number.NaN : Number(text);
  return Number.isFinite(value) ? value : undefined;
};

/** The position on pads: what is asked of it, and what the core answers. */
export function useAero() {
  const { view, version, draft, setText, closed } = useFit();
  const by = known(draft.texts[TURN]) ?? 0;
  const aero = barOf(view.input.setup) === "aero";
  const answer = useQuery({ ...aeroQuery(view.session.id, version, by), enabled: aero && closed });
  return {
    answer,
    /** Whether there is nothing that is still to come. */
    here: !(aero && closed) || !answer.isPending,
    data: aero ? answer.data : undefined,
    /** Whether the answer is that of what is asked for now. */
    answered: !answer.isPlaceholderData,
    by,
    turn: (to: number) => {
      const within = Math.round(10 * Math.max(-TURNS.most, Math.min(TURNS.most, to))) / 10;
      setText(TURN, within === 0 ? undefined : String(within));
    },
  };
}

/** Puts what the parts do for a new turn on the board, and takes it off again with none. */
export function useTurned({ data, answered, by }: ReturnType<typeof useAero>) {
  const { foresee, leave, still } = useFit();
  const put = useRef(0);
  const changes = answered && data?.turned.by_deg === by ? data.turned.changes : undefined;
  useEffect(() => {
    if (still || changes === undefined || put.current === by) return;
    put.current = by;
    if (by === 0) leave();
    else foresee(changes);
  }, [changes, by, foresee, leave, still]);
}
