import { useId, useState } from "react";
import type { Catalogue, Hurts, HurtThen } from "../api/types";
import { List } from "../ui/List";
import { NumberField } from "../ui/NumberField";
import { type Placed, Places, placed, placeWords } from "./Places";

interface HurtsProps {
  hurts: HurtThen[];
  catalogue: Catalogue;
  onHurts: (hurts: Hurts) => Promise<string | undefined>;
}

const TEN = { unit: "size", step: 1, fine_step: 1, min: 0, max: 10 } as const;

const isSame = (one: Placed, other: Placed) => one.place === other.place && one.side === other.side;

/** Where it hurts, asked again: what was said of each place last, and what is said of it now. */
export function HurtsNow({ hurts, catalogue, onHurts }: HurtsProps) {
  const id = useId();
  /** Named just now, and not rated yet. */
  const [named, setNamed] = useState<Placed[]>([]);
  const fresh = named.filter(
    (of) => !hurts.some((known) => isSame({ place: known.place, side: known.side ?? null }, of)),
  );
  const rows = [
    ...hurts.map(({ place, side, label, was, now }) => ({
      place,
      side: side ?? null,
      label,
      was,
      now: now ?? undefined,
    })),
    ...fresh.map((of) => ({ ...of, label: placeWords(catalogue, of), was: undefined, now: undefined })),
  ];
  return (
    <div className="felt hurts" role="group" aria-label="Where it hurts now">
      <span className="hands-weigh">Where it hurts now, 0 gone to 10:</span>
      {rows.map(({ place, side, label, was, now }) => (
        <div key={`${place}${side ?? ""}`} className="hurt">
          <NumberField
            label={label}
            fieldKey={`hurts.${place}.${side ?? ""}`}
            spec={TEN}
            value={now}
            hint={was ?? "new"}
            placeholder="?"
            onCommit={(how_bad) => onHurts({ place, side, how_bad })}
          />
        </div>
      ))}
      <List
        id={id}
        label="It hurts somewhere new"
        value=""
        onPick={(key) => setNamed((all) => [...all.filter((of) => !isSame(of, placed(key))), placed(key)])}
      >
        <option value="">it hurts somewhere new…</option>
        <Places catalogue={catalogue} />
      </List>
    </div>
  );
}
