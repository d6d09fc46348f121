import "../saddle/saddle.css";
import "./bars.css";
import type { StationEntry } from "../../fit/station";
import { BarsPage } from "./BarsPage";
import { BarsPanel } from "./BarsPanel";
import { HandPlaneLead } from "./HandPlane";
import { HandsPicker } from "./HandsPicker";
import { useOffRoadAnswered } from "../kinds/OffRoad";
import { useAero } from "../kinds/useAero";
import { useBars } from "./useBars";

export const bars: StationEntry = {
  Lead: HandPlaneLead,
  Panel: BarsPanel,
  Page: BarsPage,
  useAnswered: () => {
    const [hands, offRoad, pads] = [useBars().data !== undefined, useOffRoadAnswered(), useAero().here];
    return hands && offRoad && pads;
  },
  Foot: HandsPicker,
  picks: ["drop", "bb_to_hand"],
};

/** How high pads stand is decided as how far ahead they do. */
export const padStack: StationEntry = bars;
