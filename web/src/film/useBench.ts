/** What is on the film bench from the side and what can be done with it. */
import { useQueryClient } from "@tanstack/react-query";
import { useRef, useState } from "react";
import { newId } from "../api/client";
import { sessionQuery, takesQuery } from "../api/queries";
import type { Catalogue, ClipFollowed, FilmRead, SessionView } from "../api/types";
import { pictureOf } from "./clip";
import { ASKED, beginning, type Draft, nextOf, type Pixel, settled, shotOf } from "./points";
import { findDots, followClip, keepClip, keepPicture, keepStill, keepValues } from "./sends";
import { nudged } from "./nudged";
import { useClip } from "./useClip";
import { useDraft } from "./useDraft";
import { useRead } from "./useRead";
import { useSource } from "./useSource";
import { useWorking } from "./useWorking";

export function useBench(view: SessionView, catalogue: Catalogue) {
  const session = view.session.id;
  const queries = useQueryClient();
  const shown = useRef<HTMLVideoElement | HTMLImageElement>(null);
  const begin = beginning(2 * view.bike.frame.wheel_radius_mm);
  const { draft, edit, place, takeBack, forget } = useDraft<Draft>(`film.${session}`, begin, settled, ({ wheel }) => ({
    wheel,
  }));
  const { source, put: putSource, away } = useSource();
  const { busy, say, wrong, setWrong, said, setSaid, working } = useWorking();
  const [picked, setPicked] = useState<string>();
  const [pictured, setPictured] = useState(false);
  const [found, setFound] = useState<FilmRead>();
  const shot = source ? shotOf(draft) : undefined;
  const { read, problem } = useRead(session, shot);
  const next = nextOf(ASKED, draft.points);
  const open = view.session.state === "open" && view.session.now != null;
  const clip = useClip<ClipFollowed>({
    ...{ shown, draft, working, say, busy },
    learnt: found?.learnt ?? undefined,
    send: shot && ((times, start, blobs) => followClip(session, shot, times, start, blobs)),
    rpm: (followed) => followed.read.cadence_rpm,
  });

  const choose = (file: File) => {
    setWrong(undefined);
    setSaid(undefined);
    setFound(undefined);
    setPicked(undefined);
    clip.forget();
    // The points of the same file are there again after a reload; those of another are not its.
    if (file.name !== draft.name) forget(file.name);
    putSource(file);
  };
  /** What will not open is put away again. */
  const broken = (words: string) => {
    away();
    setWrong(words);
  };
  const put = (key: string | undefined, at: Pixel) => {
    const own = key ?? picked ?? next?.key;
    if (!own) return;
    clip.stale();
    setSaid(undefined);
    place(own, at);
    setPicked(key);
  };
  const find = () =>
    working("Looking for dots…", async () => {
      if (!shot || !shown.current) return;
      const marks = shot.marks ?? [];
      // One clicked joint is taken for a dot’s middle; the others are found by it.
      const one = marks.slice(0, 1).map((mark) => ({ ...mark, dot: true }));
      const asked = { ...shot, marks: marks.some((mark) => mark.dot) ? marks : one };
      const answered = await findDots(session, asked, await pictureOf(shown.current, draft.size));
      setFound(answered);
      edit({
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
        setWrong(
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
      if (pictured && shown.current) {
        await keepPicture(id, await pictureOf(shown.current, draft.size));
        await queries.invalidateQueries({ queryKey: ["takes", session] });
      }
      setSaid(`Kept: ${kept.length} readings of the ${side} side, by film${pictured ? ", and the picture" : ""}.`);
    });
  const nudge = nudged(draft, picked, ASKED, (key, at) => {
    place(key, at);
    setPicked(key);
  });
  return {
    ...{ session, shown, draft, edit, takeBack, source, picked, setPicked, wrong, said, busy, found, shot },
    ...{ read, problem, next, open, clip, choose, broken, put, find, side, keep, nudge, pictured, setPictured },
  };
}
