import type { AskedLimit, Start } from "../api/types";
import { useFit } from "../fit/useFit";
import { AskedLimits } from "./AskedLimits";
import { Causes } from "./Causes";
import { ProtocolPlans } from "./ProtocolPlans";

/** What may cause what hurts, and the protocols that would settle it: one at a time. */
export function Settling({ asked, starts }: { asked: AskedLimit[]; starts: Start[] }) {
  const { view, still, station, go, beginRun } = useFit();
  const begins = !still && view.run == null;
  // A protocol of two stations is set up for the one the fitter stands at.
  const here = (start: Start) => start.station === station.station;
  const own = starts.filter((start) => here(start) || !starts.some((o) => here(o) && o.protocol === start.protocol));
  return (
    <>
      <AskedLimits asked={asked} />
      <Causes
        begins={own.map((start) => start.protocol)}
        onBegin={
          begins
            ? (protocol) => {
                const start = own.find((s) => s.protocol === protocol);
                if (start) beginRun(start.plan);
              }
            : undefined
        }
        onStation={go}
      />
      {begins && own.length > 0 && <ProtocolPlans starts={own} />}
    </>
  );
}
