import type { Mark } from "../api/types";

/** Degrees or millimetres at which the mark has its full length. */
const FULL = 12;

/**
 * A small right triangle that thickens toward the way to go, grows with the distance, and doubles beyond the outer
 * range. Its words always stand beside it.
 */
export function WedgeMark({ mark }: { mark: Mark }) {
  const length = 12 + 22 * Math.min(1, mark.distance / FULL);
  const thick = 11;
  const more = mark.toward === "more";
  const triangle = (y: number) => (more ? `M0 ${y + thick}H${length}V${y}Z` : `M${length} ${y + thick}H0V${y}Z`);
  return (
    <svg
      width={length}
      height={mark.outer ? thick * 2 + 2 : thick}
      aria-hidden
      fill="currentcolor"
      style={{ display: "inline-block", flex: "none" }}
    >
      <path d={triangle(0)} />
      {mark.outer && <path d={triangle(thick + 2)} />}
    </svg>
  );
}
