import { Button } from "@chakra-ui/react";
import { useState } from "react";
import { answer, api, ApiError } from "../../api/client";
import type { Quantity, Step } from "../../api/types";
import { useFit } from "../../fit/useFit";
import { NumberField } from "../../ui/NumberField";
import { Problem } from "../../ui/Problem";
import { specOf } from "../../fit/fields";

const SWAPPED: Quantity[] = [
  "saddle_stack_mm",
  "saddle_length_mm",
  "nose_to_sit_mm",
  "rail_middle_mm",
  "rail_mm",
  "saddle_width_mm",
];

/** Another saddle in the place of this one: its stack and rails carried over. */
export function Swap() {
  const { view, catalogue, still, foresee } = useFit();
  const [typed, setTyped] = useState<Partial<Record<Quantity, number>>>({});
  const [wrong, setWrong] = useState<ApiError>();
  const own = view.input.setup.saddle as unknown as Record<string, number | undefined>;
  if (still) return null;
  return (
    <section aria-label="Another saddle">
      <h2>Another saddle</h2>
      <p>
        Measure it off the bike. The rider is left where they sit: its stack goes to the post, its rails to the clamp.
      </p>
      <div className="field-grid">
        {SWAPPED.map((quantity) => {
          const spec = specOf(catalogue, quantity);
          if (!spec) return null;
          return (
            <NumberField
              key={quantity}
              label={spec.label}
              hint={spec.how}
              fieldKey={`swap.${quantity}`}
              spec={spec}
              value={typed[quantity] ?? own[quantity]}
              error={wrong?.at(`/${quantity}`)}
              onCommit={(value) => {
                setTyped({ ...typed, [quantity]: value });
                return undefined;
              }}
              onStep={(value) => setTyped({ ...typed, [quantity]: value })}
            />
          );
        })}
      </div>
      <div className="buttons">
        <Button
          onClick={() =>
            void answer<Step>(
              api.POST("/api/sessions/{id}/saddle/swap", {
                params: { path: { id: view.session.id } },
                body: typed,
              }),
            ).then(
              (step) => {
                setWrong(undefined);
                foresee(step.changes);
              },
              (error: unknown) => setWrong(error instanceof ApiError ? error : undefined),
            )
          }
        >
          Foresee the swap
        </Button>
      </div>
      {!SWAPPED.some((q) => wrong?.at(`/${q}`)) && <Problem words={wrong?.message} />}
    </section>
  );
}
