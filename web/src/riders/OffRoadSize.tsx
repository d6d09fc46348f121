import { chakra } from "@chakra-ui/react";
import { useQuery } from "@tanstack/react-query";
import { sizingQuery } from "../api/queries";
import type { RiderView } from "../api/types";
import { number, sentence, signed, withUnit } from "../ui/format";
import { HeadRow } from "../ui/HeadRow";

/** Which off-road size of the frame library, before there is a bike. */
export function OffRoadSize({ view }: { view: RiderView }) {
  const sizing = useQuery({ ...sizingQuery(view.rider.id, view.version), retry: false }).data;
  if (!sizing || sizing.sizes.length === 0) return null;
  return (
    <chakra.section marginTop="18px" aria-labelledby="off-road-size">
      <details open={view.rider.bikes.length === 0}>
        <summary>
          <span id="off-road-size">Off-road size</span>: frame reach about {withUnit(Math.round(sizing.reach_mm), "mm")}
        </summary>
        <p>{sentence(sizing.words)}</p>
        <table className="plans">
          <HeadRow columns={["Size", "Reach", "against wanted", "BB to grips, about", ""]} />
          <tbody>
            {sizing.sizes.map((size) => (
              <tr key={size.name}>
                <th scope="row">
                  {size.first && "▸ "}
                  {size.name}
                </th>
                <td className="n">{withUnit(size.reach_mm, "mm")}</td>
                <td>{signed(Math.round(size.over_mm), "mm")}</td>
                <td className="n">≈ {number(Math.round(size.grips_mm), "mm")}</td>
                <td>{size.first ? <b>{size.words}</b> : size.words}</td>
              </tr>
            ))}
          </tbody>
        </table>
        <p className="number-hint">
          BB to grips is an estimate with an ordinary trail cockpit; what spacers, rise, stem and sweep give is counted
          before a size is refused.
        </p>
      </details>
    </chakra.section>
  );
}
