import "./causes.css";
import { Button } from "@chakra-ui/react";
import { useQuery } from "@tanstack/react-query";
import { causesQuery } from "../api/queries";
import type { CauseLink, Protocol, Station } from "../api/types";
import { useFit } from "../fit/useFit";
import { labelOf } from "../ui/labelOf";
import { HeadRow } from "../ui/HeadRow";

interface CausesProps {
  /** The protocols that can be begun here. */
  begins: Protocol[];
  /** Begins the protocol that would settle a link. */
  onBegin?: (protocol: Protocol) => void;
  /** Goes to where it is turned, where no protocol settles it. */
  onStation?: (station: Station) => void;
}

/** From what hurts to what may cause it, with the test that would settle it. */
export function Causes({ begins, onBegin, onStation }: CausesProps) {
  const { view, catalogue, version } = useFit();
  const causes = useQuery(causesQuery(view.session.id, version)).data;
  if (!causes) return null;
  if (causes.complaints.length === 0) {
    return (
      <p>Nothing hurts so far: places marked on the body picture at Intake stand here with what may cause them.</p>
    );
  }
  return causes.complaints.map((complaint) => (
    <section key={complaint.complaint} aria-label={complaint.complaint} className="causes">
      <h3>{complaint.complaint}</h3>
      {complaint.links.length > 0 && (
        <table className="plans">
          <HeadRow columns={["May be", "Speaks for it", "Against it", "Here and now", "What would settle it"]} />
          <tbody>
            {complaint.links.map((link) => (
              <tr key={link.fault}>
                <th scope="row">
                  {link.label}
                  <span className="often">
                    {link.contradicted ?? labelOf(catalogue.words.how_often, link.often).toLowerCase()}
                  </span>
                </th>
                <td>{link.speaks_for}</td>
                <td>{link.speaks_against}</td>
                <td>
                  {link.here.length === 0 ? (
                    "nothing known"
                  ) : (
                    <ul>
                      {link.here.map((fact) => (
                        <li key={fact}>{fact}</li>
                      ))}
                    </ul>
                  )}
                </td>
                <td>
                  {link.settles}
                  <Settling link={link} begins={begins} onBegin={onBegin} onStation={onStation} />
                </td>
              </tr>
            ))}
          </tbody>
        </table>
      )}
      <p className="number-hint">{complaint.words}</p>
    </section>
  ));
}

/** What settles a link is one press away: its protocol, or the station where it is turned. */
function Settling({ link, begins, onBegin, onStation }: CausesProps & { link: CauseLink }) {
  const { catalogue, stations } = useFit();
  const { protocol } = link;
  const [text, act] =
    protocol && onBegin && begins.includes(protocol)
      ? [`Begin: ${labelOf(catalogue.words.protocol, protocol).toLowerCase()}`, () => onBegin(protocol)]
      : [
          `To ${stations.find((s) => s.station === link.station)?.label.toLowerCase() ?? ""}`,
          onStation && (() => onStation(link.station)),
        ];
  if (!act) return null;
  return (
    <Button size="sm" display="block" marginTop="6px" onClick={act}>
      {text}
    </Button>
  );
}
