import { useFit } from "../fit/useFit";

/** What to read or measure next, to be surer for the least time. */
export function WorthReading() {
  const { view } = useFit();
  if (view.worth.length === 0) return null;
  return (
    <section className="worth" aria-label="Worth reading next">
      <h3>Worth reading next</h3>
      <ul>
        {view.worth.map((worth) => (
          <li key={worth.output}>{worth.words}</li>
        ))}
      </ul>
    </section>
  );
}
