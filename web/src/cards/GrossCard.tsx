import { sentence } from "../ui/format";
import { Button } from "@chakra-ui/react";
import type { Change, Station } from "../api/types";
import { useFit } from "../fit/useFit";

/** What is so far out that it is taken before the order of work, and the front's rough pass. */
export function GrossCard() {
  const { view, foreseeAt } = useFit();
  const { errors, front } = view.gross;
  const take = (station: Station, changes: Change[]) => (
    <div className="buttons">
      <Button onClick={() => foreseeAt(station, changes)}>{changes.length > 0 ? "Take it first" : "Go there"}</Button>
    </div>
  );
  return (
    <>
      {errors.map((error) => (
        <section key={error.words} className="card gross" aria-label="Gross error">
          <h2>Gross error: take it first</h2>
          <p className="task">{sentence(error.words)}</p>
          <p>{sentence(error.proposal)}</p>
          {take(error.station, error.changes)}
        </section>
      ))}
      {front && (
        <section className="card gross" aria-label="Rough pass of the front">
          <h2>Front first, roughly</h2>
          <p className="task">{sentence(front.words)}</p>
          <p>
            {sentence(
              front.changes.length > 0
                ? `Setback can only be felt with a front end that is about right${front.left}`
                : front.left,
            )}
          </p>
          {take("bars", front.changes)}
        </section>
      )}
    </>
  );
}
