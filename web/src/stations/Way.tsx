import type { Catalogue, SessionView, Station } from "../api/types";

interface WayProps {
  view: SessionView;
  catalogue: Catalogue;
  onGo: (station: Station) => void;
}

/** The stations of the fit as notches of a ruler: done, now, to come. */
export function Way({ view, catalogue, onGo }: WayProps) {
  const here = catalogue.stations.findIndex((s) => s.station === view.session.station);
  return (
    <nav className="way" aria-label="The way of the fit">
      {catalogue.stations.map((spec, index) => (
        <button
          key={spec.station}
          type="button"
          className={index > here ? "to-come" : undefined}
          aria-current={index === here ? "step" : undefined}
          onClick={() => onGo(spec.station)}
        >
          {spec.label}
        </button>
      ))}
    </nav>
  );
}
