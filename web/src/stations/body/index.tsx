import "./body.css";
import type { StationEntry } from "../../fit/station";
import { BodyMeasures, BodyPanel } from "./Body";

export const body: StationEntry = { Paper: BodyMeasures, lands: "main", Panel: BodyPanel };
