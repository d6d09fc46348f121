import { useEffect, useRef, useState } from "react";
import type { Goal } from "../../api/types";
import { moved } from "../../fit/goals";
import { Keycap } from "../../ui/Keycap";
import { Problem } from "../../ui/Problem";
import { useIntake } from "./useIntake";

/** What matters first: the goals as an order, moved up and down through ties. */
export function GoalOrder() {
  const { intake, words, readOnly, save } = useIntake();
  const said = intake.goals.length > 0;
  const order = said ? intake.goals : [words.goal.map((goal) => goal.key as Goal)];
  const list = useRef<HTMLOListElement>(null);
  const [wrong, setWrong] = useState<string>();
  const held = useRef<Goal>(undefined);
  // A row that moves keeps the focus.
  useEffect(() => {
    if (held.current) list.current?.querySelector<HTMLElement>(`[data-field="goal.${held.current}"]`)?.focus();
    held.current = undefined;
  }, [intake.goals]);
  const move = (goal: Goal, by: -1 | 1) => {
    held.current = goal;
    void save({ kind: "goals", goals: moved(order, goal, by) }).then((error) => setWrong(error?.message));
  };
  return (
    <section aria-labelledby="purpose">
      <h3 id="purpose">What matters first?</h3>
      <p className="number-hint">
        {said ? "Level ones count alike." : "Not said yet: all count alike."} <Keycap>↑</Keycap> <Keycap>↓</Keycap> move
        the one in focus.
      </p>
      <ol ref={list} className="goals">
        {order.flatMap((rank, place) =>
          rank.map((goal) => {
            const name = words.goal.find((word) => word.key === goal)?.label ?? goal;
            const stands = !said ? "not said" : rank.length > 1 ? `${place + 1}, level` : `${place + 1}`;
            return (
              <li key={goal} className={rank.length > 1 && goal !== rank[0] ? "level" : undefined}>
                <span className="place">{!said ? "–" : goal === rank[0] ? place + 1 : "="}</span>
                <button
                  type="button"
                  className="goal"
                  data-field={`goal.${goal}`}
                  aria-label={`${name}, ${stands}`}
                  disabled={readOnly}
                  onKeyDown={(event) => {
                    const by = event.key === "ArrowUp" ? -1 : event.key === "ArrowDown" ? 1 : undefined;
                    if (by === undefined) return;
                    event.preventDefault();
                    move(goal, by);
                  }}
                >
                  {name}
                </button>
                {!readOnly && (
                  <>
                    <button
                      type="button"
                      className="move"
                      tabIndex={-1}
                      aria-label={`${name} earlier`}
                      onClick={() => move(goal, -1)}
                    >
                      ↑
                    </button>
                    <button
                      type="button"
                      className="move"
                      tabIndex={-1}
                      aria-label={`${name} later`}
                      onClick={() => move(goal, 1)}
                    >
                      ↓
                    </button>
                  </>
                )}
              </li>
            );
          }),
        )}
      </ol>
      <Problem words={wrong} />
    </section>
  );
}
