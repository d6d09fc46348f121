import { ForeseeStep } from "../../cards/Foresee";
import { ToPage } from "../../cards/LongPage";
import { SchoolScale } from "../../cards/SchoolScale";
import { proposed, useMoves } from "../../cards/useMoves";
import { keyOf, NAME, SIDES } from "../../fit/fields";
import { useFit } from "../../fit/useFit";
import { useFeet } from "./useFeet";

/** The schools of the cleat, foot by foot, and the two ways to set feet of different size. */
export function FeetPanel() {
  const { tried } = useFit();
  const feet = useFeet().data;
  useMoves(SIDES.map((side) => proposed(feet?.scales[side])));
  if (!feet) return null;
  const { comparison } = feet;
  return (
    <>
      <div className="buttons">
        <ToPage words="Measure the feet, stance, ladder" />
      </div>
      {SIDES.map((side) => (
        <SchoolScale
          key={side}
          title={`${NAME[side]} cleat`}
          scale={feet.scales[side]}
          wanted={tried({ key: keyOf("cleat_setback_mm", side), quantity: "cleat_setback_mm", side })}
        />
      ))}
      {comparison && (
        <section className="schools" aria-label="Feet of different size">
          <h3>Feet of different size</h3>
          <p>{comparison.words}</p>
          <ul>
            {comparison.options.map((option) => (
              <li key={option.label}>
                <b>
                  {option.label}
                  {option.now && ": so now"}
                </b>
                <p>{option.words}</p>
                <ForeseeStep step={option.trial} />
              </li>
            ))}
          </ul>
        </section>
      )}
    </>
  );
}
