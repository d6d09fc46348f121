import "../saddle/saddle.css";
import "./bars.css";
import type { StationEntry } from "../../fit/station";
import { BarsPage } from "./BarsPage";
import { BarsPanel } from "./BarsPanel";
import { HandPlaneLead } from "./HandPlane";
import { HandsPicker } from "./HandsPicker";
import { TurnHandle } from "../kinds/TurnHandle";
import { useBars } from "./useBars";

export const bars: StationEntry = {
  Lead: HandPlaneLead,
  Panel: BarsPanel,
  Page: BarsPage,
  useAnswered: () => useBars().data !== undefined,
  Foot: HandsPicker,
  Handle: TurnHandle,
  picks: ["drop", "bb_to_hand"],
};
