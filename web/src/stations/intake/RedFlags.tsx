import { Button, chakra } from "@chakra-ui/react";
import { useState } from "react";
import { Link } from "react-router";
import { Problem } from "../../ui/Problem";
import { useIntake } from "./useIntake";

/** What stops the fit, and the written reason it takes to go on. */
export function RedFlags() {
  const { view, intake, readOnly, texts, setText, answer } = useIntake();
  const { stops, stopped } = view;
  if (stops.length === 0) return null;
  const key = "intake.go_on";
  const reason = texts[key] ?? intake.go_on?.reason ?? "";
  const goOn = async () => {
    const error = await answer({ go_on: { reason: reason.trim(), flags: stops.map((s) => s.flag) } });
    if (error) return error.at("/reason") ?? error.message;
    setText(key, undefined);
    return undefined;
  };
  return (
    <section className={stopped ? "card stop" : "card"} aria-labelledby="stop" role={stopped ? "alert" : undefined}>
      <h2 id="stop">{stopped ? "Stop: do not fit today" : "The fit goes on for a written reason"}</h2>
      {stops.map((stop) => (
        <div key={stop.flag} className="stop-flag">
          <p className="task">{stop.label}</p>
          <p>{stop.why}</p>
          <p className="warn">{stop.instead}</p>
        </div>
      ))}
      <p>
        <chakra.span color="tide" textDecoration="underline">
          <Link to={`/sessions/${view.session.id}/plan`}>Refer to somebody, with a letter</Link>
        </chakra.span>
      </p>
      <GoOn reason={reason} readOnly={readOnly} stopped={stopped} onText={(text) => setText(key, text)} onGoOn={goOn} />
    </section>
  );
}

interface GoOnProps {
  reason: string;
  readOnly: boolean;
  stopped: boolean;
  onText: (text: string) => void;
  onGoOn: () => Promise<string | undefined>;
}

function GoOn({ reason, readOnly, stopped, onText, onGoOn }: GoOnProps) {
  const [wrong, setWrong] = useState<string>();
  return (
    <>
      <div className="text-field" style={{ marginTop: 10 }}>
        <label htmlFor="go-on">Going on all the same needs a written reason. It lands on the hand-out.</label>
        <textarea
          id="go-on"
          rows={2}
          value={reason}
          readOnly={readOnly}
          onChange={(event) => onText(event.target.value)}
        />
      </div>
      <Problem words={wrong} />
      {!readOnly && (
        <div className="buttons">
          <Button disabled={reason.trim() === ""} onClick={() => void onGoOn().then(setWrong)}>
            {stopped ? "Go on for this reason" : "Change the reason"}
          </Button>
        </div>
      )}
    </>
  );
}
