import { asked, boardFields, reads, stationFields, specOf } from "../fit/fields";
import { useFit } from "../fit/useFit";
import { number } from "../ui/format";
import { NumberField } from "../ui/NumberField";

/** More fields than this are folded away. */
const MOST_OPEN = 20;

/** The further bolts and parts of a station: stepping one is foreseen like any dimension of the board. */
export function Bolts() {
  const { view, catalogue, station, foresight, changes, draft, setText, target, stepTo, begin, tried } = useFit();
  const onBoard = boardFields(view.input.setup);
  const fields = stationFields(view.input.setup, catalogue, station.quantities).filter(
    (field) => !onBoard.some((other) => other.key === field.key),
  );
  if (fields.length === 0) return null;
  return (
    <details open={fields.length <= MOST_OPEN || fields.some((field) => asked(changes, field) !== undefined)}>
      <summary>Further bolts here</summary>
      <div className="field-grid">
        {fields.map((field) => {
          const spec = specOf(catalogue, field.quantity);
          if (!spec) return null;
          const now = reads(field, view.now.after, view.input.setup, catalogue);
          const value = asked(changes, field) ?? reads(field, foresight.after, foresight.setup, catalogue);
          const changed = tried(field) !== undefined;
          return (
            <NumberField
              key={field.key}
              label={field.side ? `${spec.label}, ${field.side}` : spec.label}
              fieldKey={field.key}
              className={changed ? "foreseen" : undefined}
              spec={spec}
              value={value}
              before={changed && now !== undefined ? number(now, spec.unit) : undefined}
              typed={draft.texts[field.key]}
              onTyped={(text) => setText(field.key, text)}
              onCommit={(typed) => {
                target(field, typed);
                return undefined;
              }}
              onStep={(stepped) => stepTo(field, stepped)}
              onEnterAgain={begin}
            />
          );
        })}
      </div>
    </details>
  );
}
