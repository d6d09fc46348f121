import type { Catalogue, Place, Side } from "../api/types";
import { labelOf } from "../ui/labelOf";

/** A place of the body and its side, as a list of them has it. */
export interface Placed {
  place: Place;
  side: Side | null;
}

const SIDES: (Side | "")[] = ["left", "right", ""];

/** Every place, on each side where it has two, as the options of a list. */
export function Places({ catalogue }: { catalogue: Catalogue }) {
  return catalogue.words.place.flatMap((place) =>
    (place.per_side ? SIDES : ([""] as const)).map((side) => (
      <option key={`${place.key}${side}`} value={`${place.key}|${side}`}>
        {side === "" ? place.label : `${place.label}, ${side}`}
      </option>
    )),
  );
}

/** "Front of the knee, left". */
export function placeWords(catalogue: Catalogue, { place, side }: { place: Place; side?: Side | null }): string {
  const words = labelOf(catalogue.words.place, place);
  return side ? `${words}, ${side}` : words;
}

/** The place an option of that list stands for. */
export function placed(key: string): Placed {
  const [place, side] = key.split("|") as [Place, Side | ""];
  return { place, side: side === "" ? null : side };
}
