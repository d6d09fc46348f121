import { barOf } from "../../fit/fields";
import { AeroPage } from "../kinds/AeroPage";
import { OffRoadPage, useOffRoad } from "../kinds/OffRoad";
import { LongPage } from "../../cards/LongPage";
import { PartFields } from "../../cards/PartFields";
import { Settling } from "../../cards/Settling";
import type { Quantity } from "../../api/types";
import { useFit } from "../../fit/useFit";
import { sentence } from "../../ui/format";
import { useBars } from "./useBars";

/** Torques of the front end: the others are typed with the bike as found. */
const FRONT_TORQUES: Quantity[] = ["stem_torque_nm", "bar_torque_nm", "lever_torque_nm", "pad_torque_nm"];

/** What hurts and why, the protocols with their settings, and the small decisions: levers, sweep, torque. */
export function BarsPage() {
  const { view } = useFit();
  return barOf(view.input.setup) === "aero" ? <AeroPage below={<Causes />} /> : <FrontPage />;
}

function FrontPage() {
  const bars = useBars();
  const offRoad = useOffRoad() !== undefined;
  const title = offRoad ? "Springs and what goes with them" : "What hurts, and what would settle it";
  return (
    <LongPage title={title} className="bars-page" answer={bars.answer}>
      <OffRoadPage />
      {offRoad && <h2>What hurts, and what would settle it</h2>}
      <Causes />
    </LongPage>
  );
}

function Causes() {
  const { catalogue } = useFit();
  const bars = useBars();
  if (!bars.data) return null;
  return (
    <>
      <Settling asked={[]} starts={bars.data.starts} />
      <section aria-label="Levers and sweep">
        <h2>Levers and sweep</h2>
        <PartFields quantities={catalogue.parts.levers} />
        {bars.data.small.map((words) => (
          <p key={words} className="apart">
            {sentence(words)}
          </p>
        ))}
      </section>
      <section aria-label="Torque printed on the parts">
        <h2>Torque printed on the parts</h2>
        <p>Typed once from the part; the next mechanic reads it on the hand-out.</p>
        <PartFields quantities={FRONT_TORQUES} />
      </section>
    </>
  );
}
