import { Button } from "@chakra-ui/react";
import { useQueryClient } from "@tanstack/react-query";
import { useRef, useState } from "react";
import { words } from "../api/client";
import { sessionQuery, takesQuery } from "../api/queries";
import type { Catalogue, ClipFollowed, FilmRead, SessionView } from "../api/types";
import { Keycap } from "../ui/Keycap";
import { useKeys } from "../ui/keys";
import { KeysDialog } from "../ui/KeysDialog";
import { Asides } from "./Asides";
import { frameTimes, middleOf, pictureOf, seek } from "./clip";
import { Overlay } from "./Overlay";
import { ASKED, JOINTS, nextOf, type Pixel, shotOf } from "./points";
import { ClipResults, StillResults } from "./Results";
import { dotsOf, findDots, followClip, keepClip, keepStill, keepValues } from "./sends";
import { Stage } from "./Stage";
import { useDraft } from "./useDraft";
import { useRead } from "./useRead";

/** What will not open, and what to do about it. */
const NOT_OPEN = {
  clip: "This clip’s format does not open here. Save it as H.264 on the phone.",
  still: "This picture does not open here. Save it as JPEG or PNG: HEIC and PDF do not open.",
};

const isClipFile = (file: File) => file.type.startsWith("video/") || /\.(mp4|mov|webm|m4v|mkv)$/i.test(file.name);

