import "./causes.css";
import { Button } from "@chakra-ui/react";
import { useQuery } from "@tanstack/react-query";
import { causesQuery } from "../api/queries";
import type { CauseLink, Protocol, Station } from "../api/types";
import { useFit } from "../fit/useFit";

interface CausesProps {
  /** Begins the protocol that would settle a link. */
  onBegin?: (protocol: Protocol) => void;
  /** Goes to where it is turned, where no protocol settles it. */
  onStation?: (station: Station) => void;
}

/** From what hurts to what may cause it, with the test that would settle it. */
export function Causes({ onBegin, onStation }: CausesProps) {
  const { view, catalogue, version } = useFit();
  const causes = useQuery(causesQuery(view.session.id, version)).data;
  if (!causes) return null;
  const often = (key: string) => catalogue.words.how_often.find((w) => w.key === key)?.label ?? key;
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
          <thead>
            <tr>
              <th scope="col">May be</th>
              <th scope="col">Speaks for it</th>
              <th scope="col">Against it</th>
              <th scope="col">Here and now</th>
              <th scope="col">What would settle it</th>
            </tr>
          </thead>
          <tbody>
            {complaint.links.map((link) => (
              <tr key={link.fault}>
                <th scope="row">
                  {link.label}
                  <span className="often">{often(link.often).toLowerCase()}</span>
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
                  <Settling link={link} onBegin={onBegin} onStation={onStation} />
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
function Settling({ link, onBegin, onStation }: CausesProps & { link: CauseLink }) {
  const { catalogue } = useFit();
  const { protocol } = link;
  const label = catalogue.words.protocol.find((p) => p.key === protocol)?.label ?? "";
  const [text, act] =
    protocol && onBegin
      ? [`Begin: ${label.toLowerCase()}`, () => onBegin(protocol)]
      : [
          `To ${catalogue.stations.find((s) => s.station === link.station)?.label.toLowerCase() ?? ""}`,
          onStation && (() => onStation(link.station)),
        ];
  if (!act) return null;
  return (
    <Button size="sm" display="block" marginTop="6px" onClick={act}>
      {text}
    </Button>
  );
}
