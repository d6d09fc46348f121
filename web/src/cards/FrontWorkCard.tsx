import type { FrontWork, StackPart } from "../api/types";
import { FrontStack } from "../board/FrontStack";

interface FrontWorkProps {
  trial: { front_work: FrontWork[]; trial: { foreseen: { stack?: StackPart[] } } };
  onDone: (step: FrontWork["step"], done: boolean) => void;
}

/** The front-end work of a trial, in order, to tick; with what is rebuilt, drawn. */
export function FrontWorkCard({ trial, onDone }: FrontWorkProps) {
  const { front_work: work } = trial;
  const { stack } = trial.trial.foreseen;
  const done = work.filter((step) => step.done).length;
  return (
    <details className="front-work">
      <summary>
        Front-end work: {done} of {work.length} done
      </summary>
      {stack != null && stack.length > 0 && <FrontStack stack={stack} />}
      <ol>
        {work.map((step) => (
          <li key={step.step}>
            <label>
              <input
                type="checkbox"
                checked={step.done}
                onChange={(event) => onDone(step.step, event.target.checked)}
              />{" "}
              {step.label}
            </label>
          </li>
        ))}
      </ol>
    </details>
  );
}
