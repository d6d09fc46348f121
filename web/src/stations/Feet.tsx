import { Button } from "@chakra-ui/react";
import type { Catalogue, Change, FeetView, Quantity, SessionView, Shoe, Side } from "../api/types";
import { Choice } from "../ui/Choice";
import { Keycap } from "../ui/Keycap";
import { NumberField } from "../ui/NumberField";
import { WordsField } from "../ui/WordsField";
import { keyOf, SIDES } from "./fields";
import { SchoolScale } from "./SchoolScale";

const NAME = { left: "Left", right: "Right" } as const;

interface FeetPanelProps {
  feet: FeetView;
  targets: Record<string, number>;
  readOnly: boolean;
  onTry: (changes: Change[]) => void;
  onOpen: () => void;
}

/** The schools of the cleat, foot by foot, and equal against staggered. */
export function FeetPanel({ feet, targets, readOnly, onTry, onOpen }: FeetPanelProps) {
  return (
    <>
      <div className="buttons">
        <Button onClick={onOpen}>
          Measure the feet, stance, ladder <Keycap>C</Keycap>
        </Button>
      </div>
      {SIDES.map((side) => (
        <SchoolScale
          key={side}
          title={`${NAME[side]} cleat`}
          scale={feet.scales[side]}
          wanted={targets[keyOf("cleat_setback_mm", side)]}
          readOnly={readOnly}
          onTry={onTry}
        />
      ))}
      {feet.comparison && (
        <section className="schools" aria-label="Equal or staggered">
          <h3>Equal or staggered</h3>
          <p>{feet.comparison.words}</p>
          <div className="buttons">
            {feet.comparison.options.map((option) => (
              <Button
                key={option.label}
                disabled={readOnly || !option.trial}
                onClick={() => option.trial && onTry(option.trial.changes)}
              >
                {option.label}: {option.words}
                {!option.trial && " (now)"}
              </Button>
            ))}
          </div>
        </section>
      )}
    </>
  );
}

