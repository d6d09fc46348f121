import type { Catalogue, Foresight, SessionView } from "../api/types";
import { number } from "../ui/format";
import { NumberField } from "../ui/NumberField";
import { type Field, reads } from "./fields";

interface BoltsProps {
  fields: Field[];
  foresight: Foresight;
  targets: Record<string, number>;
  texts: Record<string, string>;
  view: SessionView;
  catalogue: Catalogue;
  onTyped: (field: Field, text: string | undefined) => void;
  onTarget: (field: Field, value: number) => void;
  onTry: () => void;
}

/** More fields than this are folded away. */
const MOST_OPEN = 20;

/** The further bolts and parts of a station: stepping one is foreseen like any dimension of the board. */
export function Bolts(props: BoltsProps) {
  const { fields, foresight, targets, texts, view, catalogue } = props;
  return (
    <details open={fields.length <= MOST_OPEN || fields.some((f) => targets[f.key] !== undefined)}>
      <summary>Further bolts here</summary>
      <div className="field-grid">
        {fields.map((field) => {
          const spec = catalogue.quantities.find((q) => q.quantity === field.quantity);
          if (!spec) return null;
          const now = reads(field, view.now.after, view.input.setup, catalogue);
          const value = targets[field.key] ?? reads(field, foresight.after, foresight.setup, catalogue);
          const changed = now !== undefined && value !== undefined && number(now) !== number(value);
          return (
            <NumberField
              key={field.key}
              label={field.side ? `${spec.label}, ${field.side}` : spec.label}
              fieldKey={field.key}
              className={changed ? "foreseen" : undefined}
              spec={spec}
              value={value}
              before={changed ? number(now, spec.unit) : undefined}
              typed={texts[field.key]}
              onTyped={(text) => props.onTyped(field, text)}
              onCommit={(typed) => {
                props.onTarget(field, typed);
                return undefined;
              }}
              onStep={(stepped) => props.onTarget(field, stepped)}
              onEnterAgain={props.onTry}
            />
          );
        })}
      </div>
    </details>
  );
}
