import type { StationEntry } from "../../fit/station";
import { HandsPicker } from "./HandsPicker";

export const bars: StationEntry = { Foot: HandsPicker, picks: ["drop", "bb_to_hand"] };
