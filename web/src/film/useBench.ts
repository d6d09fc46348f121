/** What is on the film bench and what can be done with it. */
import { useQueryClient } from "@tanstack/react-query";
import { useRef, useState } from "react";
import { words } from "../api/client";
import { sessionQuery, takesQuery } from "../api/queries";
import type { Catalogue, FilmRead, SessionView } from "../api/types";
import { pictureOf } from "./clip";
import { ASKED, nextOf, type Pixel, shotOf } from "./points";
import { findDots, keepClip, keepStill, keepValues } from "./sends";
import { useClip } from "./useClip";
import { useDraft } from "./useDraft";
import { useRead } from "./useRead";

const isClipFile = (file: File) => file.type.startsWith("video/") || /\.(mp4|mov|webm|m4v|mkv)$/i.test(file.name);

export function useBench(view: SessionView, catalogue: Catalogue) {
  const session = view.session.id;
  const queries = useQueryClient();
  const shown = useRef<HTMLVideoElement | HTMLImageElement>(null);
  const { draft, edit, place, takeBack, forget } = useDraft(session, 2 * view.bike.frame.wheel_radius_mm);
  const [source, setSource] = useState<{ url: string; isClip: boolean; name: string }>();
  const [picked, setPicked] = useState<string>();
  const [wrong, setWrong] = useState<string>();
  const [said, setSaid] = useState<string>();
  const [busy, setBusy] = useState<string>();
  const [found, setFound] = useState<FilmRead>();
  const shot = source ? shotOf(draft) : undefined;
  const { read, problem } = useRead(session, shot);
  const next = nextOf(draft.points);
  const open = view.session.state === "open" && view.session.now != null;

  const working = async (what: string, work: () => Promise<void>) => {
    if (busy) return;
    setBusy(what);
    setWrong(undefined);
    setSaid(undefined);
    try {
      await work();
    } catch (error) {
      setWrong(words(error));
    } finally {
      setBusy(undefined);
    }
  };
  const clip = useClip({
    session,
    shown,
    draft,
    shot,
    learnt: found?.learnt ?? undefined,
    working,
    say: setBusy,
    busy,
  });

  const choose = (file: File) => {
    if (source) URL.revokeObjectURL(source.url);
    setWrong(undefined);
    setSaid(undefined);
    setFound(undefined);
    setPicked(undefined);
    clip.forget();
    // The points of the same file are there again after a reload; those of another are not its.
    if (file.name !== draft.name) forget(file.name);
    setSource({ url: URL.createObjectURL(file), isClip: isClipFile(file), name: file.name });
  };
  /** What will not open is put away again. */
  const broken = (words_: string) => {
    setSource(undefined);
    setWrong(words_);
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
      const takes = clip.followed
        ? await keepClip(session, source.name, { shot, times: clip.real, followed: clip.followed.followed })
        : await keepStill(session, source.name, shot);
      queries.setQueryData(takesQuery(session).queryKey, takes);
      const after = await keepValues(session, kept, side, perSide);
      queries.setQueryData(sessionQuery(session).queryKey, after);
      setSaid(`Kept: ${kept.length} readings of the ${side} side, by film.`);
    });
  const nudge = (dx: number, dy: number) => (event: KeyboardEvent) => {
    const key = picked ?? ASKED.findLast((ask) => draft.points[ask.key])?.key;
    const at = key && draft.points[key];
    if (!key || !at) return;
    const by = event.shiftKey ? 0.2 : 1;
    place(key, [Math.round((at[0] + dx * by) * 10) / 10, Math.round((at[1] + dy * by) * 10) / 10]);
    setPicked(key);
  };
  return {
    ...{ session, shown, draft, edit, takeBack, source, picked, setPicked, wrong, said, busy, found, shot },
    ...{ read, problem, next, open, clip, choose, broken, put, find, side, keep, nudge },
  };
}
