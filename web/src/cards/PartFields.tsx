import type { Quantity, Side } from "../api/types";
import { held, keyOf, specOf } from "../fit/fields";
import { useFit } from "../fit/useFit";
import { NumberField } from "../ui/NumberField";

/** Parts of the bike on the bench as fields: what is typed is a reading of it. */
export function PartFields({ quantities }: { quantities: Quantity[] }) {
  const { view, catalogue, finished, bikeReading } = useFit();
  return (
    <div className="field-grid">
      {quantities.flatMap((quantity) => {
        const spec = specOf(catalogue, quantity);
        if (!spec) return [];
        const sides: (Side | null)[] = spec.per_side ? ["left", "right"] : [null];
        return sides.map((side) => (
          <NumberField
            key={keyOf(quantity, side)}
            label={side ? `${spec.label}, ${side}` : spec.label}
            fieldKey={keyOf(quantity, side)}
            spec={spec}
            value={held(view.input.setup, quantity, side ?? "right")}
            placeholder={spec.optional ? "not known" : undefined}
            readOnly={finished}
            onCommit={(value) => bikeReading(quantity, side, value)}
          />
        ));
      })}
    </div>
  );
}
