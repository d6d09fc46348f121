import { useQuery } from "@tanstack/react-query";
import { saddleQuery } from "../../api/queries";
import { useFit } from "../../fit/useFit";

/** What there is to say and to try at the saddle. */
export function useSaddle() {
  const { view, version } = useFit();
  return useQuery(saddleQuery(view.session.id, version));
}
