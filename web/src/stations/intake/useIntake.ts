import { intakeOf, sameAnswer } from "../../fit/against";
import type { Intake } from "../../api/types";
import { saveIntake } from "../../fit/sends";
import { useFit } from "../../fit/useFit";

/** What the rider came with, and how a change of it is written down. */
export function useIntake() {
  const { view, catalogue, finished: readOnly, draft, setText, write } = useFit();
  return {
    view,
    intake: intakeOf(view),
    words: catalogue.words,
    readOnly,
    texts: draft.texts,
    setText,
    /** Writes a change down; answers what is wrong with it. */
    save: (change: (now: Intake) => Partial<Intake>, touches: keyof Intake) =>
      write(saveIntake(change), sameAnswer(touches)),
  };
}
