import { intakeOf } from "../../fit/against";
import type { Intake } from "../../api/types";
import type { IntakeEdit } from "../../fit/intakeEdit";
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
    /** Writes an entry down; answers what is wrong with it. */
    save: (edit: IntakeEdit) => write(saveIntake(edit)),
    /** The same for whole answers. */
    answer: (answer: Partial<Intake>) => write(saveIntake({ kind: "answer", answer })),
  };
}
