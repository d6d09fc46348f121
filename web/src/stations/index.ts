/** Every station of the fit: what it shows besides what all of them do. */
import type { Station } from "../api/types";
import type { StationEntry } from "../fit/station";
import { bars, padStack } from "./bars";
import { body } from "./body";
import { cranks } from "./cranks";
import { feet } from "./feet";
import { firstLook } from "./firstlook";
import { bikeAsFound } from "./found";
import { handOut } from "./handout";
import { intake } from "./intake";
import { recheck, turn } from "./kinds";
import { saddleHeight, setback } from "./saddle";

export const STATIONS: Record<Station, StationEntry> = {
  intake,
  body,
  bike_as_found: bikeAsFound,
  first_look: firstLook,
  feet,
  cranks,
  saddle_height: saddleHeight,
  setback,
  bars,
  pad_stack: padStack,
  turn,
  recheck,
  hand_out: handOut,
};
