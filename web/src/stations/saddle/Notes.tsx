import { useState } from "react";
import type { SaddleNotes, SaddleView } from "../../api/types";
import { saveSaddle } from "../../fit/sends";
import { useFit } from "../../fit/useFit";
import { Choice } from "../../ui/Choice";
import { number } from "../../ui/format";
import { NumberField } from "../../ui/NumberField";
import { Problem } from "../../ui/Problem";

const MM = { unit: "mm" as const, step: 1, fine_step: 0.5 };

/** What was noted of the saddle, and what there is to say about it. */
export function Notes({ saddle }: { saddle: SaddleView }) {
  const { catalogue, still: readOnly, told } = useFit();
  const write = (change: Partial<SaddleNotes>) => told(saveSaddle(change));
  const { notes } = saddle;
  const [wrong, setWrong] = useState<string>();
  const pick = (change: Partial<SaddleNotes>) => void write(change).then(setWrong);
  const length = (text: string, key: "sits_ahead_mm") => (
    <NumberField
      label={text}
      fieldKey={`notes.${key}`}
      spec={MM}
      value={notes[key] ?? undefined}
      readOnly={readOnly}
      onCommit={(value) => write({ [key]: value })}
    />
  );
  const { yes_no, relief, nose } = catalogue.words;
  const asked = (text: string, key: "shuffles" | "rubs" | "aside") => (
    <Choice
      label={text}
      options={yes_no}
      value={notes[key]}
      none="nobody asked"
      readOnly={readOnly}
      onPick={(value) => pick({ [key]: value })}
    />
  );
  return (
    <section aria-label="The saddle itself">
      <h2>The saddle itself</h2>
      {saddle.advice.map((words) => (
        <p key={words} className="apart">
          {words}.
        </p>
      ))}
      <div className="field-grid">
        <Choice
          label="Relief"
          options={relief}
          value={notes.relief}
          none="nobody looked"
          readOnly={readOnly}
          onPick={(value) => pick({ relief: value })}
        />
        <Choice
          label="Nose"
          options={nose}
          value={notes.nose}
          none="nobody looked"
          readOnly={readOnly}
          onPick={(value) => pick({ nose: value })}
        />
        {asked("Keeps shuffling", "shuffles")}
        {asked("Rubs the thighs", "rubs")}
        {asked("Sits to one side or twisted", "aside")}
        {length("Really sits ahead of the sit reference", "sits_ahead_mm")}
      </div>
      <Problem words={wrong} />
      {notes.sits_ahead_mm != null && (
        <p className="number-hint">The linkage sits {number(notes.sits_ahead_mm, "mm")} mm ahead from now on.</p>
      )}
    </section>
  );
}
