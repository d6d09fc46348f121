import type { Catalogue, Station } from "../api/types";

interface WayProps {
  here: Station;
  catalogue: Catalogue;
  onGo: (station: Station) => void;
}

/** The stations of the fit as notches of a ruler: done, now, to come. */
export function Way({ here, catalogue, onGo }: WayProps) {
  const index = catalogue.stations.findIndex((s) => s.station === here);
  return (
    <nav className="way" aria-label="The way of the fit">
      {catalogue.stations.map((spec, place) => (
        <button
          key={spec.station}
          type="button"
          className={place > index ? "to-come" : undefined}
          aria-current={place === index ? "step" : undefined}
          onClick={() => onGo(spec.station)}
        >
          {spec.label}
        </button>
      ))}
    </nav>
  );
}
