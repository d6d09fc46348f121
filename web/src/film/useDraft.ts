import { useRef } from "react";
import { useKept } from "../ui/useKept";
import { type Draft, type Pixel, withRims } from "./points";

/** The points of the picture on the bench: kept in this browser, so that a reload goes on with them. */
export function useDraft(session: string, wheelMm: number) {
  const begin: Draft = {
    name: "",
    size: [1280, 720],
    points: {},
    dots: [],
    facesLeft: false,
    moving: false,
    wheel: Math.round(wheelMm),
  };
  const { state: draft, edit } = useKept<Draft>(`film.${session}`, begin);
  const before = useRef<Draft["points"][]>([]);
  const place = (key: string, at: Pixel) => {
    const moved = before.current.at(-1);
    if (moved !== draft.points) before.current.push(draft.points);
    const points = withRims({ ...draft.points, [key]: at }, draft.wheel);
    const [rear, front] = [points.rear, points.front];
    edit({ points, ...(rear && front ? { facesLeft: front[0] < rear[0] } : {}) });
  };
  const takeBack = () => {
    const points = before.current.pop();
    if (points) edit({ points });
  };
  const forget = (name: string) => {
    before.current = [];
    edit({ ...begin, name, distance: draft.distance, lens: draft.lens, wheel: draft.wheel });
  };
  return { draft, edit, place, takeBack, forget };
}
