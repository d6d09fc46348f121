import { useEffect, useState } from "react";
import type { Foresight } from "../api/types";
import { withUnit } from "../ui/format";

/** Stepping has settled after so long without another step. */
const SETTLES_MS = 700;

const describe = ({ title, rows }: Foresight) =>
  `${title}: ${rows
    .slice(0, 3)
    .map((row) => `${row.label} ${withUnit(row.after, row.unit)}`)
    .join(", ")}`;

interface AnnouncerProps {
  /** What is foreseen; nothing while nothing is being changed. */
  foresight: Foresight | undefined;
  settled: boolean;
}

/** Says what is foreseen once stepping settles. */
export function Announcer({ foresight, settled }: AnnouncerProps) {
  const [said, setSaid] = useState("");
  const next = foresight ? describe(foresight) : "";
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
