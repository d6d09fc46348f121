import { useQuery } from "@tanstack/react-query";
import { cranksQuery } from "../../api/queries";
import { useFit } from "../../fit/useFit";

const AIM = "plan.crank_mm";

/** What there is to say and to try at the cranks, with the plans for the crank that is aimed at. */
export function useCranks() {
  const { view, version, draft, setText } = useFit();
  const to = draft.texts[AIM];
  const answer = useQuery(cranksQuery(view.session.id, version, to === undefined ? undefined : Number(to)));
  return { answer, aim: (crank: number) => setText(AIM, String(crank)) };
}
