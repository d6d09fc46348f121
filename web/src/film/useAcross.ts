/** A clip from ahead or behind on the film bench and what can be done with it. */
import { useQueryClient } from "@tanstack/react-query";
import { useRef, useState } from "react";
import { newId } from "../api/client";
import { takesQuery } from "../api/queries";
import type { AcrossFollowed, AcrossFound, SeenFrom, SessionView } from "../api/types";
import { type AcrossDraft, acrossOf, askedFrom, beginning, withFound } from "./across";
import { pictureOf } from "./clip";
import { nudged } from "./nudged";
import { nextOf, type Pixel } from "./points";
import { findAcross, followAcross, keepAcross, keepPicture } from "./sends";
import { useClip } from "./useClip";
import { useDraft } from "./useDraft";
import { useSource } from "./useSource";
import { useWorking } from "./useWorking";

export function useAcross(view: SessionView, from: SeenFrom) {
  const session = view.session.id;
  const queries = useQueryClient();
  const shown = useRef<HTMLVideoElement | HTMLImageElement>(null);
  const { draft, edit, place, takeBack, forget } = useDraft<AcrossDraft>(
    `film.${session}.${from}`,
    beginning,
    (_, points) => ({ points }),
    ({ pedals }) => ({ pedals }),
  );
  const { source, put: putSource, away } = useSource();
  const { busy, say, wrong, setWrong, said, setSaid, working } = useWorking();
  const [picked, setPicked] = useState<string>();
  const [pictured, setPictured] = useState(false);
  const [found, setFound] = useState<AcrossFound>();
  const asked = askedFrom(from);
  const shot = source ? acrossOf(from, draft) : undefined;
  const next = nextOf(asked, draft.points);
  const open = view.session.state === "open" && view.session.now != null;
  const clip = useClip<AcrossFollowed>({
    ...{ shown, draft, working, say, busy },
    learnt: found?.learnt,
    send: shot && ((times, start, blobs) => followAcross(session, shot, times, start, blobs)),
    rpm: (followed) => followed.read.sample.cadence_rpm,
  });

  const choose = (file: File) => {
    setWrong(undefined);
    setSaid(undefined);
    setFound(undefined);
    setPicked(undefined);
    clip.forget();
    if (file.name !== draft.name) forget(file.name);
    putSource(file);
  };
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
      if (!shot || !shown.current || (shot.marks ?? []).length === 0) return;
      const answered = await findAcross(shot, await pictureOf(shown.current, draft.size));
      setFound(answered);
      edit({ ...withFound(draft, answered.marks), start: clip.frame });
    });
  const keep = () =>
    working("Keeping…", async () => {
      if (!shot || !source || !open || !clip.followed) return;
      const id = newId();
      const { followed } = clip.followed;
      await keepAcross(session, id, source.name, { shot, times: clip.real, followed });
      if (pictured && shown.current) await keepPicture(id, await pictureOf(shown.current, draft.size));
      await queries.invalidateQueries({ queryKey: takesQuery(session).queryKey });
      setSaid(
        `Kept as a take${pictured ? ", with the picture" : ""}: what it shows is written down on the page Takes.`,
      );
    });
  const nudge = nudged(draft, picked, asked, (key, at) => {
    place(key, at);
    setPicked(key);
  });
  return {
    ...{ session, shown, draft, edit, takeBack, source, picked, setPicked, wrong, said, busy, found, shot, asked },
    ...{ next, open, clip, choose, broken, put, find, keep, nudge, pictured, setPictured },
  };
}