/** One picture or clip on the bench. */
export function Bench({ view, catalogue }: { view: SessionView; catalogue: Catalogue }) {
  const session = view.session.id;
  const queries = useQueryClient();
  const input = useRef<HTMLInputElement>(null);
  const shown = useRef<HTMLVideoElement | HTMLImageElement>(null);
  const stop = useRef<AbortController>(undefined);
  const { draft, edit, place, takeBack, forget } = useDraft(session, 2 * view.bike.frame.wheel_radius_mm);
  const [source, setSource] = useState<{ url: string; isClip: boolean; name: string }>();
  const [picked, setPicked] = useState<string>();
  const [wrong, setWrong] = useState<string>();
  const [said, setSaid] = useState<string>();
  const [busy, setBusy] = useState<string>();
  const [found, setFound] = useState<FilmRead>();
  const [times, setTimes] = useState<number[]>([]);
  const [frame, setFrame] = useState(0);
  const [clip, setClip] = useState<ClipFollowed>();
  const [keysOpen, setKeysOpen] = useState(false);
  const shot = source ? shotOf(draft) : undefined;
  const { read, problem } = useRead(session, shot);
  const next = nextOf(draft.points);
  const open = view.session.state === "open" && view.session.now != null;

  const choose = (file: File) => {
    if (source) URL.revokeObjectURL(source.url);
    setWrong(undefined);
    setSaid(undefined);
    setFound(undefined);
    setClip(undefined);
    setTimes([]);
    setFrame(0);
    setPicked(undefined);
    // The points of the same file are there again after a reload; those of another are not its.
    if (file.name !== draft.name) forget(file.name);
    setSource({ url: URL.createObjectURL(file), isClip: isClipFile(file), name: file.name });
  };
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
  const put = (key: string | undefined, at: Pixel) => {
    const own = key ?? picked ?? next?.key;
    if (!own) return;
    setClip(undefined);
    setSaid(undefined);
    place(own, at);
    setPicked(key === undefined && picked === undefined ? undefined : own);
    if (key === undefined) setPicked(undefined);
  };
  const find = () =>
    working("Looking for dots…", async () => {
      if (!shot || !shown.current) return;
      const marks = shot.marks ?? [];
      // One clicked joint is taken for a dot's middle; the others are found by it.
      const asked = {
        ...shot,
        marks:
          marks.filter((mark) => mark.dot).length > 0
            ? marks
            : marks.slice(0, 1).map((mark) => ({ ...mark, dot: true })),
      };
      const answered = await findDots(session, asked, await pictureOf(shown.current, draft.size));
      setFound(answered);
      edit({
        points: { ...draft.points, ...Object.fromEntries(answered.marks.map(({ part, at }) => [part, at as Pixel])) },
        dots: answered.marks.filter((mark) => mark.dot).map((mark) => mark.part),
        start: frame,
      });
    });
  const show = (to: number) => {
    const video = shown.current;
    if (!(video instanceof HTMLVideoElement) || times.length === 0) return;
    const at = Math.min(times.length - 1, Math.max(0, to));
    setFrame(at);
    void seek(video, middleOf(times, at));
  };
  const ready = (size: Pixel) => {
    if (size[0] !== draft.size[0] || size[1] !== draft.size[1]) edit({ size });
    const video = shown.current;
    if (!(video instanceof HTMLVideoElement) || times.length > 0 || busy) return;
    void working("Playing it through once, for when its frames are…", async () => {
      stop.current = new AbortController();
      const all = await frameTimes(
        video,
        (share) => setBusy(`Playing it through once: ${Math.round(100 * share)} %`),
        stop.current.signal,
      );
      setTimes(all);
      setFrame(0);
      await seek(video, middleOf(all, 0));
    });
  };
  const follow = () =>
    working("Following…", async () => {
      const video = shown.current;
      const learnt = found?.learnt;
      if (!shot || !(video instanceof HTMLVideoElement) || !learnt) return;
      stop.current = new AbortController();
      const { signal } = stop.current;
      const blobs = [];
      const under: Promise<unknown>[] = [];
      for (const [index] of times.entries()) {
        if (signal.aborted) return;
        await seek(video, middleOf(times, index));
        const sent = dotsOf(learnt, await pictureOf(video, draft.size));
        blobs.push(sent);
        // Two on their way at a time.
        under.push(sent);
        if (under.length > 1) await under.shift();
        setBusy(`Finding dots: ${index + 1} of ${times.length} frames`);
      }
      const answered = await followClip(session, shot, times, draft.start ?? frame, await Promise.all(blobs));
      setClip(answered);
      await seek(video, middleOf(times, frame));
    });
  const side = draft.facesLeft ? "left" : "right";
  const keep = () =>
    working("Keeping…", async () => {
      if (!shot || !source || !open) return;
      const values = clip ? clip.read.values : (read?.values ?? []);
      const kept = values.filter((value) => value.output != null);
      if (kept.length === 0 && !clip) {
        setWrong(
          "Nothing to keep yet: the joints are missing, or the crank stands between the four places that are looks.",
        );
        return;
      }
      const perSide = (value: (typeof values)[number]) =>
        catalogue.outputs.find(({ output }) => output === value.output)?.per_side ?? false;
      const takes = clip
        ? await keepClip(session, source.name, { shot, times, followed: clip.followed })
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
  const turn = clip ? 60 / clip.read.cadence_rpm : 0.7;
  const stroke = (way: 1 | -1) => {
    const to = (times[frame] ?? 0) + way * turn;
    show(
      times.reduce((best, time, index) => (Math.abs(time - to) < Math.abs((times[best] ?? 0) - to) ? index : best), 0),
    );
  };
  const numbered = [...JOINTS, "bb"];
  useKeys({
    "?": () => setKeysOpen(true),
    Enter: () => void keep(),
    d: () => void find(),
    Escape: () => {
      stop.current?.abort();
      setPicked(undefined);
    },
    "Ctrl+z": takeBack,
    ArrowLeft: nudge(-1, 0),
    ArrowRight: nudge(1, 0),
    ArrowUp: nudge(0, -1),
    ArrowDown: nudge(0, 1),
    ",": () => show(frame - 1),
    ".": () => show(frame + 1),
    PageUp: () => stroke(-1),
    PageDown: () => stroke(1),
    ...Object.fromEntries(numbered.map((key, index) => [String(index + 1), () => setPicked(key)])),
  });

  return (
    <main
      onDragOver={(event) => event.preventDefault()}
      onDrop={(event) => {
        event.preventDefault();
        const file = event.dataTransfer.files[0];
        if (file) choose(file);
      }}
    >
      <div className="left">
        <input
          ref={input}
          type="file"
          accept="image/jpeg,image/png,image/webp,video/*,.mov"
          aria-label="A photo or a clip from the side"
          className="visually-hidden"
          tabIndex={-1}
          onChange={(event) => {
            const file = event.target.files?.[0];
            event.target.value = "";
            if (file) choose(file);
          }}
        />
        {source ? (
          <Stage
            key={source.url}
            shown={shown}
            url={source.url}
            isClip={source.isClip}
            draft={draft}
            picked={picked ?? next?.key}
            rejected={found?.rejected ?? []}
            onPick={setPicked}
            onPlace={put}
            onReady={ready}
            onBroken={() => {
              setSource(undefined);
              setWrong(source.isClip ? NOT_OPEN.clip : NOT_OPEN.still);
            }}
          />
        ) : (
          <div className="empty">
            <p>
              A photo or a clip of the rider from the side, square to the bike, both wheels in view. Dots on the joints
              are found by themselves; without dots the joints are clicked.
            </p>
            <Button variant="solid" onClick={() => input.current?.click()}>
              Choose a photo or a clip
            </Button>
            {Object.keys(draft.points).length > 0 && (
              <p>
                The points of <b>{draft.name}</b> are kept in this browser: choose it again to go on with them.
              </p>
            )}
          </div>
        )}
        <p className="privacy">Pictures stay in this browser’s memory. Kept are points and figures.</p>
        {source && <Asides draft={draft} onEdit={edit} isClip={source.isClip} />}
      </div>
      <div className="right">
        {source && (
          <section className="card next" aria-live="polite">
            <h2 className="visually-hidden">What to do next</h2>
            {busy ? (
              <>
                <p className="large" role="status">
                  {busy}
                </p>
                <Button onClick={() => stop.current?.abort()}>Stop</Button>
              </>
            ) : (
              <p className="large">
                {instruction(next?.label, Boolean(picked), labelOf(picked), source.isClip && !clip)}
              </p>
            )}
            {!busy && (
              <div className="buttons">
                <Button
                  onClick={() => void find()}
                  disabled={!shot || !draft.points.bb || (shot.marks ?? []).length === 0}
                >
                  Find the other dots <Keycap>D</Keycap>
                </Button>
                {source.isClip && (
                  <Button variant="solid" disabled={!found?.learnt || times.length === 0} onClick={() => void follow()}>
                    Follow through the clip
                  </Button>
                )}
                <Button onClick={() => input.current?.click()}>Another file</Button>
              </div>
            )}
            {source.isClip && times.length > 0 && (
              <p className="soft">
                Frame {frame + 1} of {times.length} <Keycap>,</Keycap> <Keycap>.</Keycap>
              </p>
            )}
          </section>
        )}
        {wrong && (
          <p className="number-error" role="alert">
            {wrong}
          </p>
        )}
        {problem && <p className="number-error">{problem}</p>}
        {clip ? (
          <ClipResults clip={clip} side={side} />
        ) : (
          read && <StillResults read={read} found={found} side={side} />
        )}
        {said && <p role="status">{said}</p>}
        {source && open && (clip || read) && !busy && (
          <Button variant="solid" className="keep" onClick={() => void keep()}>
            Keep as seen <Keycap>Enter</Keycap>
          </Button>
        )}
        <Overlay session={session} now={clip ? undefined : read} />
      </div>
      {keysOpen && <KeysDialog onClose={() => setKeysOpen(false)} />}
    </main>
  );
}

const labelOf = (key: string | undefined) => ASKED.find((ask) => ask.key === key)?.label;

function instruction(next: string | undefined, picking: boolean, picked: string | undefined, clip: boolean): string {
  if (picking && picked) return `Place: ${picked}`;
  if (next) return `Click: ${next}`;
  return clip ? "Find the dots, then follow them" : "Every point stands: drag or nudge, then keep";
}
