import { sentence } from "../../ui/format";
import { Button } from "@chakra-ui/react";
import { detail } from "../../api/client";
import type { Frame, Quantity, TapedFrame } from "../../api/types";
import { FrameOnTape } from "../../cards/FrameOnTape";
import { PartFields } from "../../cards/PartFields";
import { Scales } from "../../cards/Scales";
import { partGroups } from "../../fit/bikeParts";
import { barOf, boardFields, specOf } from "../../fit/fields";
import { closeFound, correctFrame, see } from "../../fit/sends";
import { frontShare } from "../../fit/standIn";
import { useFit } from "../../fit/useFit";
import { NumberField } from "../../ui/NumberField";
import { Problem } from "../../ui/Problem";

/** The bike as found: what is taped on the board, and the parts behind it. */
export function FoundPanel() {
  const { view, catalogue, closed, finished: readOnly, problem, setProblem, post, write } = useFit();
  const { setup } = view.input;
  const onBoard = boardFields(setup).map((field) => field.quantity);
  const groups = partGroups(catalogue, barOf(setup));
  const parts = groups
    .filter((group) => group.at !== "frame")
    .flatMap((group) => group.keys)
    .filter((quantity) => !onBoard.includes(quantity));
  const correct = async (frame: Frame, quantity: Quantity, taped: TapedFrame | null) => {
    const error = await write(
      correctFrame(frame, taped),
      () => "The frame was corrected in another window: look at it again.",
    );
    return error?.at(`/${quantity}`) ?? detail(error);
  };
  const close = () => {
    // Closed, it would stand on what was there before these.
    const open = document.querySelector<HTMLInputElement>("[data-invalid] input");
    if (!open) return void post(closeFound);
    setProblem("A number is not understood yet: mend it or take it back with Esc, then close.");
    open.focus();
    open.scrollIntoView({ block: "nearest" });
  };
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
                <li key={quantity}>{specOf(catalogue, quantity)?.label} is not taped yet</li>
              ))}
              {view.unknown.length === 0 && (
                <li>
                  Drop and BB to {view.now.after.hands.replace(/s$/, "")} follow from the parts unless you tape them.
                </li>
              )}
            </ul>
            <div className="buttons">
              <Button variant="solid" disabled={view.unknown.length > 0 || readOnly} onClick={close}>
                Close bike as found
              </Button>
            </div>
          </>
        )}
        {view.checks.length > 0 && (
          <ul className="checks" aria-label="What does not go together">
            {view.checks.map((check) => (
              <li key={check.words} className="warn">
                {sentence(check.words)}
              </li>
            ))}
          </ul>
        )}
        {view.computed != null && <p className="number-hint">{sentence(view.computed)}</p>}
        <Problem words={problem} />
      </section>
      {closed && <Scales onKeep={({ weighed }) => write(see(frontShare(weighed))).then(detail)} />}
      <details>
        <summary>Parts</summary>
        <PartFields quantities={parts} />
      </details>
      <details>
        <summary>Frame</summary>
        <div className="field-grid">
          {catalogue.parts.frame.map((quantity) => {
            const spec = specOf(catalogue, quantity);
            if (!spec) return null;
            return (
              <NumberField
                key={quantity}
                label={spec.label}
                fieldKey={quantity}
                spec={spec}
                value={(view.bike.frame as Partial<Record<Quantity, number | null>>)[quantity] ?? undefined}
                placeholder="not known"
                readOnly={readOnly}
                hint={
                  view.computed != null && (quantity === "frame_reach_mm" || quantity === "frame_stack_mm")
                    ? "computed from the tape"
                    : undefined
                }
                onCommit={(value) => {
                  // A number off a chart takes the place of the computed one.
                  const charted = quantity === "frame_reach_mm" || quantity === "frame_stack_mm";
                  const taped = charted ? null : (view.bike.taped ?? null);
                  return correct({ ...view.bike.frame, [quantity]: value }, quantity, taped);
                }}
              />
            );
          })}
        </div>
        {!readOnly && (
          <FrameOnTape
            catalogue={catalogue}
            seatAngle={view.bike.frame.seat_angle_deg}
            start={view.bike.taped ?? {}}
            onComputed={(computed, taped) =>
              correct(
                {
                  ...view.bike.frame,
                  frame_reach_mm: computed.frame_reach_mm,
                  frame_stack_mm: computed.frame_stack_mm,
                },
                "frame_reach_mm",
                taped,
              )
            }
          />
        )}
      </details>
    </>
  );
}
