import "./cranks.css";
import type { StationEntry } from "../../fit/station";
import { CranksPage } from "./CranksPage";
import { CranksPanel } from "./CranksPanel";

export const cranks: StationEntry = { Panel: CranksPanel, Page: CranksPage };
