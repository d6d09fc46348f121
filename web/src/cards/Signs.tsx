import { useId } from "react";
import type { Catalogue, HandWeight, Side, SignSeen } from "../api/types";
import { NAME, SIDES } from "../fit/fields";
import { useFit } from "../fit/useFit";
import { List } from "../ui/List";
import { NumberField } from "../ui/NumberField";

interface SignsProps {
  signs: SignSeen[];
  weights: HandWeight[];
  readOnly?: boolean;
  onSign: (sign: SignSeen) => void;
  onHand: (hand: HandWeight) => Promise<string | undefined>;
}

const keyOfSign = ({ sign, side }: SignSeen) => `${sign}|${side ?? ""}`;

/** The sign's own words. */
function worded(catalogue: Catalogue, { sign, side }: SignSeen): string {
  const label = catalogue.words.signs.flatMap((group) => group.signs).find((s) => s.key === sign)?.label ?? sign;
  return side ? `${label}, ${side}` : label;
}

/** Signs that were looked for, there or not, and what the hands carry. */
export function Signs({ signs, weights, readOnly = false, onSign, onHand }: SignsProps) {
  const { catalogue } = useFit();
  const id = useId();
  const shown = signs.filter((seen) => seen.sign !== "hands_heavy");
  const add = (key: string) => {
    const [sign, side] = key.split("|") as [SignSeen["sign"], Side | ""];
    onSign({ sign, side: side === "" ? null : side, there: true });
  };
  const weight = (side: Side) => weights.find((hand) => hand.side === side)?.weight ?? undefined;
  return (
    <div className="felt signs" role="group" aria-label="Signs">
      {shown.map((seen) => {
        const words = worded(catalogue, seen);
        return (
          <span key={keyOfSign(seen)} className="chip">
            <button
              type="button"
              disabled={readOnly}
              aria-label={`${words}: ${seen.there ? "there; call it not there" : "not there; call it there"}`}
              onClick={() => onSign({ ...seen, there: !seen.there })}
            >
              {seen.there ? "✓" : "✗ no:"} {words}
            </button>{" "}
            {!readOnly && (
              <button
                type="button"
                aria-label={`${words}: take it away`}
                onClick={() => onSign({ ...seen, there: null })}
              >
                ×
              </button>
            )}
          </span>
        );
      })}
      {!readOnly && (
        <List id={id} label="A sign that is there" value="" onPick={add}>
          <option value="">a sign that is there…</option>
          {catalogue.words.signs.map((group) => (
            <optgroup key={group.key} label={group.label}>
              {group.signs.flatMap((sign) =>
                (sign.per_side ? SIDES : ([""] as const)).map((side) => (
                  <option key={`${sign.key}|${side}`} value={`${sign.key}|${side}`}>
                    {side === "" ? sign.label : `${sign.label}, ${side}`}
                  </option>
                )),
              )}
            </optgroup>
          ))}
        </List>
      )}
      <span className="hands-weigh">Weight on the hands, 0–10:</span>
      {SIDES.map((side) => (
        <NumberField
          key={side}
          label={NAME[side]}
          fieldKey={`weight.${side}`}
          spec={{ unit: "size", step: 1, fine_step: 1, min: 0, max: 10 }}
          value={weight(side)}
          placeholder="?"
          readOnly={readOnly}
          onCommit={(value) => onHand({ side, weight: value })}
        />
      ))}
    </div>
  );
}
