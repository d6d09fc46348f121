import { Button } from "@chakra-ui/react";
import type { AskedLimit } from "../api/types";
import { useFit } from "../fit/useFit";

/** Limits that intake calls for and nobody has tested, each with why it is asked for. */
export function AskedLimits({ asked }: { asked: AskedLimit[] }) {
  const { station, finished, go } = useFit();
  if (asked.length === 0) return null;
  return (
    <section className="asked" aria-label="Limits not known">
      <h3>Test on the table first</h3>
      <ul>
        {asked.map((limit) => (
          <li key={limit.label} className="alarm">
            <b>{limit.label}: not known.</b> Asked for by {limit.why}.
          </li>
        ))}
      </ul>
      {station.station !== "body" && !finished && (
        <Button size="sm" marginTop="6px" onClick={() => go("body")}>
          To body
        </Button>
      )}
    </section>
  );
}
