import { useQuery } from "@tanstack/react-query";
import { feetQuery } from "../../api/queries";
import { useFit } from "../../fit/useFit";

/** What there is to say and to try at the feet. */
export function useFeet() {
  const { view, version } = useFit();
  return useQuery(feetQuery(view.session.id, version));
}
