import "./feet.css";
import type { StationEntry } from "../../fit/station";
import { FeetPage } from "./FeetPage";
import { FeetPanel } from "./FeetPanel";

export const feet: StationEntry = { Panel: FeetPanel, Page: FeetPage };
