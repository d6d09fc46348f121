import { Button } from "@chakra-ui/react";
import { useRef, useState } from "react";
import type { Catalogue, SessionView } from "../api/types";
import { dropped, FileInput } from "../ui/FileInput";
import { Keycap } from "../ui/Keycap";
import { useKeys } from "../ui/keys";
import { KeysDialog } from "../ui/KeysDialog";
import { Asides } from "./Asides";
import { Empty, Next, NOT_OPEN } from "./Next";
import { benchKeys } from "./benchKeys";
import { Overlay } from "./Overlay";
import { Pictures } from "./Pictures";
import { ASKED, JOINTS, LIMBS } from "./points";
import { ClipResults, StillResults } from "./Results";
import { Stage } from "./Stage";
import { useBench } from "./useBench";

const NUMBERED = [...JOINTS, "bb"];

/** One picture or clip from the side on the bench. */
export function Bench({ view, catalogue }: { view: SessionView; catalogue: Catalogue }) {
  const bench = useBench(view, catalogue);
  const { session, shown, draft, edit, source, picked, setPicked, wrong, said, busy, found, read, next, clip } = bench;
  const input = useRef<HTMLInputElement>(null);
  const [keysOpen, setKeysOpen] = useState(false);
  useKeys({ "?": () => setKeysOpen(true), ...benchKeys(bench, NUMBERED) });
  const choose = () => input.current?.click();

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
            asked={ASKED}
            limbs={LIMBS}
            alt="The rider from the side"
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
            lead="A photo or a clip of the rider from the side, square to the bike, both wheels in view. Dots on the joints are found by themselves; without dots the joints are clicked."
            action="Choose a photo or a clip"
            onChoose={choose}
          />
        )}
        {source && <Asides draft={draft} onEdit={edit} isClip={source.isClip} />}
      </div>
      <div className="right">
        {source && (
          <Next
            busy={busy}
            onStop={clip.stop}
            placing={ASKED.find((ask) => ask.key === picked)?.label}
            next={next?.label}
            done="Every point stands: drag or nudge, then keep"
            canFind={bench.shot !== undefined && draft.points.bb !== undefined && (bench.shot.marks ?? []).length > 0}
            onFind={() => void bench.find()}
            clip={source.isClip ? clip : undefined}
            canFollow={found?.learnt != null}
            onChoose={choose}
          />
        )}
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
        <Pictures view={view} on={source !== undefined} pictured={bench.pictured} onPictured={bench.setPictured} />
        <Overlay
          session={session}
          now={clip.followed ? undefined : read}
          picture={source && !source.isClip && bench.shot ? { url: source.url, shot: bench.shot } : undefined}
        />
      </div>
      {keysOpen && <KeysDialog onClose={() => setKeysOpen(false)} />}
    </main>
  );
}
