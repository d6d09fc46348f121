/** The panel's cards that say where a fit stands. */
import { Button } from "@chakra-ui/react";
import { Link } from "react-router";
import type { SessionView } from "../api/types";
import { useFit } from "../fit/useFit";
import { Keycap } from "../ui/Keycap";

/** A fit that is closed for good. */
export function FinishedCard() {
  const { view } = useFit();
  return (
    <section className="card">
      <h2>Finished</h2>
      <p className="task">This fit is closed for good. The next change starts the next fit.</p>
      <div className="buttons">
        <Button asChild variant="solid">
          <Link to={`/sessions/${view.session.id}/hand-out`}>The hand-out</Link>
        </Button>
        <Button asChild>
          <Link to={`/sessions/${view.session.id}/plan`}>Plan and referrals</Link>
        </Button>
        <Button asChild>
          <Link to={`/riders/${view.rider.id}/next?from=fit&fit=${view.session.id}`}>The next bike</Link>
        </Button>
      </div>
    </section>
  );
}

/** Nothing is turned before the bike as found is on record. */
export function TapeFirstCard() {
  const { station, go } = useFit();
  return (
    <section className="card">
      <h2>{station.label}</h2>
      <p className="task">The bike as found comes first: tape it, then close it.</p>
      <div className="buttons">
        <Button variant="solid" onClick={() => go("bike_as_found")}>
          To bike as found
        </Button>
      </div>
    </section>
  );
}

/** A protocol that waits. */
export function RunCard({ run }: { run: NonNullable<SessionView["run"]> }) {
  return (
    <section className="card">
      <h2>A protocol is going on</h2>
      <p className="task">{run.label}: it waits where it was left.</p>
      <div className="buttons">
        <Button asChild variant="solid">
          <Link to={`/runs/${run.id}`}>
            Go on <Keycap>P</Keycap>
          </Link>
        </Button>
      </div>
    </section>
  );
}
