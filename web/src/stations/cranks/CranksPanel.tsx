import type { FrameLabel } from "../../api/types";
import { AskedLimits } from "../../cards/AskedLimits";
import { ToPage } from "../../cards/LongPage";
import { Findings } from "../../cards/Findings";
import { SchoolScale } from "../../cards/SchoolScale";
import { Starts } from "../../cards/Starts";
import { proposed, useMoves } from "../../cards/useMoves";
import { labelFrame } from "../../fit/sends";
import { useFit } from "../../fit/useFit";
import { Choice } from "../../ui/Choice";
import { useCranks } from "./useCranks";

/** What is known to go wrong, and the schools of crank length. */
export function CranksPanel() {
  const { catalogue, still, tried, post, view } = useFit();
  const cranks = useCranks().answer.data;
  useMoves([proposed(cranks?.scale)]);
  if (!cranks) return null;
  return (
    <>
      <AskedLimits asked={cranks.asked} />
      {cranks.alarms.map((words) => (
        <p key={words} className="alarm">
          {words}.
        </p>
      ))}
      {cranks.signs.map((words) => (
        <p key={words} className="apart">
          {words}.
        </p>
      ))}
      {!still && !view.run && <Starts starts={cranks.starts} />}
      <div className="buttons">
        <ToPage words="Limits, and another crank by intent" />
      </div>
      <SchoolScale title="Crank" scale={cranks.scale} wanted={tried({ key: "crank_mm", quantity: "crank_mm" })} />
      <Findings title="Found in this fit" findings={cranks.findings} />
      <Choice<FrameLabel>
        label="The frame is labelled"
        options={catalogue.words.frame_label}
        value={cranks.label}
        none="nobody looked"
        readOnly={still}
        onPick={(label) => label && void post(labelFrame(label))}
      />
    </>
  );
}
