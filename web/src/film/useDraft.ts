import { useRef } from "react";
import { useKept } from "../ui/useKept";
import type { Pixel } from "./points";

/** What is kept of a picture in this browser until it is taken: never the picture. */
export interface Placed {
  /** The file the points are of. */
  name: string;
  size: Pixel;
  points: Record<string, Pixel>;
  distance?: number | undefined;
  lens?: number | undefined;
  /** For a clip: how many times slower it plays than it happened. */
  slow?: number | undefined;
  /** For a clip: the frame its dots are named in. */
  start?: number | undefined;
}

/**
 * The points of the picture on the bench: kept in this browser, so that a reload goes on with them. `settled` says what a new
 * point makes of the rest, `stays` what another picture has of the room as well.
 */
export function useDraft<D extends Placed>(
  key: string,
  begin: D,
  settled: (draft: D, points: D["points"]) => Partial<D>,
  stays: (draft: D) => Partial<D>,
) {
  const { state: draft, edit } = useKept<D>(key, begin);
  const before = useRef<D["points"][]>([]);
  const place = (at: string, pixel: Pixel) => {
    if (before.current.at(-1) !== draft.points) before.current.push(draft.points);
    edit(settled(draft, { ...draft.points, [at]: pixel }));
  };
  const takeBack = () => {
    const points = before.current.pop();
    if (points) edit({ points } as Partial<D>);
  };
  const forget = (name: string) => {
    before.current = [];
    edit({ ...begin, name, distance: draft.distance, lens: draft.lens, ...stays(draft) });
  };
  return { draft, edit, place, takeBack, forget };
}
