import { useEffect, useRef, useState } from "react";
import type { Position } from "../api/types";
import { asked, conventionIn, type Field, reads, specOf } from "../fit/fields";
import { useFit } from "../fit/useFit";
import { inSentence, number } from "../ui/format";
import { NumberField } from "../ui/NumberField";
import type { View } from "./figure";
import { placeOf, type Size } from "./places";

const LABELS: Record<string, string> = {
  "crank_mm.left": "crank, left",
  "crank_mm.right": "crank, right",
  "cleat_setback_mm.left": "cleat, left",
  "cleat_setback_mm.right": "cleat, right",
};

interface BoxProps {
  field: Field;
  paper: View;
  size: Size;
  position: Position;
}

/** A dimension's field: typed or stepped it is foreseen; before the bike as found is closed, and after M, it is taped. */
export function Box({ field, paper, size, position }: BoxProps) {
  const { view, catalogue, closed, finished, bench, foresight, changes, draft, focus, ...fit } = useFit();
  const [measuring, setMeasuring] = useState(false);
  const holder = useRef<HTMLDivElement>(null);
  const base = specOf(catalogue, field.quantity);
  const convention = conventionIn(view.now.after.conventions, field.quantity, catalogue);
  const locked = finished || bench !== undefined;
  const unknown = view.unknown.includes(field.quantity);
  const now = reads(field, view.now.after, view.input.setup, catalogue);
  const after = reads(field, foresight.after, foresight.setup, catalogue);
  const readOnly = (closed && field.derived === true && !measuring) || locked;
  const changed = now !== undefined && after !== undefined && number(now) !== number(after);

  useEffect(() => {
    if (focus === field.key) holder.current?.querySelector("input")?.focus();
  }, [focus, field.key]);

  if (!base) return null;
  const spec = convention?.unit === "deg" ? { ...base, unit: "deg" as const, step: 0.5, fine_step: 0.1 } : base;
  const records = !closed || measuring;
  const place = placeOf(field, paper, size, position, focus);
  const classes = [
    "board-box",
    place.anchor,
    place.low ? "low" : "",
    changed ? "foreseen" : "",
    closed && field.derived ? "derived" : "",
    field.quantity === "cleat_setback_mm" ? "narrow" : "",
  ].join(" ");
  const origin = view.origins.find((of) => of.quantity === field.quantity);
  const named =
    LABELS[field.key] ?? (field.quantity === "bb_to_hand_mm" && convention ? convention.short : inSentence(base.label));
  // What nobody measured on this bike is told from what somebody did.
  const label = origin?.origin === "usual" && !changed ? `${named}, usual` : named;
  return (
    <div
      ref={holder}
      title={origin?.from}
      className={classes}
      style={{ left: place.left, top: place.top, bottom: place.bottom }}
    >
      <NumberField
        how={[(convention?.words ?? base.how).toLowerCase(), unknown ? "not taped yet" : origin?.from]
          .filter(Boolean)
          .join(", ")}
        label={measuring ? `${label}, measured again` : label}
        fieldKey={field.key}
        fit
        spec={spec}
        value={unknown ? undefined : (asked(changes, field) ?? after)}
        before={changed && !unknown ? number(now, base.unit) : undefined}
        placeholder={unknown ? "?" : undefined}
        typed={draft.texts[field.key]}
        readOnly={readOnly}
        onTyped={(text) => fit.setText(field.key, text)}
        onCommit={async (value) => {
          if (!records) {
            fit.target(field, value);
            return undefined;
          }
          const refused = await fit.bikeReading(field.quantity, field.side ?? null, value);
          if (refused === undefined) setMeasuring(false);
          return refused;
        }}
        onStep={records || readOnly ? undefined : (value) => fit.stepTo(field, value)}
        onEnterAgain={fit.begin}
        onMeasure={closed && !locked ? () => setMeasuring(!measuring) : undefined}
      />
    </div>
  );
}
