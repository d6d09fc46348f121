import { sentence } from "../../ui/format";
import { Button } from "@chakra-ui/react";
import type { FeetView, Quantity, Shoe, Side } from "../../api/types";
import { Foresee } from "../../cards/Foresee";
import { LongPage } from "../../cards/LongPage";
import { keyOf, NAME, SIDES, specOf } from "../../fit/fields";
import { saveShoe } from "../../fit/sends";
import { useFit } from "../../fit/useFit";
import { Choice } from "../../ui/Choice";
import { NumberField } from "../../ui/NumberField";
import { WordsField } from "../../ui/WordsField";
import { MeasuringStep } from "./MeasuringStep";
import { useFeet } from "./useFeet";

/** The feet at length: how the cleat is measured, stance, the ladder for a knee, shims, shoes. */
export function FeetPage() {
  const answer = useFeet();
  const feet = answer.data;
  return (
    <LongPage title="Measure the feet" answer={answer}>
      {feet && (
        <>
          <Measuring feet={feet} />
          <Stances feet={feet} />
          <Ladders feet={feet} />
          <Shims feet={feet} />
          <Shoes feet={feet} />
        </>
      )}
    </LongPage>
  );
}

interface FeetProps {
  feet: FeetView;
}

/** What is measured of a foot, and whether it is the foot's or the bike's. */
const MEASURED: [Quantity, "bike" | "body"][] = [
  ["cleat_setback_mm", "bike"],
  ["cleat_rearmost_mm", "bike"],
  ["shoe_size_eu", "body"],
  ["fifth_joint_mm", "body"],
  ["foot_length_mm", "body"],
  ["foot_width_mm", "body"],
];

/** How it is measured, step by step, and what was measured. */
function Measuring({ feet }: FeetProps) {
  const { view, catalogue, still, draft, setText, bodyReading, bikeReading } = useFit();
  const bodyValue = (quantity: Quantity, side: Side) =>
    view.body.find((m) => m.quantity === quantity && m.side === side && m.readings.length > 0)?.repeated?.mean ??
    undefined;
  const field = (quantity: Quantity, of: "bike" | "body", side: Side) => {
    const spec = specOf(catalogue, quantity);
    if (!spec) return null;
    const key = `feet.${keyOf(quantity, side)}`;
    const pedalling: Record<string, unknown> = { ...view.input.setup.pedalling[side] };
    const held = pedalling[quantity];
    const value = of === "body" ? bodyValue(quantity, side) : typeof held === "number" ? held : undefined;
    return (
      <NumberField
        key={key}
        label={`${spec.label}, ${side}`}
        hint={side === "left" ? spec.how : undefined}
        fieldKey={key}
        spec={spec}
        value={value}
        placeholder="?"
        readOnly={still}
        typed={draft.texts[key]}
        onTyped={(text) => setText(key, text)}
        onCommit={(typed) => (of === "body" ? bodyReading(quantity, side, typed) : bikeReading(quantity, side, typed))}
      />
    );
  };
  return (
    <>
      <ol className="steps">
        {feet.measuring.map((words, index) => (
          <li key={words}>
            <MeasuringStep index={index} />
            {words}
          </li>
        ))}
      </ol>
      <div className="two" style={{ marginTop: 12 }}>
        {MEASURED.flatMap(([quantity, of]) => SIDES.map((side) => field(quantity, of, side)))}
      </div>
    </>
  );
}

/** How far from the bike the feet go. */
function Stances({ feet }: FeetProps) {
  return (
    <>
      <h2>Stance</h2>
      <p className="number-hint">How far from the bike the feet go. The schools contradict each other.</p>
      {feet.stance_apart != null && <p className="apart">{feet.stance_apart}</p>}
      <table className="plans">
        <tbody>
          {feet.stance.map((voice) => (
            <tr key={voice.voice}>
              <th scope="row">{voice.label}</th>
              <td>{sentence(voice.words)}</td>
              <td>
                <Foresee changes={voice.changes} about={voice.label} />
              </td>
            </tr>
          ))}
        </tbody>
      </table>
    </>
  );
}

