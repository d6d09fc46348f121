import { Button } from "@chakra-ui/react";
import { useRef, useState } from "react";
import type { Catalogue, SessionView } from "../api/types";
import { dropped, FileInput } from "../ui/FileInput";
import { Keycap } from "../ui/Keycap";
import { useKeys } from "../ui/keys";
import { KeysDialog } from "../ui/KeysDialog";
import { Asides } from "./Asides";
import { Overlay } from "./Overlay";
import { ASKED, JOINTS } from "./points";
import { ClipResults, StillResults } from "./Results";
import { Stage } from "./Stage";
import { useBench } from "./useBench";

/** What will not open, and what to do about it. */
const NOT_OPEN = {
  clip: "This clip’s format does not open here. Save it as H.264 on the phone.",
  still: "This picture does not open here. Save it as JPEG or PNG: HEIC and PDF do not open.",
};
const NUMBERED = [...JOINTS, "bb"];

/** One picture or clip on the bench. */
export function Bench({ view, catalogue }: { view: SessionView; catalogue: Catalogue }) {
  const bench = useBench(view, catalogue);
  const { session, shown, draft, edit, source, picked, setPicked, wrong, said, busy, found, read, next, clip } = bench;
  const input = useRef<HTMLInputElement>(null);
  const [keysOpen, setKeysOpen] = useState(false);
  useKeys({
    "?": () => setKeysOpen(true),
    Enter: () => void bench.keep(),
    d: () => void bench.find(),
    Escape: () => {
      clip.stop();
      setPicked(undefined);
    },
    "Ctrl+z": bench.takeBack,
    ArrowLeft: bench.nudge(-1, 0),
    ArrowRight: bench.nudge(1, 0),
    ArrowUp: bench.nudge(0, -1),
    ArrowDown: bench.nudge(0, 1),
    ",": () => clip.show(clip.frame - 1),
    ".": () => clip.show(clip.frame + 1),
    PageUp: () => clip.stroke(-1),
    PageDown: () => clip.stroke(1),
    ...Object.fromEntries(NUMBERED.map((key, index) => [String(index + 1), () => setPicked(key)])),
  });

  return (
    <main {...dropped(bench.choose)}>
      <div className="left">
        <FileInput
          input={input}
          label="A photo or a clip from the side"
          accept="image/jpeg,image/png,image/webp,video/*,.mov"
          onFile={bench.choose}
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
            onPlace={bench.put}
            onReady={(size) => {
              if (size[0] !== draft.size[0] || size[1] !== draft.size[1]) edit({ size });
              clip.ready();
            }}
            onBroken={() => bench.broken(source.isClip ? NOT_OPEN.clip : NOT_OPEN.still)}
          />
        ) : (
          <Empty
            name={Object.keys(draft.points).length > 0 ? draft.name : undefined}
            onChoose={() => input.current?.click()}
          />
        )}
        <p className="privacy">Pictures stay in this browser’s memory. Kept are points and figures.</p>
        {source && <Asides draft={draft} onEdit={edit} isClip={source.isClip} />}
      </div>
      <div className="right">
        {source && <Next bench={bench} isClip={source.isClip} onChoose={() => input.current?.click()} />}
        {wrong && (
          <p className="number-error" role="alert">
            {wrong}
          </p>
        )}
        {bench.problem && <p className="number-error">{bench.problem}</p>}
        {clip.followed ? (
          <ClipResults clip={clip.followed} side={bench.side} />
        ) : (
          read && <StillResults read={read} found={found} side={bench.side} />
        )}
        {said && <p role="status">{said}</p>}
        {source && bench.open && (clip.followed ?? read) && !busy && (
          <Button variant="solid" className="keep" onClick={() => void bench.keep()}>
            Keep as seen <Keycap>Enter</Keycap>
          </Button>
        )}
        <Overlay session={session} now={clip.followed ? undefined : read} />
      </div>
      {keysOpen && <KeysDialog onClose={() => setKeysOpen(false)} />}
    </main>
  );
}

/** Nothing is on the bench: the first step. */
function Empty({ name, onChoose }: { name: string | undefined; onChoose: () => void }) {
  return (
    <div className="empty">
      <p>
        A photo or a clip of the rider from the side, square to the bike, both wheels in view. Dots on the joints are
        found by themselves; without dots the joints are clicked.
      </p>
      <Button variant="solid" onClick={onChoose}>
        Choose a photo or a clip
      </Button>
      {name && (
        <p>
          The points of <b>{name}</b> are kept in this browser: choose it again to go on with them.
        </p>
      )}
    </div>
  );
}

interface NextProps {
  bench: ReturnType<typeof useBench>;
  isClip: boolean;
  onChoose: () => void;
}

/** The one thing to do now, in large type. */
function Next({ bench, isClip, onChoose }: NextProps) {
  const { busy, shot, draft, found, clip, picked, next } = bench;
  const placing = ASKED.find((ask) => ask.key === picked)?.label;
  return (
    <section className="card next" aria-live="polite">
      <h2 className="visually-hidden">What to do next</h2>
      {busy ? (
        <>
          <p className="large" role="status">
            {busy}
          </p>
          <Button onClick={clip.stop}>Stop</Button>
        </>
      ) : (
        <>
          <p className="large">{instruction(next?.label, placing, isClip && !clip.followed)}</p>
          <div className="buttons">
            <Button
              onClick={() => void bench.find()}
              disabled={!shot || !draft.points.bb || (shot.marks ?? []).length === 0}
            >
              Find the other dots <Keycap>D</Keycap>
            </Button>
            {isClip && (
              <Button
                variant="solid"
                disabled={!found?.learnt || clip.times.length === 0}
                onClick={() => void clip.follow()}
              >
                Follow through the clip
              </Button>
            )}
            <Button onClick={onChoose}>Another file</Button>
          </div>
        </>
      )}
      {isClip && clip.times.length > 0 && (
        <p className="soft">
          Frame {clip.frame + 1} of {clip.times.length} <Keycap>,</Keycap> <Keycap>.</Keycap>
        </p>
      )}
    </section>
  );
}

function instruction(next: string | undefined, placing: string | undefined, following: boolean): string {
  if (placing) return `Place: ${placing}`;
  if (next) return `Click: ${next}`;
  return following ? "Find the dots, then follow them" : "Every point stands: drag or nudge, then keep";
}
