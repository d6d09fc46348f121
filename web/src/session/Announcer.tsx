import { useEffect, useState } from "react";
import type { Foresight, TrialView } from "../api/types";
import { useFit } from "../fit/useFit";
import { withUnit } from "../ui/format";

/** Stepping has settled after so long without another step. */
const SETTLES_MS = 700;

const describe = ({ title, rows }: Foresight) =>
  `${title}: ${rows
    .slice(0, 3)
    .map((row) => `${row.label} ${withUnit(row.after, row.unit)}`)
    .join(", ")}`;

/** What became of the newest trial. */
const became = ({ trial, verdict, outcome, turned_out }: TrialView): string =>
  `Trial ${trial.number}, ${trial.foreseen.title}: ${outcome == null ? `on the bench${verdict == null ? "" : `, ${verdict}`}` : (turned_out ?? outcome)}`;

/** Says what is foreseen once stepping settles, and what became of a trial. */
export function Announcer() {
  const { foresight, pending, settled, view } = useFit();
  const last = view.trials.at(-1);
  const result = last ? became(last) : "";
  const [before] = useState(result);
  const [said, setSaid] = useState("");
  const next = pending ? describe(foresight) : result === before ? "" : result;
  useEffect(() => {
    if (!settled) return;
    const timer = setTimeout(() => setSaid(next), SETTLES_MS);
    return () => clearTimeout(timer);
  }, [next, settled]);
  return (
    <p className="visually-hidden" aria-live="polite">
      {said}
    </p>
  );
}
