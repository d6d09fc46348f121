import type { Catalogue, Station } from "../api/types";

interface WayProps {
  here: Station;
  catalogue: Catalogue;
  /** The stations something grossly wrong belongs to. */
  first: Station[];
  /** Whether a red flag bars the way past intake. */
  stopped: boolean;
  onGo: (station: Station) => void;
}

/** The stations of the fit as notches of a ruler: done, now, to come. */
export function Way({ here, catalogue, first, stopped, onGo }: WayProps) {
  const index = catalogue.stations.findIndex((s) => s.station === here);
  return (
    <nav className="way" aria-label="The way of the fit">
      {catalogue.stations.map((spec, place) => (
        <button
          key={spec.station}
          type="button"
          className={place > index ? "to-come" : undefined}
          aria-current={place === index ? "step" : undefined}
          disabled={stopped && spec.station !== "intake" && spec.station !== "hand_out"}
          onClick={() => onGo(spec.station)}
        >
          <span>
            {spec.label}
            {first.includes(spec.station) && <span className="first">take first</span>}
          </span>
        </button>
      ))}
    </nav>
  );
}
