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
  const { catalogue } = useFit();
  const bars = useBars();
  return (
    <LongPage title="What hurts, and what would settle it" className="bars-page" answer={bars.answer}>
      {bars.data && (
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
      )}
    </LongPage>
  );
}
