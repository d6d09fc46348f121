import { Button } from "@chakra-ui/react";
import type { Injury } from "../../api/types";
import { Choice } from "../../ui/Choice";
import { Tick } from "../../ui/Tick";
import { WordsField } from "../../ui/WordsField";
import { useIntake } from "./useIntake";
import { SIDE_CHOICES } from "../../fit/fields";

const NO_INJURY: Injury = {
  what: "",
  surgery: false,
  replaced: false,
  will_not_fold: false,
  diagnosed_by: "",
  as_rider: false,
  joint: null,
  side: null,
};

/** Past injuries, surgery, replaced joints; who diagnosed them. */
export function Injuries() {
  const { intake, words: asked, readOnly, texts, setText, save } = useIntake();
  const { injuries } = intake;
  const change = (index: number, part: Partial<Injury>) =>
    save((now) => ({ injuries: now.injuries.map((i, at) => (at === index ? { ...i, ...part } : i)) }), "injuries");
  return (
    <section aria-labelledby="injuries">
      <h3 id="injuries">Injuries, surgery, replaced joints</h3>
      {injuries.map((injury, index) => {
        const words = (part: "what" | "diagnosed_by", label: string) => {
          const key = `intake.injuries.${index}.${part}`;
          return (
            <WordsField
              label={label}
              value={injury[part]}
              typed={texts[key]}
              readOnly={readOnly}
              onTyped={(text) => setText(key, text)}
              onCommit={async (said) => (await change(index, { [part]: said }))?.message}
            />
          );
        };
        const tick = (part: "surgery" | "replaced" | "will_not_fold" | "as_rider", label: string) => (
          <Tick
            label={label}
            on={injury[part]}
            readOnly={readOnly}
            onTick={(on) => void change(index, { [part]: on })}
          />
        );
        return (
          <div key={index} className="complaint">
            {words("what", "What, where and when")}
            <div className="ticks">
              {tick("surgery", "Surgery")}
              {tick("replaced", "A joint was replaced")}
              {tick("will_not_fold", "It will not fold any more")}
            </div>
            {(injury.replaced || injury.will_not_fold) && (
              <div className="field-grid">
                <Choice
                  label="Which joint"
                  options={asked.joint}
                  value={injury.joint}
                  none="another one"
                  readOnly={readOnly}
                  onPick={(joint) => void change(index, { joint })}
                />
                {injury.joint !== "back" && (
                  <Choice
                    label="Side"
                    options={SIDE_CHOICES}
                    value={injury.side}
                    none="both"
                    readOnly={readOnly}
                    onPick={(side) => void change(index, { side })}
                  />
                )}
              </div>
            )}
            {words("diagnosed_by", "Diagnosed by")}
            {tick("as_rider", "Seen as a rider, on the bike")}
            {!readOnly && (
              <button
                type="button"
                className="more"
                onClick={() =>
                  void save((now) => ({ injuries: now.injuries.filter((_, at) => at !== index) }), "injuries")
                }
              >
                take out
              </button>
            )}
          </div>
        );
      })}
      {!readOnly && (
        <Button onClick={() => void save((now) => ({ injuries: [...now.injuries, NO_INJURY] }), "injuries")}>
          Write one down
        </Button>
      )}
    </section>
  );
}
