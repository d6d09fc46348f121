import { Button } from "@chakra-ui/react";
import { useRef } from "react";
import type { Injury } from "../../api/types";
import { Choice } from "../../ui/Choice";
import { Tick } from "../../ui/Tick";
import { WordsField } from "../../ui/WordsField";
import { newId } from "../../api/client";
import { injuryId } from "../../fit/intakeEdit";
import { useFit } from "../../fit/useFit";
import { TakenOutLine } from "./TakenOutLine";
import { useIntake } from "./useIntake";
import { SIDE_CHOICES } from "../../fit/fields";

const NO_INJURY: Omit<Injury, "id"> = {
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
  const { takeOut } = useFit();
  const { injuries } = intake;
  const add = useRef<HTMLButtonElement>(null);
  const change = (id: string, part: Partial<Injury>) => save({ kind: "of injury", id, part });
  return (
    <section aria-labelledby="injuries">
      <h3 id="injuries">Injuries, surgery, replaced joints</h3>
      {injuries.map((injury, index) => {
        const id = injuryId(injury, index);
        const words = (part: "what" | "diagnosed_by", label: string) => {
          const key = `intake.injuries.${id}.${part}`;
          return (
            <WordsField
              label={label}
              value={injury[part]}
              typed={texts[key]}
              readOnly={readOnly}
              onTyped={(text) => setText(key, text)}
              onCommit={async (said) => (await change(id, { [part]: said }))?.message}
            />
          );
        };
        const tick = (part: "surgery" | "replaced" | "will_not_fold" | "as_rider", label: string) => (
          <Tick label={label} on={injury[part]} readOnly={readOnly} onTick={(on) => void change(id, { [part]: on })} />
        );
        return (
          <div key={id} className="complaint">
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
                  onPick={(joint) => void change(id, { joint })}
                />
                {injury.joint !== "back" && (
                  <Choice
                    label="Side"
                    options={SIDE_CHOICES}
                    value={injury.side}
                    none="both"
                    readOnly={readOnly}
                    onPick={(side) => void change(id, { side })}
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
                onClick={() => {
                  add.current?.focus();
                  const what = injury.what || "An injury";
                  void takeOut(what, { kind: "injury out", id }, { kind: "injury", injury });
                }}
              >
                take out
              </button>
            )}
          </div>
        );
      })}
      <TakenOutLine of="injury" />
      {!readOnly && (
        <Button ref={add} onClick={() => void save({ kind: "injury", injury: { ...NO_INJURY, id: newId() } })}>
          Write one down
        </Button>
      )}
    </section>
  );
}
