import { Choice } from "../ui/Choice";
import { NumberField } from "../ui/NumberField";
import { Tick } from "../ui/Tick";
import { type Draft, JOINTS } from "./points";

/** How many times slower a clip may play than it happened. */
export const SLOW = [1, 2, 4, 8].map((slow) => ({
  key: String(slow),
  label: slow === 1 ? "as fast as it happened" : `${slow} times slower`,
}));

interface AsidesProps {
  draft: Draft;
  isClip: boolean;
  onEdit: (some: Partial<Draft>) => void;
}

/** What is known beside the picture. */
export function Asides({ draft, isClip, onEdit }: AsidesProps) {
  const set = (some: Partial<Draft>) => {
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
          label="Wheel over the tyre"
          spec={{ unit: "mm", step: 2, fine_step: 1, min: 300, max: 900 }}
          value={draft.wheel}
          onCommit={(mm) => set({ wheel: mm })}
        />
      </div>
      <Tick
        label="The rider faces left"
        on={draft.facesLeft}
        readOnly={false}
        onTick={(facesLeft) => set({ facesLeft })}
      />
      {isClip && (
        <Choice
          label="Slow motion"
          options={SLOW}
          value={String(draft.slow ?? 1)}
          onPick={(slow) => set({ slow: Number(slow ?? 1) })}
        />
      )}
      {!isClip && (
        <Tick label="Taken while pedalling" on={draft.moving} readOnly={false} onTick={(moving) => set({ moving })} />
      )}
      <Tick
        label="Joints are middles of dots"
        on={draft.dots.length > 0}
        readOnly={false}
        onTick={(on) => set({ dots: on ? JOINTS : [] })}
      />
    </section>
  );
}
