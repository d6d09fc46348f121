/** The panel's cards that say where a fit stands. */
import { Button } from "@chakra-ui/react";
import { Link } from "react-router";
import type { SessionView } from "../api/types";
import { Keycap } from "../ui/Keycap";

/** A fit that is closed for good. */
export function FinishedCard({ session }: { session: string }) {
  return (
    <section className="card">
      <h2>Finished</h2>
      <p className="task">This fit is closed for good. The next change starts the next fit.</p>
      <div className="buttons">
        <Button asChild variant="solid">
          <Link to={`/sessions/${session}/hand-out`}>The hand-out</Link>
        </Button>
      </div>
    </section>
  );
}

/** Nothing is turned before the bike as found is on record. */
export function TapeFirstCard({ title, onGo }: { title: string; onGo: () => void }) {
  return (
    <section className="card">
      <h2>{title}</h2>
      <p className="task">The bike as found comes first: tape it, then close it.</p>
      <div className="buttons">
        <Button variant="solid" onClick={onGo}>
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

interface HandOutCardProps {
  view: SessionView;
  task: string;
  problem: string | undefined;
  onFollowUp: (day: string | null) => void;
  onFinish: () => void;
}

/** The sheet, when the rider comes back, and the end of the fit. */
export function HandOutCard({ view, task, problem, onFollowUp, onFinish }: HandOutCardProps) {
  const closed = view.found != null;
  return (
    <section className="card">
      <h2>Hand-out</h2>
      <p className="task">{closed ? task : "Close the bike as found first."}</p>
      {closed && (
        <>
          <div className="text-field" style={{ marginTop: 10 }}>
            <label htmlFor="follow-up">The rider comes back on</label>
            <input
              id="follow-up"
              type="date"
              value={view.session.follow_up ?? ""}
              onChange={(event) => onFollowUp(event.target.value || null)}
            />
          </div>
          <div className="buttons">
            <Button asChild variant="solid">
              <Link to={`/sessions/${view.session.id}/hand-out`}>Look at the sheet</Link>
            </Button>
            <Button onClick={onFinish}>Finish the fit</Button>
          </div>
        </>
      )}
      {problem && (
        <p className="number-error" role="alert">
          {problem}
        </p>
      )}
    </section>
  );
}
