import "./feet.css";
import type { StationEntry } from "../../fit/station";
import { FeetPage } from "./FeetPage";
import { FeetPanel } from "./FeetPanel";
import { useFeet } from "./useFeet";

export const feet: StationEntry = { Panel: FeetPanel, useAnswered: () => useFeet().data !== undefined, Page: FeetPage };
