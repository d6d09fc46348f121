import { Button } from "@chakra-ui/react";
import { useRef, useState } from "react";
import { Link } from "react-router";
import type { SeenFrom, SessionView } from "../api/types";
import { Choice } from "../ui/Choice";
import { dropped, FileInput } from "../ui/FileInput";
import { Keycap } from "../ui/Keycap";
import { useKeys } from "../ui/keys";
import { KeysDialog } from "../ui/KeysDialog";
import { NumberField } from "../ui/NumberField";
import { type AcrossDraft, FROM, limbsFrom } from "./across";
import { SLOW } from "./Asides";
import { benchKeys } from "./benchKeys";
import { Empty, Next, NOT_OPEN } from "./Next";
import { Pictures } from "./Pictures";
import { AcrossResults, Said } from "./Results";
import { Stage } from "./Stage";
import { useAcross } from "./useAcross";

/** A clip from ahead or behind on the bench. */
export function AcrossBench({ view, from }: { view: SessionView; from: SeenFrom }) {
  const bench = useAcross(view, from);
  const { draft, edit, source, picked, setPicked, wrong, said, busy, found, next, clip, asked } = bench;
  const input = useRef<HTMLInputElement>(null);
  const [keysOpen, setKeysOpen] = useState(false);
  const numbered = asked.map(({ key }) => key).filter((key) => key.includes("."));
  useKeys({ "?": () => setKeysOpen(true), ...benchKeys(bench, numbered) });
  const choose = () => input.current?.click();
  const { label, lead } = FROM[from];

  return (
    <main {...dropped(bench.choose)}>
      <div className="left">
        <FileInput input={input} label={`A clip, ${label.toLowerCase()}`} accept="video/*,.mov" onFile={bench.choose} />
        {source ? (
          <Stage
            key={source.url}
            shown={bench.shown}
            url={source.url}
            isClip={source.isClip}
            draft={draft}
            asked={asked}
            limbs={limbsFrom(from)}
            alt={`The rider, ${label.toLowerCase()}`}
            picked={picked ?? next?.key}
            rejected={found?.rejected ?? []}
            onPick={setPicked}
            onPlace={bench.put}
            onReady={(size) => {
              if (!source.isClip) {
                bench.broken("From here a clip is read: knees and hips are told over whole strokes.");
                return;
              }
              if (size[0] !== draft.size[0] || size[1] !== draft.size[1]) edit({ size });
              clip.ready();
            }}
            onBroken={() => bench.broken(NOT_OPEN.clip)}
          />
        ) : (
          <Empty
            name={Object.keys(draft.points).length > 0 ? draft.name : undefined}
            lead={lead}
            action="Choose a clip"
            onChoose={choose}
          />
        )}
        {source && <AcrossAsides draft={draft} onEdit={edit} />}
      </div>
      <div className="right">
        {source && (
          <Next
            busy={busy}
            onStop={clip.stop}
            placing={asked.find((ask) => ask.key === picked)?.label}
            next={next?.label}
            done="Read: keep it as a take"
            canFind={next === undefined}
            onFind={() => void bench.find()}
            clip={clip}
            canFollow={found !== undefined}
            onChoose={choose}
          />
        )}
        {wrong && (
          <p className="number-error" role="alert">
            {wrong}
          </p>
        )}
        {found && !clip.followed && <Said said={found.messages} />}
        {clip.followed && <AcrossResults read={clip.followed.read} label={label} />}
        {said && (
          <p role="status">
            {said} <Link to={`/sessions/${bench.session}/takes`}>Takes</Link>
          </p>
        )}
        {bench.open && clip.followed && !busy && (
          <Button variant="solid" className="keep" onClick={() => void bench.keep()}>
            Keep as a take <Keycap>Enter</Keycap>
          </Button>
        )}
        <Pictures view={view} on={source !== undefined} pictured={bench.pictured} onPictured={bench.setPictured} />
      </div>
      {keysOpen && <KeysDialog onClose={() => setKeysOpen(false)} />}
    </main>
  );
}

/** What is known beside the picture. */
function AcrossAsides({ draft, onEdit }: { draft: AcrossDraft; onEdit: (some: Partial<AcrossDraft>) => void }) {
  const set = (some: Partial<AcrossDraft>) => {
    onEdit(some);
    return undefined;
  };
  return (
    <section className="card asides" aria-labelledby="asides">
      <h2 id="asides">Beside the picture</h2>
      <div className="fields">
        <NumberField
          label="Camera to bike, paced"
          spec={{ unit: "mm", step: 100, fine_step: 10, min: 800, max: 12000 }}
          value={draft.distance === undefined ? undefined : draft.distance * 1000}
          onCommit={(mm) => set({ distance: mm / 1000 })}
        />
        <NumberField
          label="Lens above the floor"
          spec={{ unit: "mm", step: 50, fine_step: 10, min: 0, max: 2500 }}
          value={draft.lens}
          onCommit={(mm) => set({ lens: mm })}
        />
        <NumberField
          label="Between the pedals’ outer ends"
          spec={{ unit: "mm", step: 5, fine_step: 1, min: 200, max: 600 }}
          value={draft.pedals}
          onCommit={(mm) => set({ pedals: mm })}
        />
      </div>
      <Choice
        label="Slow motion"
        options={SLOW}
        value={String(draft.slow ?? 1)}
        onPick={(slow) => set({ slow: Number(slow ?? 1) })}
      />
    </section>
  );
}
