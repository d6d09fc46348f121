import type { StationEntry } from "../../fit/station";
import { FoundPanel } from "./FoundPanel";

export const bikeAsFound: StationEntry = {
  Card: FoundPanel,
  early: true,
  lands: "main",
  picks: ["saddle_height", "setback", "sit_reference", "drop", "bb_to_hand"],
};
