import { useState } from "react";
import { detail } from "../api/client";
import type { SessionView } from "../api/types";
import { NumberField } from "../ui/NumberField";
import { changeSession } from "./sends";
import type { Write } from "./useSession";

interface EffortProps {
  view: SessionView;
  write: Write;
  readOnly: boolean;
}

/** The effort of the session's tests: power and cadence together. */
export function Effort({ view, write, readOnly }: EffortProps) {
  const { effort } = view.session;
  const [typed, setTyped] = useState<{ power_w?: number; cadence_rpm?: number }>({});
  const save = async (next: { power_w?: number; cadence_rpm?: number }) => {
    setTyped(next);
    const power_w = next.power_w ?? effort?.power_w;
    const cadence_rpm = next.cadence_rpm ?? effort?.cadence_rpm;
    if (power_w === undefined || cadence_rpm === undefined) return undefined;
    const error = await write(changeSession({ effort: { power_w, cadence_rpm } }));
    return detail(error);
  };
  return (
    <>
      <NumberField
        label="Effort"
        spec={{ unit: "w", step: 10, fine_step: 1 }}
        value={typed.power_w ?? effort?.power_w}
        readOnly={readOnly}
        onCommit={(power_w) => save({ ...typed, power_w })}
      />
      <NumberField
        label="at"
        spec={{ unit: "rpm", step: 5, fine_step: 1 }}
        value={typed.cadence_rpm ?? effort?.cadence_rpm}
        readOnly={readOnly}
        onCommit={(cadence_rpm) => save({ ...typed, cadence_rpm })}
      />
    </>
  );
}
