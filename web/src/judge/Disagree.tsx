import { Button } from "@chakra-ui/react";
import { useState } from "react";
import { detail } from "../api/client";
import type { Disputed, JudgeView, MoveView } from "../api/types";
import { disagree } from "../fit/sends";
import { useFit } from "../fit/useFit";
import { Problem } from "../ui/Problem";

interface Choice {
  about: Disputed;
  /** As it is told on record. */
  told: string;
  words: string;
}

/** What of a move can be disagreed with: the fault, the axis, each of its witnesses. */
function choices(move: MoveView, judge: JudgeView): Choice[] {
  const all: Choice[] = [];
  if (move.fault != null && move.fault_words != null) {
    all.push({ about: { fault: move.fault }, told: move.fault_words, words: `${move.fault_words}: it is not so` });
  }
  const label = judge.axes.find((axis) => axis.axis === move.axis)?.label;
  if (move.axis != null && label !== undefined) {
    all.push({ about: { right: move.axis }, told: label, words: `${label}: it is right as it stands` });
  }
  for (const said of [...move.speaks_for, ...(move.against ? [move.against] : [])]) {
    if (said.key != null)
      all.push({ about: { witness: said.key }, told: said.words, words: `Strike out: ${said.words}` });
  }
  return all;
}

/** Says what the fitter holds against a move, with a reason: kept, shown, and to be taken back. */
export function Disagree({ move, judge, onDone }: { move: MoveView; judge: JudgeView; onDone: () => void }) {
  const { post } = useFit();
  const all = choices(move, judge);
  const [picked, setPicked] = useState(0);
  const [reason, setReason] = useState("");
  const [wrong, setWrong] = useState<string>();
  const write = async () => {
    const choice = all[picked];
    if (!choice) return;
    const error = await post(disagree(choice.about, choice.told, reason));
    setWrong(detail(error));
    if (!error) onDone();
  };
  return (
    <form
      className="disagree"
      aria-label="I disagree"
      onSubmit={(event) => {
        event.preventDefault();
        void write();
      }}
    >
      <fieldset>
        <legend>What is not so</legend>
        {all.map((choice, index) => (
          <label key={choice.words}>
            <input
              type="radio"
              name="disagree"
              checked={picked === index}
              // The first choice is where a keyboard goes on.
              // eslint-disable-next-line jsx-a11y/no-autofocus
              autoFocus={index === 0}
              onChange={() => setPicked(index)}
            />
            {choice.words}
          </label>
        ))}
      </fieldset>
      <div className="text-field">
        <label htmlFor="disagree-why">Why</label>
        <input
          id="disagree-why"
          value={reason}
          maxLength={2000}
          autoComplete="off"
          onChange={(event) => setReason(event.target.value)}
        />
      </div>
      <Problem words={wrong} />
      <div className="buttons">
        <Button type="submit" variant="solid">
          Write it down
        </Button>
        <Button type="button" onClick={onDone}>
          Leave it
        </Button>
      </div>
    </form>
  );
}
