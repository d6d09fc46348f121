import { useState } from "react";
import type { Catalogue, SessionView, Station } from "../api/types";
import { stationsOf } from "./fields";
import { changeSession } from "./sends";
import type { Writes } from "./useWrites";

/** Where the fitter stands: shown at once, the record follows. */
export function useWay(view: SessionView, catalogue: Catalogue, post: Writes["post"], onLeave: () => void) {
  const [heading, setHeading] = useState<Station>();
  const here = heading ?? view.session.station;
  const stations = stationsOf(view.input.setup, catalogue);
  const station = stations.find((s) => s.station === here) ?? stations[0];
  if (!station) throw new Error("the catalogue has no stations");

  const go = (next: Station) => {
    onLeave();
    setHeading(next);
    // A finished fit is looked at, not moved.
    if (view.session.state === "finished") return;
    void post(changeSession({ station: next })).then(() =>
      setHeading((latest) => (latest === next ? undefined : latest)),
    );
  };
  const step = (by: number) => {
    const next = stations[stations.indexOf(station) + by];
    if (next) go(next.station);
  };
  return { station, stations, go, step };
}
