import { Button } from "@chakra-ui/react";
import { Link } from "react-router";
import { changeSession, finish } from "../../fit/sends";
import { useFit } from "../../fit/useFit";
import { Problem } from "../../ui/Problem";

/** The sheet, when the rider comes back, and the end of the fit. */
export function HandOutCard() {
  const { view, closed, finished, station, problem, post } = useFit();
  if (finished) return null;
  return (
    <section className="card">
      <h2>Hand-out</h2>
      <p className="task">{closed ? station.task : "Close the bike as found first."}</p>
      {closed && (
        <>
          <div className="text-field" style={{ marginTop: 10 }}>
            <label htmlFor="follow-up">The rider comes back on</label>
            <input
              id="follow-up"
              type="date"
              value={view.session.follow_up ?? ""}
              onChange={(event) => void post(changeSession({ follow_up: event.target.value || null }))}
            />
          </div>
          <div className="buttons">
            <Button asChild variant="solid">
              <Link to={`/sessions/${view.session.id}/hand-out`}>Look at the sheet</Link>
            </Button>
            <Button asChild>
              <Link to={`/sessions/${view.session.id}/plan`}>Plan and referrals</Link>
            </Button>
            <Button asChild>
              <Link to={`/riders/${view.rider.id}/next?from=fit&fit=${view.session.id}`}>The next bike</Link>
            </Button>
            <Button onClick={() => void post(finish)}>Finish the fit</Button>
          </div>
        </>
      )}
      <Problem words={problem} />
    </section>
  );
}
