import { useEffect, useState } from "react";
import type { Foresight } from "../api/types";
import { useFit } from "../fit/useFit";
import { withUnit } from "../ui/format";

/** Stepping has settled after so long without another step. */
const SETTLES_MS = 700;

const describe = ({ title, rows }: Foresight) =>
  `${title}: ${rows
    .slice(0, 3)
    .map((row) => `${row.label} ${withUnit(row.after, row.unit)}`)
    .join(", ")}`;

/** Says what is foreseen once stepping settles. */
export function Announcer() {
  const { foresight, pending, settled } = useFit();
  const [said, setSaid] = useState("");
  const next = pending ? describe(foresight) : "";
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
