import { Button } from "@chakra-ui/react";
import type { Flag } from "../../api/types";
import { useFit } from "../../fit/useFit";
import { Choice } from "../../ui/Choice";
import { inSentence } from "../../ui/format";
import { labelOf } from "../../ui/labelOf";
import { Keycap } from "../../ui/Keycap";
import { useKeys } from "../../ui/keys";
import { NumberField } from "../../ui/NumberField";
import { Problem } from "../../ui/Problem";
import { Tick } from "../../ui/Tick";
import { WordsField } from "../../ui/WordsField";
import { GoalOrder } from "./GoalOrder";
import { Injuries } from "./Injuries";
import { RedFlags } from "./RedFlags";
import { useIntake } from "./useIntake";
import { specOf } from "../../fit/fields";

/** What the rider comes with: red flags first, then what the fit is for. */
export function IntakePanel() {
  const { view, intake, readOnly } = useIntake();
  const { problem, go } = useFit();
  return (
    <div className="intake">
      <RedFlags />
      <AskFirst />
      <VisitFor />
      <GoalOrder />
      <Riding />
      <Injuries />
      {!readOnly && (
        <div className="buttons">
          <Button variant="solid" disabled={view.stopped} onClick={() => go("body")}>
            On to the body
          </Button>
          {!intake.flags_asked && <span className="number-hint">Red flags are not asked yet.</span>}
        </div>
      )}
      <Problem words={problem} />
    </div>
  );
}

/** A whole fit, in which what is silent counts too, or a visit for what hurts. */
function VisitFor() {
  const { view, intake, words, readOnly, answer } = useIntake();
  return (
    <Choice
      label="This visit is"
      options={words.visit}
      value={intake.visit}
      none={`not said: ${inSentence(labelOf(words.visit, view.visit_unsaid))}`}
      readOnly={readOnly}
      onPick={(visit) => void answer({ visit })}
    />
  );
}

/** What stops a fit before it begins. */
function AskFirst() {
  const { intake, words, readOnly, save } = useIntake();
  useKeys({ 0: readOnly ? undefined : () => void save({ kind: "no flag" }) });
  const tick = (flag: Flag, there: boolean) => void save({ kind: "flag", flag, there });
  return (
    <section className="card" aria-labelledby="flags">
      <h2 id="flags">Ask first</h2>
      <p className="task">Any of these?</p>
      <ul className="ticks">
        {words.flag.map((flag) => (
          <li key={flag.key}>
            <label>
              <input
                type="checkbox"
                checked={intake.flags.includes(flag.key as Flag)}
                disabled={readOnly}
                onChange={(event) => tick(flag.key as Flag, event.target.checked)}
              />
              {flag.label}
            </label>
          </li>
        ))}
      </ul>
      <div className="buttons">
        <Button
          aria-pressed={intake.flags_asked && intake.flags.length === 0}
          disabled={readOnly}
          onClick={() => void save({ kind: "no flag" })}
        >
          {intake.flags_asked && intake.flags.length === 0 ? "✓ None of these" : "None of these"} <Keycap>0</Keycap>
        </Button>
      </div>
    </section>
  );
}

/** How, how long and how much the rider rides, and sits. */
/** The numbers of the riding. */
type Figure =
  | "longest_ride_h"
  | "event_h"
  | "seated_h"
  | "usual_climb_percent"
  | "drag_area_m2"
  | "air_density_kg_m3"
  | "speed_m_s";

function Riding() {
  const { intake, words, readOnly, texts, setText, answer } = useIntake();
  const { catalogue } = useFit();
  const line = (key: "riding" | "event" | "work" | "load", label: string, placeholder?: string) => (
    <WordsField
      label={label}
      value={intake[key]}
      typed={texts[`intake.${key}`]}
      placeholder={placeholder}
      readOnly={readOnly}
      onTyped={(text) => setText(`intake.${key}`, text)}
      onCommit={async (said) => (await answer({ [key]: said }))?.message}
    />
  );
  const figure = (key: Figure) => {
    const spec = specOf(catalogue, key);
    return (
      spec && (
        <NumberField
          label={spec.label}
          fieldKey={key}
          spec={spec}
          value={intake[key] ?? undefined}
          readOnly={readOnly}
          onCommit={async (value) => {
            const error = await answer({ [key]: value });
            return error?.at(`/${key}`) ?? error?.message;
          }}
        />
      )
    );
  };
  return (
    <>
      <section aria-labelledby="riding">
        <h3 id="riding">Riding</h3>
        {line("riding", "Kind of riding", "levees on Sundays, to work")}
        <div className="field-grid">
          <Choice
            label="Surface"
            options={words.surface}
            value={intake.surface}
            none="not said"
            readOnly={readOnly}
            onPick={(surface) => void answer({ surface })}
          />
          {figure("longest_ride_h")}
          <Choice
            label="Experience"
            options={words.experience}
            value={intake.experience}
            none="not said"
            readOnly={readOnly}
            onPick={(experience) => void answer({ experience })}
          />
          <Choice
            label="Notices"
            options={words.notices}
            value={intake.notices}
            none="not said"
            readOnly={readOnly}
            onPick={(notices) => void answer({ notices })}
          />
        </div>
        {line("event", "Trains for")}
        <div className="field-grid">
          {figure("event_h")}
          <Tick
            label="A run follows"
            on={intake.run_follows}
            readOnly={readOnly}
            onTick={(run_follows) => void answer({ run_follows })}
          />
          {figure("usual_climb_percent")}
        </div>
        <details>
          <summary>Wind, where it was measured</summary>
          <p className="number-hint">Watts are told from all three and never from nothing.</p>
          <div className="field-grid">
            {figure("drag_area_m2")}
            {figure("air_density_kg_m3")}
            {figure("speed_m_s")}
          </div>
        </details>
        {line("load", "Ridden lately")}
        <Tick
          label="It rose suddenly: a cause of its own"
          on={intake.load_rose}
          readOnly={readOnly}
          onTick={(load_rose) => void answer({ load_rose })}
        />
      </section>
      <section aria-labelledby="day">
        <h3 id="day">The rest of the day</h3>
        <div className="field-grid">
          {line("work", "Work")}
          {figure("seated_h")}
        </div>
      </section>
    </>
  );
}
