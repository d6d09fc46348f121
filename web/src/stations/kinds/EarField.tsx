import { see } from "../../fit/sends";
import { useFit } from "../../fit/useFit";
import { NumberField } from "../../ui/NumberField";
import { useAero } from "./useAero";

const EAR = { unit: "mm", step: 5, fine_step: 1, min: -400, max: 400 } as const;

/** Where the ear is over the elbow on what is ridden now, as somebody saw it: kept with the look. */
export function EarField() {
  const { finished, told } = useFit();
  const { data } = useAero();
  if (finished || !data) return null;
  const seen = (ahead_mm: number | null) => told(see({ ear: { ahead_mm } }));
  return (
    <div className="ear-field">
      <NumberField
        label="Ear ahead of the elbow’s crease, as seen"
        fieldKey="ear_mm"
        spec={EAR}
        value={data.ear_mm ?? undefined}
        placeholder="not seen"
        onCommit={seen}
      />
      {data.ear_mm != null && (
        <button type="button" className="more" onClick={() => void seen(null)}>
          Take it back
        </button>
      )}
    </div>
  );
}
