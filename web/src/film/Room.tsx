import { Button } from "@chakra-ui/react";
import { type ReactNode, useRef, useState } from "react";
import { words } from "../api/client";
import type { SessionView } from "../api/types";
import { filmHim } from "../fit/standIn";
import { dropped, FileInput } from "../ui/FileInput";
import { useKeys } from "../ui/keys";
import { KeysDialog } from "../ui/KeysDialog";
import { type Keyed, benchKeys } from "./benchKeys";
import { Empty, Next, NOT_OPEN } from "./Next";
import { Pictures } from "./Pictures";
import type { Pixel } from "./points";
import { Stage } from "./Stage";
import type { Placed } from "./useDraft";
import type { useShown } from "./useShown";

type Shown = ReturnType<typeof useShown>;
/** Of whatever side, what the room around it needs. */
interface Standing extends Keyed {
  shown: Shown["shown"];
  asked: Shown["asked"];
  source: Shown["source"];
  picked: string | undefined;
  wrong: string | undefined;
  said: string | undefined;
  busy: string | undefined;
  next: Shown["next"];
  choose: Shown["choose"];
  broken: Shown["broken"];
  put: Shown["put"];
  pictured: boolean;
  setPictured: (on: boolean) => void;
  draft: Placed;
  edit: (some: Pick<Placed, "size">) => void;
  found: { rejected: number[][] } | undefined;
  clip: Keyed["clip"] & Pick<Shown["clip"], "times" | "followed" | "follow" | "ready">;
}

interface RoomProps {
  view: SessionView;
  bench: Standing;
  /** The file's field, what it takes, and what is said while it is empty. */
  file: { label: string; accept: string; lead: string; action: string };
  limbs: [string, string][];
  alt: string;
  /** Why a picture that does not move is not read from here. */
  noStill?: string;
  numbered: string[];
  canFind: boolean;
  canFollow: boolean;
  /** What to do once every point stands. */
  done: string;
  /** What is known beside the picture. */
  aside: ReactNode;
  /** What stands behind what was said. */
  after?: ReactNode;
  /** What is read, and how it is kept. */
  children: ReactNode;
  keep: ReactNode;
  below?: ReactNode;
}

/** The bench around a picture: the file, the picture with its points, the next step, what is read of it. */
export function Room(props: RoomProps) {
  const { view, bench, file, limbs, alt, noStill, numbered, done, aside, after, children, keep, below } = props;
  const { draft, source, picked, asked, next, clip } = bench;
  const input = useRef<HTMLInputElement>(null);
  const [keysOpen, setKeysOpen] = useState(false);
  useKeys({ "?": () => setKeysOpen(true), ...benchKeys(bench, numbered) });
  const choose = () => input.current?.click();
  const ready = (isClip: boolean, size: Pixel) => {
    if (!isClip && noStill !== undefined) {
      bench.broken(noStill);
      return;
    }
    if (size[0] !== draft.size[0] || size[1] !== draft.size[1]) bench.edit({ size });
    clip.ready();
  };
  return (
    <main {...dropped(bench.choose)}>
      <div className="left">
        <FileInput input={input} label={file.label} accept={file.accept} onFile={bench.choose} />
        {source ? (
          <Stage
            key={source.url}
            shown={bench.shown}
            url={source.url}
            isClip={source.isClip}
            draft={draft}
            asked={asked}
            limbs={limbs}
            alt={alt}
            picked={picked ?? next?.key}
            rejected={bench.found?.rejected ?? []}
            onPick={bench.setPicked}
            onPlace={bench.put}
            onReady={(size) => ready(source.isClip, size)}
            onBroken={() => bench.broken(source.isClip || noStill !== undefined ? NOT_OPEN.clip : NOT_OPEN.still)}
          />
        ) : (
          <Empty
            name={Object.keys(draft.points).length > 0 ? draft.name : undefined}
            lead={file.lead}
            action={file.action}
            onChoose={choose}
          />
        )}
        {!source && noStill === undefined && view.rider.simulated && (
          <Button
            onClick={() =>
              void filmHim(view.session.id).then(bench.choose, (error: unknown) => bench.broken(words(error)))
            }
          >
            A picture of the simulated rider
          </Button>
        )}
        {source && aside}
      </div>
      <div className="right">
        {source && (
          <Next
            busy={bench.busy}
            onStop={bench.clip.stop}
            placing={asked.find((ask) => ask.key === picked)?.label}
            next={next?.label}
            done={done}
            canFind={props.canFind}
            onFind={() => void bench.find()}
            clip={source.isClip ? clip : undefined}
            canFollow={props.canFollow}
            onChoose={choose}
          />
        )}
        {bench.wrong && (
          <p className="number-error" role="alert">
            {bench.wrong}
          </p>
        )}
        {children}
        {bench.said && (
          <p role="status">
            {bench.said} {after}
          </p>
        )}
        {!bench.busy && keep}
        <Pictures view={view} on={source !== undefined} pictured={bench.pictured} onPictured={bench.setPictured} />
        {below}
      </div>
      {keysOpen && <KeysDialog onClose={() => setKeysOpen(false)} />}
    </main>
  );
}
