import type { SaddleView } from "../../api/types";
import { LongPage } from "../../cards/LongPage";
import { Settling } from "../../cards/Settling";
import { withUnit } from "../../ui/format";
import { Notes } from "./Notes";
import { PostAndRails } from "./PostAndRails";
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
          <Settling asked={saddle.asked} starts={saddle.starts} />
          <PostAndRails saddle={saddle} />
          <Swap />
          <Notes saddle={saddle} />
          <PlumbLines saddle={saddle} />
        </>
      )}
    </LongPage>
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
