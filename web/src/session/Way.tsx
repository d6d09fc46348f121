import "./way.css";
import { memo, useEffect, useRef } from "react";
import { useFit } from "../fit/useFit";
import { useJudge } from "../judge/useJudge";

/** The stations of the fit as notches of a ruler: done, now, to come. */
export const Way = memo(function Way() {
  const { view, station, stations, closed, go } = useFit();
  // The stations something grossly wrong belongs to, and whether a red flag bars the way past intake.
  const first = closed ? view.gross.errors.map((error) => error.station) : [];
  const again = view.due_again?.due.map((item) => item.station) ?? [];
  const next = useJudge()?.next.station;
  const { stopped } = view;
  const index = stations.indexOf(station);
  const here = useRef<HTMLButtonElement>(null);
  // In one row on a narrow window, the station one is at may be out of sight.
  useEffect(() => {
    here.current?.scrollIntoView({ block: "nearest", inline: "center" });
  }, [index]);
  return (
    <nav className="way" aria-label="The way of the fit">
      {stations.map((spec, place) => (
        <button
          key={spec.station}
          ref={place === index ? here : undefined}
          type="button"
          className={place > index ? "to-come" : undefined}
          aria-current={place === index ? "step" : undefined}
          data-next={spec.station === next}
          title={spec.station === next ? "The next move is here" : undefined}
          disabled={stopped && spec.station !== "intake" && spec.station !== "hand_out"}
          onClick={() => go(spec.station)}
        >
          <span>
            {spec.label}
            {first.includes(spec.station) && <span className="first">take first</span>}
            {again.includes(spec.station) && <span className="again">due again</span>}
          </span>
        </button>
      ))}
    </nav>
  );
});
