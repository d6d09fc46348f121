import "./kinds.css";
import type { StationEntry } from "../../fit/station";
import { BarsPage } from "../bars/BarsPage";
import { RecheckPanel } from "./RecheckPanel";
import { TurnHandle } from "./TurnHandle";
import { TurnPanel } from "./TurnPanel";
import { useAero } from "./useAero";

export const turn: StationEntry = {
  Panel: TurnPanel,
  Page: BarsPage,
  Handle: TurnHandle,
  useAnswered: () => useAero().data !== undefined,
};

export const recheck: StationEntry = { Panel: RecheckPanel, Page: BarsPage };
