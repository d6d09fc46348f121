import "./intake.css";
import { Causes } from "../../cards/Causes";
import { LongPage } from "../../cards/LongPage";
import type { StationEntry } from "../../fit/station";
import { useFit } from "../../fit/useFit";
import { WhereItHurts } from "./Complaints";
import { IntakePanel } from "./IntakePanel";

function WhatHurts() {
  const { view } = useFit();
  return (
    <LongPage title="What hurts, and what would settle it" back="body">
      {view.unknown.length > 0 && <p>The saddle is not taped yet: angles are as it is drawn.</p>}
      <Causes begins={[]} />
    </LongPage>
  );
}

export const intake: StationEntry = {
  Paper: WhereItHurts,
  Page: WhatHurts,
  opens: () => true,
  Panel: IntakePanel,
};