/** What is tried of a knee that tracks in or out, rung by rung. */
function Ladders({ feet }: FeetProps) {
  const { still, shown } = useFit();
  // A rung whose amount is the fitter's to find is stepped on the board.
  const stepIt = (quantity: Quantity, side: Side) => {
    shown.close("page");
    const key = keyOf(quantity, side);
    requestAnimationFrame(() => document.querySelector<HTMLElement>(`[data-field="${key}"]`)?.focus());
  };
  return (
    <>
      <h2>The ladder</h2>
      {feet.ladders.length === 0 && (
        <p className="number-hint">
          For a knee that tracks in or out: cleat, sideways place, footbed, wedge, testing after each. No such knee was
          seen; the first look is where knees are written down.
        </p>
      )}
      {feet.ladders.map((ladder) => (
        <section key={ladder.side} aria-label={`Ladder, ${ladder.side} knee`}>
          <h3>
            {NAME[ladder.side]} knee: {ladder.seen.toLowerCase()}
          </h3>
          <ol className="rungs">
            {ladder.rungs.map((rung) => (
              <li key={rung.label} className={rung.state}>
                <span aria-hidden>{rung.state === "done" ? "✓" : rung.state === "next" ? "▸" : "·"}</span>
                <span>
                  {rung.label}: {rung.words}
                  {rung.state === "next" && <span className="visually-hidden"> (next)</span>}
                </span>
                {rung.state === "next" && <Foresee changes={rung.changes} about={rung.label} />}
                {rung.state === "next" && rung.changes.length === 0 && !still && (
                  <Button size="sm" onClick={() => stepIt(rung.quantity, ladder.side)}>
                    Step it
                  </Button>
                )}
              </li>
            ))}
          </ol>
          <p className="number-hint">{ladder.after}</p>
        </section>
      ))}
    </>
  );
}

/** Shims for a leg that is truly short. */
function Shims({ feet }: FeetProps) {
  return (
    <>
      {feet.shims.length > 0 && <h2>A shorter leg</h2>}
      {feet.shims.map((shim) => (
        <div key={shim.side} className="buttons">
          <p>{shim.words}</p>
          <Foresee changes={shim.changes} words={shim.ready ? undefined : "Foresee it all the same"} />
        </div>
      ))}
    </>
  );
}

/** What was noted of the shoes. */
function Shoes({ feet }: FeetProps) {
  const { catalogue, still, draft, setText, told } = useFit();
  const write = (side: Side, shoe: Partial<Shoe>) => told(saveShoe(side, shoe));
  return (
    <>
      <h2>Shoes</h2>
      {feet.advice.map((words) => (
        <p key={words} className="apart">
          {words}.
        </p>
      ))}
      <div className="two">
        {SIDES.map((side) => {
          const shoe = feet.shoes[side];
          const key = `shoe.${side}`;
          return (
            <section key={side} aria-label={`${NAME[side]} shoe`}>
              <Choice
                label={`${NAME[side]} shoe, width`}
                options={catalogue.words.shoe_width}
                value={shoe.width}
                none="not looked at"
                readOnly={still}
                onPick={(width) => void write(side, { width })}
              />
              <Choice
                label={`${NAME[side]} shoe, sole`}
                options={catalogue.words.stiffness}
                value={shoe.stiffness}
                none="not looked at"
                readOnly={still}
                onPick={(stiffness) => void write(side, { stiffness })}
              />
              <WordsField
                label={`${NAME[side]} shoe, notes`}
                value={shoe.words}
                typed={draft.texts[key]}
                readOnly={still}
                onTyped={(text) => setText(key, text)}
                onCommit={(words) => write(side, { words })}
              />
            </section>
          );
        })}
      </div>
    </>
  );
}
