import { chakra } from "@chakra-ui/react";
import type { Catalogue, Conventions, Quantity, Setup } from "../api/types";
import { barOf } from "./fields";

/** What can be chosen of how a fit tapes. */
export type Pick = "saddle_height" | "setback" | "drop" | "bb_to_hand" | "sit_reference";

const QUANTITY: Record<Exclude<Pick, "sit_reference">, Quantity> = {
  saddle_height: "saddle_height_mm",
  setback: "setback_mm",
  drop: "drop_mm",
  bb_to_hand: "bb_to_hand_mm",
};

/** Conventions that end at a spot another kind of bar has. */
const ELSEWHERE = { drop: /_(grip|pad)/, flat: /_(hood|pad)/, aero: /_(hood|grip)/ };

interface ConventionPickerProps {
  pick: Pick;
  conventions: Conventions;
  setup: Setup;
  catalogue: Catalogue;
  onPick: (chosen: Partial<Conventions>) => void;
}

/** How a length is read and written in this fit. */
export function ConventionPicker({ pick, conventions, setup, catalogue, onPick }: ConventionPickerProps) {
  const id = `convention-${pick}`;
  if (pick === "sit_reference") {
    const known = catalogue.sit_references.filter(
      (r) => r.reference !== "mark" || setup.saddle.nose_to_mark_mm != null,
    );
    return (
      <chakra.div marginTop="10px" fontSize="15px">
        <label htmlFor={id}>The sit reference is</label>
        <select
          id={id}
          className="plain-select"
          value={conventions.sit_reference}
          onChange={(event) => {
            const chosen = known.find((r) => r.reference === event.target.value);
            if (chosen) onPick({ sit_reference: chosen.reference });
          }}
        >
          {known.map((r) => (
            <option key={r.reference} value={r.reference}>
              {r.words}
            </option>
          ))}
        </select>
      </chakra.div>
    );
  }
  const quantity = QUANTITY[pick];
  const spec = catalogue.quantities.find((q) => q.quantity === quantity);
  const offered = catalogue.conventions.filter(
    (c) => c.quantity === quantity && !ELSEWHERE[barOf(setup)].test(c.convention),
  );
  return (
    <chakra.div marginTop="10px" fontSize="15px">
      <label htmlFor={id}>{spec?.label} is taped</label>
      <select
        id={id}
        className="plain-select"
        value={conventions[pick]}
        onChange={(event) => {
          const chosen = offered.find((c) => c.convention === event.target.value);
          if (chosen) onPick({ [pick]: chosen.convention });
        }}
      >
        {offered.map((c) => (
          <option key={c.convention} value={c.convention}>
            {c.words}
          </option>
        ))}
      </select>
    </chakra.div>
  );
}
