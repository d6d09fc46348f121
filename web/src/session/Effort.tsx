import { useState } from "react";
import { changeSession } from "../fit/sends";
import { useFit } from "../fit/useFit";
import { NumberField } from "../ui/NumberField";

/** The effort of the session's tests: power and cadence together. */
export function Effort() {
  const { view, finished, told } = useFit();
  const { effort } = view.session;
  const [typed, setTyped] = useState<{ power_w?: number; cadence_rpm?: number }>({});
  const save = async (next: { power_w?: number; cadence_rpm?: number }) => {
    setTyped(next);
    const power_w = next.power_w ?? effort?.power_w;
    const cadence_rpm = next.cadence_rpm ?? effort?.cadence_rpm;
    if (power_w === undefined || cadence_rpm === undefined) return undefined;
    return told(changeSession({ effort: { power_w, cadence_rpm } }));
  };
  return (
    <>
      <NumberField
        label="Effort"
        spec={{ unit: "w", step: 10, fine_step: 1 }}
        value={typed.power_w ?? effort?.power_w}
        readOnly={finished}
        onCommit={(power_w) => save({ ...typed, power_w })}
      />
      <NumberField
        label="at"
        spec={{ unit: "rpm", step: 5, fine_step: 1 }}
        value={typed.cadence_rpm ?? effort?.cadence_rpm}
        readOnly={finished}
        onCommit={(cadence_rpm) => save({ ...typed, cadence_rpm })}
      />
    </>
  );
}
