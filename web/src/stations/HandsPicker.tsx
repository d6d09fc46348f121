import { chakra } from "@chakra-ui/react";
import type { Catalogue, HandPlace, SessionView } from "../api/types";
import { barOf } from "./fields";

interface HandsPickerProps {
  view: SessionView;
  catalogue: Catalogue;
  onPick: (place: HandPlace) => void;
}

/** Where the hands are looked at: angles of the upper body belong to one place. */
export function HandsPicker({ view, catalogue, onPick }: HandsPickerProps) {
  const places = catalogue.bars.find((b) => b.bar === barOf(view.input.setup))?.places ?? [];
  if (places.length < 2) return null;
  return (
    <chakra.div marginTop="10px" fontSize="15px">
      <label htmlFor="hands">Torso and arms are read on the</label>
      <select
        id="hands"
        className="plain-select"
        value={view.now.after.hands}
        onChange={(event) => {
          const chosen = places.find((p) => p.place === event.target.value);
          if (chosen) onPick(chosen.place);
        }}
      >
        {places.map((place) => (
          <option key={place.place} value={place.place}>
            {place.word}
          </option>
        ))}
      </select>
    </chakra.div>
  );
}
