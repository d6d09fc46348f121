/** A clip from ahead or behind on the film bench and what can be done with it. */
import { newId } from "../api/client";
import { takesQuery } from "../api/queries";
import type { AcrossFollowed, AcrossFound, AcrossShot, SeenFrom, SessionView } from "../api/types";
import { type AcrossDraft, acrossOf, askedFrom, beginning, withFound } from "./across";
import { pictureOf } from "./clip";
import { findAcross, followAcross, keepAcross } from "./sends";
import { useShown } from "./useShown";

export function useAcross(view: SessionView, from: SeenFrom) {
  const bench = useShown<AcrossDraft, AcrossShot, AcrossFollowed, AcrossFound>(view, {
    key: `film.${view.session.id}.${from}`,
    begin: beginning,
    settled: (_, points) => ({ points }),
    stays: ({ pedals }) => ({ pedals }),
    asked: askedFrom(from),
    shotOf: (draft) => acrossOf(from, draft),
    follow: (shot, times, start, blobs) => followAcross(view.session.id, shot, times, start, blobs),
    rpm: (followed) => followed.read.sample.cadence_rpm,
  });
  const { session, queries, shown, shot, source, draft, open, clip, working } = bench;
  const find = () =>
    working("Looking for dots…", async () => {
      if (!shot || !shown.current || (shot.marks ?? []).length === 0) return;
      const answered = await findAcross(shot, await pictureOf(shown.current, draft.size));
      bench.setFound(answered);
      bench.edit({ ...withFound(draft, answered.marks), start: clip.frame });
    });
  const keep = () =>
    working("Keeping…", async () => {
      if (!shot || !source || !open || !clip.followed) return;
      const id = newId();
      const { followed } = clip.followed;
      const takes = await keepAcross(session, id, source.name, { shot, times: clip.real, followed });
      queries.setQueryData(takesQuery(session).queryKey, takes);
      await bench.picture(id);
      const also = bench.pictured ? ", with the picture" : "";
      bench.setSaid(`Kept as a take${also}: what it shows is written down on the page Takes.`);
    });
  return { ...bench, find, keep };
}
