import type { Conventions, Quantity } from "../api/types";
import { barOf, specOf } from "../fit/fields";
import { changeSession } from "../fit/sends";
import type { Pick } from "../fit/station";
import { useFit } from "../fit/useFit";
import { Picker } from "./Picker";

const QUANTITY: Record<Exclude<Pick, "sit_reference">, Quantity> = {
  saddle_height: "saddle_height_mm",
  setback: "setback_mm",
  drop: "drop_mm",
  bb_to_hand: "bb_to_hand_mm",
};

/** How a length is read and written in this fit. */
export function ConventionPicker({ pick }: { pick: Pick }) {
  const { view, catalogue, post, edit } = useFit();
  const { setup } = view.input;
  const { conventions } = view.now.after;
  // What was typed was typed as it was read before.
  const choose = (chosen: Partial<Conventions>) =>
    void post(changeSession({ conventions: { ...view.session.conventions, ...chosen } })).then(() =>
      edit(() => ({ changes: [], texts: {} })),
    );
  if (pick === "sit_reference") {
    const known = catalogue.sit_references.filter(
      (r) => r.reference !== "mark" || setup.saddle.nose_to_mark_mm != null,
    );
    return (
      <Picker
        label="The sit reference is"
        value={conventions.sit_reference}
        options={known.map((r) => ({ key: r.reference, words: r.words }))}
        onPick={(sit_reference) => choose({ sit_reference })}
      />
    );
  }
  const quantity = QUANTITY[pick];
  const ofBar = catalogue.bars.find((b) => b.bar === barOf(setup))?.conventions ?? [];
  const offered = catalogue.conventions.filter((c) => c.quantity === quantity && ofBar.includes(c.convention));
  return (
    <Picker
      label={`${specOf(catalogue, quantity)?.label ?? ""} is taped`}
      value={conventions[pick]}
      options={offered.map((c) => ({ key: c.convention, words: c.words }))}
      onPick={(convention) => choose({ [pick]: convention })}
    />
  );
}