interface FeetPageProps {
  feet: FeetView;
  view: SessionView;
  catalogue: Catalogue;
  readOnly: boolean;
  texts: Record<string, string>;
  onText: (key: string, text: string | undefined) => void;
  /** A bolt was measured again. */
  onBike: (quantity: Quantity, side: Side | null, value: number) => Promise<string | undefined>;
  /** The body was measured. */
  onBody: (quantity: Quantity, side: Side | null, value: number) => Promise<string | undefined>;
  onShoes: (side: Side, change: Partial<Shoe>) => Promise<string | undefined>;
  onTry: (changes: Change[]) => void;
  /** A rung whose amount is the fitter's to find is stepped on the board. */
  onBolt: (quantity: Quantity, side: Side) => void;
  onClose: () => void;
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

/** The feet at length: how the cleat is measured, stance, the ladder for a knee, shims, shoes. */
export function FeetPage(props: FeetPageProps) {
  const { feet, view, catalogue, readOnly, texts, onText } = props;
  const bodyValue = (quantity: Quantity, side: Side) =>
    view.body.find((m) => m.quantity === quantity && m.side === side && m.readings.length > 0)?.repeated?.mean ??
    undefined;
  const field = (quantity: Quantity, of: "bike" | "body", side: Side) => {
    const spec = catalogue.quantities.find((q) => q.quantity === quantity);
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
        readOnly={readOnly}
        typed={texts[key]}
        onTyped={(text) => onText(key, text)}
        onCommit={(typed) =>
          of === "body" ? props.onBody(quantity, side, typed) : props.onBike(quantity, side, typed)
        }
      />
    );
  };
  return (
    <div className="sheet-page">
      <div className="head">
        <h2>Measure the feet</h2>
        <Button onClick={props.onClose}>
          Back to the board <Keycap>C</Keycap>
        </Button>
      </div>
      <ol className="steps">
        {feet.measuring.map((words, index) => (
          <li key={words}>
            <Step index={index} />
            {words}
          </li>
        ))}
      </ol>
      <div className="two" style={{ marginTop: 12 }}>
        {MEASURED.flatMap(([quantity, of]) => SIDES.map((side) => field(quantity, of, side)))}
      </div>

      <h2>Stance</h2>
      <p className="number-hint">How far from the bike the feet go. The schools contradict each other.</p>
      {feet.stance_apart != null && <p className="apart">{feet.stance_apart}</p>}
      <table className="plans">
        <tbody>
          {feet.stance.map((voice) => (
            <tr key={voice.voice}>
              <th scope="row">{voice.label}</th>
              <td>{voice.words}.</td>
              <td>
                {voice.changes.length > 0 && !readOnly && (
                  <Button size="sm" onClick={() => props.onTry(voice.changes)}>
                    Foresee it
                  </Button>
                )}
              </td>
            </tr>
          ))}
        </tbody>
      </table>

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
                {rung.state === "next" && !readOnly && (
                  <Button
                    size="sm"
                    onClick={() =>
                      rung.changes.length > 0 ? props.onTry(rung.changes) : props.onBolt(rung.quantity, ladder.side)
                    }
                  >
                    {rung.changes.length > 0 ? "Foresee it" : "Step it"}
                  </Button>
                )}
              </li>
            ))}
          </ol>
          <p className="number-hint">{ladder.after}</p>
        </section>
      ))}

      {feet.shims.length > 0 && <h2>A shorter leg</h2>}
      {feet.shims.map((shim) => (
        <div key={shim.side} className="buttons">
          <p>{shim.words}</p>
          {shim.changes.length > 0 && !readOnly && (
            <Button size="sm" onClick={() => props.onTry(shim.changes)}>
              {shim.ready ? "Foresee it" : "Foresee it all the same"}
            </Button>
          )}
        </div>
      ))}

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
                readOnly={readOnly}
                onPick={(width) => void props.onShoes(side, { width })}
              />
              <Choice
                label={`${NAME[side]} shoe, sole`}
                options={catalogue.words.stiffness}
                value={shoe.stiffness}
                none="not looked at"
                readOnly={readOnly}
                onPick={(stiffness) => void props.onShoes(side, { stiffness })}
              />
              <WordsField
                label={`${NAME[side]} shoe, notes`}
                value={shoe.words}
                typed={texts[key]}
                readOnly={readOnly}
                onTyped={(text) => onText(key, text)}
                onCommit={(words) => props.onShoes(side, { words })}
              />
            </section>
          );
        })}
      </div>
    </div>
  );
}

/** The foot, the shoe and the sole as the steps see them. */
function Step({ index }: { index: number }) {
  const foot = "M18 84 C14 70 20 58 34 54 L46 24 L66 24 L70 50 C88 56 108 64 124 70 C136 73 140 79 136 84 Z";
  const shoe = "M14 90 C10 72 16 60 32 54 L40 36 L72 36 L76 54 C94 60 114 66 132 72 C144 76 146 84 142 90 Z";
  const sole =
    "M16 56 C14 40 28 34 46 38 C66 42 84 34 106 34 C130 34 144 44 144 56 C144 70 130 78 108 76 C86 74 66 70 46 74 C28 78 16 72 16 56 Z";
  return (
    <svg viewBox="0 0 160 110" aria-hidden>
      {index === 0 && (
        <>
          <path className="skin" d={foot} />
          <circle className="spot" cx={106} cy={72} r={6} />
          <text x={84} y={104}>
            knuckle
          </text>
        </>
      )}
      {index === 1 && (
        <>
          <path className="shoe" d={shoe} />
          <path className="aid" d={foot} transform="translate(2 2)" />
          <circle className="spot" cx={108} cy={74} r={6} />
        </>
      )}
      {index === 2 && (
        <>
          <path className="shoe" d={shoe} />
          <line className="aid" x1={4} x2={156} y1={92} y2={92} />
          <path className="measure" d="M108 40V92" />
          <path className="aid" d="M108 92h22v-48" />
          <circle className="spot" cx={108} cy={74} r={5} />
        </>
      )}
      {index === 3 && (
        <>
          <path className="shoe" d={sole} />
          <rect className="aid" x={74} y={44} width={22} height={24} rx={3} />
          <path className="measure" d="M108 30V82" />
          <path className="aid" d="M85 30V82" />
          <path className="measure" d="M85 92H108" />
          <text x={66} y={107}>
            behind
          </text>
        </>
      )}
    </svg>
  );
}
