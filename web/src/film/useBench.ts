/** What is on the film bench from the side and what can be done with it. */
import { newId } from "../api/client";
import { sessionQuery, takesQuery } from "../api/queries";
import type { Catalogue, ClipFollowed, FilmRead, SessionView, Shot } from "../api/types";
import { pictureOf } from "./clip";
import { ASKED, beginning, type Draft, type Pixel, settled, shotOf } from "./points";
import { findDots, followClip, keepClip, keepStill, keepValues } from "./sends";
import { useRead } from "./useRead";
import { useShown } from "./useShown";

export function useBench(view: SessionView, catalogue: Catalogue) {
  const bench = useShown<Draft, Shot, ClipFollowed, FilmRead>(view, {
    key: `film.${view.session.id}`,
    begin: beginning(2 * view.bike.frame.wheel_radius_mm),
    settled,
    stays: ({ wheel }) => ({ wheel }),
    asked: ASKED,
    shotOf,
    follow: (shot, times, start, blobs) => followClip(view.session.id, shot, times, start, blobs),
    rpm: (followed) => followed.read.cadence_rpm,
  });
  const { session, queries, shown, shot, source, draft, open, clip, working } = bench;
  const { read, problem } = useRead(session, shot);
  const find = () =>
    working("Looking for dots…", async () => {
      if (!shot || !shown.current) return;
      const marks = shot.marks ?? [];
      // One clicked joint is taken for a dot’s middle; the others are found by it.
      const one = marks.slice(0, 1).map((mark) => ({ ...mark, dot: true }));
      const asked = { ...shot, marks: marks.some((mark) => mark.dot) ? marks : one };
      const answered = await findDots(session, asked, await pictureOf(shown.current, draft.size));
      bench.setFound(answered);
      bench.edit({
        points: { ...draft.points, ...Object.fromEntries(answered.marks.map(({ part, at }) => [part, at as Pixel])) },
        dots: answered.marks.filter((mark) => mark.dot).map((mark) => mark.part),
        start: clip.frame,
      });
    });
  const side: "left" | "right" = draft.facesLeft ? "left" : "right";
  const keep = () =>
    working("Keeping…", async () => {
      if (!shot || !source || !open) return;
      const values = clip.followed ? clip.followed.read.values : (read?.values ?? []);
      const kept = values.filter((value) => value.output != null);
      if (kept.length === 0 && !clip.followed) {
        bench.setWrong(
          "Nothing to keep yet: the joints are missing, or the crank stands between the four places that are looks.",
        );
        return;
      }
      const perSide = (value: (typeof values)[number]) =>
        catalogue.outputs.find(({ output }) => output === value.output)?.per_side ?? false;
      const id = newId();
      const takes = clip.followed
        ? await keepClip(session, id, source.name, { shot, times: clip.real, followed: clip.followed.followed })
        : await keepStill(session, id, source.name, shot);
      queries.setQueryData(takesQuery(session).queryKey, takes);
      const after = await keepValues(session, kept, side, perSide);
      queries.setQueryData(sessionQuery(session).queryKey, after);
      await bench.picture(id);
      const also = bench.pictured ? ", and the picture" : "";
      bench.setSaid(`Kept: ${kept.length} readings of the ${side} side, by film${also}.`);
    });
  return { ...bench, read, problem, find, side, keep };
}
