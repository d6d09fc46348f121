import type { Catalogue, Length, Quantity, SessionView, Side } from "../api/types";
import { number } from "../ui/format";
import { NumberField } from "../ui/NumberField";

interface BodyPanelProps {
  view: SessionView;
  catalogue: Catalogue;
  readOnly: boolean;
  onReading: (quantity: Quantity, side: Side | null, value: number) => Promise<string | undefined>;
}

const WHOLE: Quantity[] = [
  "stature_mm",
  "mass_kg",
  "inseam_mm",
  "trunk_mm",
  "shoulder_breadth_mm",
  "upper_arm_mm",
  "forearm_mm",
];
const EACH: Quantity[] = ["thigh_mm", "shank_mm", "ankle_height_mm", "foot_length_mm"];

function lengthOf(view: SessionView, quantity: Quantity, side: Side): Length | undefined {
  const { legs, ...whole } = view.now.lengths;
  return [...Object.values(whole), ...Object.values(legs[side])].find(
    (value): value is Length => typeof value === "object" && value.quantity === quantity,
  );
}

/** The body: what is measured, and what is estimated until it is. */
export function BodyPanel({ view, catalogue, readOnly, onReading }: BodyPanelProps) {
  const field = (quantity: Quantity, side: Side | null) => {
    const spec = catalogue.quantities.find((q) => q.quantity === quantity);
    if (!spec) return null;
    const reading = view.rider.readings.findLast((r) => r.quantity === quantity && (r.side == null || r.side === side));
    const length = lengthOf(view, quantity, side ?? "right");
    const estimate =
      length && length.source === "estimated"
        ? `≈ ${number(length.value_mm)} ± ${number(length.spread_mm)}`
        : undefined;
    return (
      <NumberField
        key={`${quantity}${side ?? ""}`}
        label={side ? `${spec.label}, ${side}` : spec.label}
        fieldKey={`${quantity}${side ? `.${side}` : ""}`}
        spec={spec}
        value={reading?.value}
        placeholder={estimate ?? "not measured"}
        readOnly={readOnly}
        onCommit={(value) => onReading(quantity, side, value)}
      />
    );
  };
  return (
    <>
      <div className="field-grid">{WHOLE.map((quantity) => field(quantity, null))}</div>
      <h3 style={{ marginTop: 14, fontSize: 16 }}>Legs, left and right</h3>
      <div className="field-grid">
        {EACH.flatMap((quantity) => [field(quantity, "left"), field(quantity, "right")])}
      </div>
      <p className="number-hint" style={{ marginTop: 8 }}>
        ≈ is an estimate from stature and inseam, with its spread. Measuring replaces it.
      </p>
    </>
  );
}
