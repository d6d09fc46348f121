import { useQuery } from "@tanstack/react-query";
import { barsQuery } from "../../api/queries";
import type { Point } from "../../api/types";
import { useFit } from "../../fit/useFit";

/** Where the hands are wished, among the texts being typed: it survives a reload. */
const AIM = "bars.aim";

/** What there is to say and to try at the bars, for the place of the hands that is wished. */
export function useBars() {
  const { view, version, draft, setText } = useFit();
  const [x, y] = (draft.texts[AIM] ?? "").split(" ").map(Number);
  const aim: Point | undefined =
    x !== undefined && y !== undefined && Number.isFinite(x) && Number.isFinite(y) ? [x, y] : undefined;
  const answer = useQuery(barsQuery(view.session.id, version, aim));
  return {
    answer,
    data: answer.data,
    aim,
    /** Whether the front ends are those of the place that is wished now. */
    answered: !answer.isPlaceholderData,
    wish: (at: Point | undefined) => setText(AIM, at && `${at[0].toFixed(1)} ${at[1].toFixed(1)}`),
  };
}
