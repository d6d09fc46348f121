import { Button } from "@chakra-ui/react";
import type { Catalogue, Conventions, Frame, Quantity, SessionView, Side } from "../api/types";
import { NumberField } from "../ui/NumberField";
import { FRAME } from "../riders/bikeParts";
import { held } from "./fields";

interface FoundPanelProps {
  view: SessionView;
  catalogue: Catalogue;
  readOnly: boolean;
  problem: string | undefined;
  onClose: () => void;
  onReading: (quantity: Quantity, side: Side | null, value: number) => Promise<string | undefined>;
  onFrame: (frame: Frame, quantity: Quantity) => Promise<string | undefined>;
}

const PARTS: Quantity[] = [
  "cover_mm",
  "stem_clamp_mm",
  "spacers_above_mm",
  "bar_width_mm",
  "bar_reach_mm",
  "bar_drop_mm",
  "bar_roll_deg",
  "hood_forward_mm",
  "hood_rise_mm",
  "saddle_length_mm",
  "nose_to_sit_mm",
  "pedal_stack_mm",
  "sole_mm",
  "shim_mm",
];

/** The bike as found: what is taped on the board, and the parts behind it. */
export function FoundPanel(props: FoundPanelProps) {
  const { view, catalogue, readOnly } = props;
  const closed = view.found != null;
  const specOf = (quantity: Quantity) => catalogue.quantities.find((q) => q.quantity === quantity);
  return (
    <>
      <section className="card" aria-labelledby="as-found">
        <h2 id="as-found">Bike as found</h2>
        {closed ? (
          <p className="task">Closed. Now every number you step is foreseen before a bolt is turned.</p>
        ) : (
          <>
            <p className="task">Walk the tape round the board with Tab; type what it reads.</p>
            <ul>
              {view.unknown.map((quantity) => (
                <li key={quantity}>{specOf(quantity)?.label} is not taped yet</li>
              ))}
              {view.unknown.length === 0 && <li>Drop and BB to hood follow from the parts unless you tape them.</li>}
            </ul>
            <div className="buttons">
              <Button variant="solid" disabled={view.unknown.length > 0 || readOnly} onClick={props.onClose}>
                Close bike as found
              </Button>
            </div>
          </>
        )}
        {view.question != null && (
          <p className="warn" style={{ marginTop: 8 }}>
            {view.question}
          </p>
        )}
        {view.now.steerer && view.now.steerer.words !== "" && (
          <p className="warn">Steerer: {view.now.steerer.words}.</p>
        )}
        {props.problem && (
          <p className="number-error" role="alert">
            {props.problem}
          </p>
        )}
      </section>
      <details>
        <summary>Parts</summary>
        <div className="field-grid">
          {PARTS.flatMap((quantity) => {
            const spec = specOf(quantity);
            if (!spec) return [];
            const sides: (Side | null)[] = spec.per_side ? ["left", "right"] : [null];
            return sides.map((side) => (
              <NumberField
                key={`${quantity}${side ?? ""}`}
                label={side ? `${spec.label}, ${side}` : spec.label}
                fieldKey={`${quantity}${side ? `.${side}` : ""}`}
                spec={spec}
                value={held(view.input.setup, quantity, side ?? "right")}
                readOnly={readOnly}
                onCommit={(value) => props.onReading(quantity, side, value)}
              />
            ));
          })}
        </div>
      </details>
      <details>
        <summary>Frame</summary>
        <div className="field-grid">
          {FRAME.map((quantity) => {
            const spec = specOf(quantity);
            if (!spec) return null;
            return (
              <NumberField
                key={quantity}
                label={spec.label}
                fieldKey={quantity}
                spec={spec}
                value={view.bike.frame[quantity] ?? undefined}
                placeholder="not known"
                readOnly={readOnly}
                onCommit={(value) => props.onFrame({ ...view.bike.frame, [quantity]: value }, quantity)}
              />
            );
          })}
        </div>
      </details>
    </>
  );
}

interface ConventionPickerProps {
  quantity: "saddle_height" | "setback" | "drop";
  conventions: Conventions;
  catalogue: Catalogue;
  onPick: (conventions: Conventions) => void;
}

/** How a length is read and written in this fit. */
export function ConventionPicker({ quantity, conventions, catalogue, onPick }: ConventionPickerProps) {
  const key: Quantity =
    quantity === "saddle_height" ? "saddle_height_mm" : quantity === "setback" ? "setback_mm" : "drop_mm";
  const spec = catalogue.quantities.find((q) => q.quantity === key);
  return (
    <div style={{ marginTop: 10, fontSize: 15 }}>
      <label htmlFor={`convention-${quantity}`}>{spec?.label} is taped</label>
      <select
        id={`convention-${quantity}`}
        className="plain-select"
        style={{ fontSize: 16 }}
        value={conventions[quantity]}
        onChange={(event) => {
          const chosen = catalogue.conventions.find((c) => c.convention === event.target.value);
          if (chosen) onPick({ ...conventions, [quantity]: chosen.convention });
        }}
      >
        {catalogue.conventions
          .filter((c) => c.quantity === key)
          .map((c) => (
            <option key={c.convention} value={c.convention}>
              {c.words}
            </option>
          ))}
      </select>
    </div>
  );
}
