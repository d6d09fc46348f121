import "../saddle/saddle.css";
import "./bars.css";
import type { StationEntry } from "../../fit/station";
import { BarsPage } from "./BarsPage";
import { BarsPanel } from "./BarsPanel";
import { HandPlaneLead } from "./HandPlane";
import { HandsPicker } from "./HandsPicker";
import { useBars } from "./useBars";

export const bars: StationEntry = {
  Lead: HandPlaneLead,
  Panel: BarsPanel,
  Page: BarsPage,
  useAnswered: () => useBars().data !== undefined,
  Foot: HandsPicker,
  picks: ["drop", "bb_to_hand"],
};

/** How high pads stand is decided as how far ahead they do. */
export const padStack: StationEntry = bars;
