import type { SaddleView } from "../../api/types";
import { AskedLimits } from "../../cards/AskedLimits";
import { Causes } from "../../cards/Causes";
import { LongPage } from "../../cards/LongPage";
import { useFit } from "../../fit/useFit";
import { withUnit } from "../../ui/format";
import { Notes } from "./Notes";
import { PostAndRails } from "./PostAndRails";
import { ProtocolPlans } from "./ProtocolPlans";
import { Swap } from "./Swap";
import { useSaddle } from "./useSaddle";
import { HeadRow } from "../../ui/HeadRow";

/** What hurts and why, the protocols with their settings, post and rails, and the saddle itself. */
export function SaddlePage() {
  const answer = useSaddle();
  const saddle = answer.data;
  return (
    <LongPage title="What hurts, and what would settle it" className="saddle-page" answer={answer}>
      {saddle && (
        <>
          <Settling saddle={saddle} />
          <PostAndRails saddle={saddle} />
          <Swap />
          <Notes saddle={saddle} />
          <PlumbLines saddle={saddle} />
        </>
      )}
    </LongPage>
  );
}

/** What may cause what hurts, and the protocols that would settle it: one at a time. */
function Settling({ saddle }: { saddle: SaddleView }) {
  const { view, still, station, go, beginRun } = useFit();
  const begins = !still && view.run == null;
  return (
    <>
      <AskedLimits asked={saddle.asked} />
      <Causes
        onBegin={
          begins
            ? (protocol) => {
                const starts = saddle.starts.filter((start) => start.protocol === protocol);
                const start = starts.find((s) => s.station === station.station) ?? starts[0];
                if (start) beginRun(start.plan);
              }
            : undefined
        }
        onStation={go}
      />
      {begins && <ProtocolPlans saddle={saddle} />}
    </>
  );
}

/** Every landmark's plumb line. */
function PlumbLines({ saddle }: { saddle: SaddleView }) {
  return (
    <>
      <h2>Plumb lines as foreseen</h2>
      <table className="plans">
        <HeadRow columns={["From", "Left knee ahead of the axle", "Right knee ahead of the axle", "Hangs right at"]} />
        <tbody>
          {saddle.hung.map((line) => (
            <tr key={line.landmark}>
              <th scope="row">{line.label}</th>
              <td className="n">{withUnit(line.over_axle_mm.left, "mm")}</td>
              <td className="n">{withUnit(line.over_axle_mm.right, "mm")}</td>
              <td>
                {withUnit(line.right_at_mm.right, "mm")}: {line.stands_for} over the axle
              </td>
            </tr>
          ))}
        </tbody>
      </table>
    </>
  );
}
