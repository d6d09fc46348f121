import type { StationEntry } from "../../fit/station";
import { HandOutCard } from "./HandOutCard";

export const handOut: StationEntry = { Card: HandOutCard, early: true };
