import { Picker } from "../../cards/Picker";
import { barOf } from "../../fit/fields";
import { changeSession } from "../../fit/sends";
import { useFit } from "../../fit/useFit";

/** Where the hands are looked at: angles of the upper body belong to one place. */
export function HandsPicker() {
  const { view, catalogue, post } = useFit();
  const places = catalogue.bars.find((b) => b.bar === barOf(view.input.setup))?.places ?? [];
  if (places.length < 2) return null;
  return (
    <Picker
      label="Torso and arms are read on the"
      value={view.now.after.hands}
      options={places.map((p) => ({ key: p.place, words: p.word }))}
      onPick={(hands) => void post(changeSession({ hands }))}
    />
  );
}
