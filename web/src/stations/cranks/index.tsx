import "./cranks.css";
import type { StationEntry } from "../../fit/station";
import { CranksPage } from "./CranksPage";
import { CranksPanel } from "./CranksPanel";
import { useCranks } from "./useCranks";

export const cranks: StationEntry = {
  Panel: CranksPanel,
  useAnswered: () => useCranks().answer.data !== undefined,
  Page: CranksPage,
};
