import { useQuery } from "@tanstack/react-query";
import { practiceQuery } from "../api/queries";
import type { PracticeLine } from "../api/types";
import { useFit } from "./useFit";

/** The fit of practice this is, where it is one. */
export function usePractice(): PracticeLine | undefined {
  const { view } = useFit();
  const practice = useQuery({ ...practiceQuery, enabled: view.rider.simulated });
  return practice.data?.fits.find((fit) => fit.rider === view.rider.id);
}
