/** What stands on the film bench, from whichever side the rider is seen: the file, its points, its clip, what is being done. */
import { useQueryClient } from "@tanstack/react-query";
import { useRef, useState } from "react";
import type { Dot, Learnt, SessionView } from "../api/types";
import { pictureOf } from "./clip";
import { nudged } from "./nudged";
import { type Ask, nextOf, type Pixel } from "./points";
import { keepPicture } from "./sends";
import { useClip } from "./useClip";
import { type Placed, useDraft } from "./useDraft";
import { useSource } from "./useSource";
import { useWorking } from "./useWorking";

/** How a rider is seen from one side: D the draft, S what goes to the server of it, F what a followed clip tells. */
interface Seeing<D extends Placed, S, F> {
  key: string;
  begin: D;
  settled: (draft: D, points: D["points"]) => Partial<D>;
  stays: (draft: D) => Partial<D>;
  asked: Ask[];
  shotOf: (draft: D) => S | undefined;
  follow: (shot: S, times: number[], start: number, blobs: Dot[][]) => Promise<F>;
  rpm: (followed: F) => number;
}

export function useShown<D extends Placed, S, F, Found extends { learnt?: Learnt | null | undefined }>(
  view: SessionView,
  seeing: Seeing<D, S, F>,
) {
  const session = view.session.id;
  const queries = useQueryClient();
  const shown = useRef<HTMLVideoElement | HTMLImageElement>(null);
  const { asked } = seeing;
  const { draft, edit, place, takeBack, forget } = useDraft<D>(seeing.key, seeing.begin, seeing.settled, seeing.stays);
  const { source, put: putSource, away } = useSource();
  const { busy, say, wrong, setWrong, said, setSaid, working } = useWorking();
  const [picked, setPicked] = useState<string>();
  const [pictured, setPictured] = useState(false);
  const [found, setFound] = useState<Found>();
  const shot = source ? seeing.shotOf(draft) : undefined;
  const next = nextOf(asked, draft.points);
  const open = view.session.state === "open" && view.session.now != null;
  const clip = useClip<F>({
    ...{ shown, draft, working, say, busy },
    learnt: found?.learnt ?? undefined,
    send: shot && ((times, start, blobs) => seeing.follow(shot, times, start, blobs)),
    rpm: seeing.rpm,
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
  const nudge = nudged(draft, picked, asked, (key, at) => {
    place(key, at);
    setPicked(key);
  });
  /** Keeps the frame with a take, where that was ticked. */
  const picture = async (take: string) => {
    if (!pictured || !shown.current) return;
    await keepPicture(take, await pictureOf(shown.current, draft.size));
    await queries.invalidateQueries({ queryKey: ["takes", session] });
  };
  return {
    ...{ session, queries, shown, asked, draft, edit, takeBack, source, picked, setPicked, wrong, setWrong, said },
    ...{ setSaid, busy, working, found, setFound, shot, next, open, clip, choose, broken, put, nudge },
    ...{ pictured, setPictured, picture },
  };
}
