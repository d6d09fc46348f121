import type { ReactNode } from "react";
import { Choice } from "../ui/Choice";
import { NumberField } from "../ui/NumberField";
import { Tick } from "../ui/Tick";
import { type Draft, JOINTS } from "./points";
import type { Placed } from "./useDraft";

const SLOW = [1, 2, 4, 8].map((slow) => ({
  key: String(slow),
  label: slow === 1 ? "as fast as it happened" : `${slow} times slower`,
}));

interface CameraProps {
  draft: Placed;
  onEdit: (some: Pick<Placed, "distance"> | Pick<Placed, "lens"> | Pick<Placed, "slow">) => void;
}

/** How many times slower a clip plays than it happened. */
export function Slow({ draft, onEdit }: CameraProps) {
  return (
    <Choice
      label="Slow motion"
      options={SLOW}
      value={String(draft.slow ?? 1)}
      onPick={(slow) => onEdit({ slow: Number(slow ?? 1) })}
    />
  );
}

interface BesideProps extends CameraProps {
  /** What else is taped. */
  field: ReactNode;
  children: ReactNode;
}

/** What is known beside the picture: where the camera stood, and what else. */
export function Beside({ draft, onEdit, field, children }: BesideProps) {
  return (
    <section className="card asides" aria-labelledby="asides">
      <h2 id="asides">Beside the picture</h2>
      <div className="fields">
        <NumberField
          label="Camera to bike, paced"
          spec={{ unit: "mm", step: 100, fine_step: 10, min: 800, max: 12000 }}
          value={draft.distance === undefined ? undefined : draft.distance * 1000}
          onCommit={(mm) => {
            onEdit({ distance: mm / 1000 });
            return undefined;
          }}
        />
        <NumberField
          label="Lens above the floor"
          spec={{ unit: "mm", step: 50, fine_step: 10, min: 0, max: 2500 }}
          value={draft.lens}
          onCommit={(lens) => {
            onEdit({ lens });
            return undefined;
          }}
        />
        {field}
      </div>
      {children}
    </section>
  );
}

interface AsidesProps {
  draft: Draft;
  isClip: boolean;
  onEdit: (some: Partial<Draft>) => void;
}

/** What is known beside a picture from the side. */
export function Asides({ draft, isClip, onEdit }: AsidesProps) {
  return (
    <Beside
      draft={draft}
      onEdit={onEdit}
      field={
        <NumberField
          label="Wheel over the tyre"
          spec={{ unit: "mm", step: 2, fine_step: 1, min: 300, max: 900 }}
          value={draft.wheel}
          onCommit={(wheel) => {
            onEdit({ wheel });
            return undefined;
          }}
        />
      }
    >
      <Tick
        label="The rider faces left"
        on={draft.facesLeft}
        readOnly={false}
        onTick={(facesLeft) => onEdit({ facesLeft })}
      />
      {isClip ? (
        <Slow draft={draft} onEdit={onEdit} />
      ) : (
        <Tick
          label="Taken while pedalling"
          on={draft.moving}
          readOnly={false}
          onTick={(moving) => onEdit({ moving })}
        />
      )}
      <Tick
        label="Joints are middles of dots"
        on={draft.dots.length > 0}
        readOnly={false}
        onTick={(on) => onEdit({ dots: on ? JOINTS : [] })}
      />
    </Beside>
  );
}
