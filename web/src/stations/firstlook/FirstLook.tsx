import { Button } from "@chakra-ui/react";
import { useQueryClient } from "@tanstack/react-query";
import { useState } from "react";
import type { Catalogue, LookBody, Method, Output, SeenRow, SessionView, Side, Unit } from "../../api/types";
import { words } from "../../api/client";
import { sessionQuery } from "../../api/queries";
import { Scales } from "../../cards/Scales";
import { StandIn } from "../../cards/StandIn";
import { WorthReading } from "../../cards/WorthReading";
import { see } from "../../fit/sends";
import { frontShare, takeSignsDown } from "../../fit/standIn";
import { useFit } from "../../fit/useFit";
import { Choice } from "../../ui/Choice";
import { number, suffix, sentence } from "../../ui/format";
import { Keycap } from "../../ui/Keycap";
import { NumberField } from "../../ui/NumberField";
import { Problem } from "../../ui/Problem";
import { WordsField } from "../../ui/WordsField";
import { outputOf } from "../../fit/fields";
import { Signs } from "../../cards/Signs";
import { Eyes } from "../../cards/Eyes";
import { HeadRow } from "../../ui/HeadRow";

type Words = Catalogue["words"];

/** How many of the angles stand open. */
const COMMON = 7;

const METHODS: { key: Method; label: string }[] = [
  { key: "goniometer", label: "goniometer, ± 3°" },
  { key: "film", label: "a frame of film, ± 2°" },
];

/** What is no angle is read with a thing of its own: a line and a tape, or a scale under each wheel. */
const WITH: Partial<Record<Unit, Method>> = { mm: "tape", percent: "scales" };

/** What was seen on the setup that is on the bench, readings of one output together. */
function seenOf(view: SessionView, output: Output, side: Side | null): SeenRow | undefined {
  return view.seen.findLast(({ entry }) => {
    if (entry.setup !== view.session.now || !("seen" in entry.body)) return false;
    const { seen } = entry.body;
    return seen.output === output && (seen.side ?? null) === side && (entry.hands ?? null) === view.now.after.hands;
  });
}

/** The first look: what is seen of the rider, beside what is foreseen. */
export function FirstLook() {
  const { view, catalogue, finished, told } = useFit();
  const [method, setMethod] = useState<Method>("goniometer");
  const onSee: See = (body) => told(see(body));
  return (
    <>
      <Head />
      <Eyes session={view.session.id} />
      <StandInHere />
      <Scales onKeep={({ weighed }) => onSee(frontShare(weighed))} />
      <WorthReading />
      <Choice
        label={`Angles are read by, hands on the ${view.now.after.hands}`}
        options={METHODS}
        value={method}
        readOnly={finished}
        onPick={(key) => key && setMethod(key)}
      />
      <Angles method={method} onSee={onSee} />
      <Looks words={catalogue.words} onSee={onSee} />
      <SeenList rows={view.seen} onSee={onSee} />
    </>
  );
}

/** A rider who is not there, at the look. */
function StandInHere() {
  const { view, draft, setText } = useFit();
  const queries = useQueryClient();
  const key = "look.words";
  return (
    <StandIn
      onWords={(said) => {
        // What the fitter has typed stays.
        if (draft.texts[key] === undefined) setText(key, said);
      }}
      onTakeDown={(said) =>
        takeSignsDown(view.session.id, said).then(
          (fresh) => void queries.setQueryData(sessionQuery(view.session.id).queryKey, fresh),
          (error: unknown) => words(error),
        )
      }
    />
  );
}

/** Writes down what is seen; answers what is wrong with it. */
type See = (body: LookBody) => Promise<string | undefined>;

/** What to do, and the model fitted to what was seen. */
function Head() {
  const { view, finished, problem, calibrate, shown } = useFit();
  return (
    <section className="card" aria-labelledby="first-look">
      <h2 id="first-look">First look</h2>
      <p className="task">
        {view.session.effort
          ? `Have the rider hold ${number(view.session.effort.power_w)} W at ${number(view.session.effort.cadence_rpm)} rpm, then read.`
          : "Name the effort above, have the rider hold it, then read."}
      </p>
      {view.calibration?.words && <p className="warn">{sentence(view.calibration.words)}</p>}
      {!finished && (
        <div className="buttons">
          <Button variant="solid" disabled={view.sightings === 0} onClick={() => calibrate(true)}>
            {view.calibration?.on ? "Fit the model anew" : "Fit the model to what was seen"}
          </Button>
          {view.calibration?.calibration && (
            <Button aria-pressed={shown.is("page")} onClick={() => shown.toggle("page")}>
              Calibration <Keycap>C</Keycap>
            </Button>
          )}
        </div>
      )}
      <Problem words={problem} />
    </section>
  );
}

/** Every angle that can be read, left and right, beside what is foreseen. */
function Angles({ method, onSee }: { method: Method; onSee: See }) {
  const { view, catalogue, finished, draft, setText } = useFit();
  const [all, setAll] = useState(false);
  const outputs = all ? catalogue.sightings : catalogue.sightings.slice(0, COMMON);

  const field = (output: Output, side: Side | null) => {
    const spec = outputOf(catalogue, output);
    if (!spec) return null;
    const key = `look.${output}${side ? `.${side}` : ""}`;
    const seen = seenOf(view, output, side);
    const together = seen?.together;
    return (
      <NumberField
        key={key}
        label={`${spec.label}${side ? `, ${side}` : ""}, seen`}
        labelHidden
        fieldKey={key}
        spec={{ unit: spec.unit, step: 1, fine_step: 0.5, min: spec.seen_min, max: spec.seen_max }}
        value={together?.mean}
        hint={together && together.count > 1 ? `of ${together.count}` : undefined}
        typed={draft.texts[key]}
        onTyped={(text) => setText(key, text)}
        readOnly={finished}
        onCommit={(read) => onSee({ seen: { output, side, value: read, method: WITH[spec.unit] ?? method } })}
      />
    );
  };

  return (
    <>
      <table className="rows look">
        <caption>Seen, beside what is foreseen</caption>
        <HeadRow columns={["", "left", "right", "foreseen"]} />
        <tbody>
          {outputs.map((output) => {
            const spec = outputOf(catalogue, output);
            const rows = view.now.rows.filter((row) => row.output === output);
            if (!spec || rows.length === 0) return null;
            return (
              <tr key={output} title={spec.convention}>
                <th scope="row">
                  {spec.label}
                  {all && <span className="how">{rows[0]?.convention}</span>}
                </th>
                {spec.per_side ? (
                  <>
                    <td>{field(output, "left")}</td>
                    <td>{field(output, "right")}</td>
                  </>
                ) : (
                  <>
                    <td />
                    <td>{field(output, null)}</td>
                  </>
                )}
                <td className="foreseen-cell">
                  {rows.map((row) => (
                    <span key={row.side ?? ""}>
                      {number(row.after, row.unit)}
                      {suffix(row.unit)}
                      <span className="band">± {number(row.band ?? 0, row.unit)}</span>
                    </span>
                  ))}
                </td>
              </tr>
            );
          })}
        </tbody>
      </table>
      <button type="button" className="more" onClick={() => setAll(!all)}>
        {all ? "The common angles" : `All ${catalogue.sightings.length} that can be read`}
      </button>
    </>
  );
}

/** How knees, pelvis and shoulders look, and what else was seen. */
function Looks({ words, onSee }: { words: Words; onSee: See }) {
  const { view, finished: readOnly, draft, setText } = useFit();
  const last = (kind: "pelvis" | "shoulders" | "words") =>
    view.seen.map(({ entry }) => entry.body).findLast((body) => kind in body);
  const knee = (side: Side) => {
    const body = view.seen.map(({ entry }) => entry.body).findLast((b) => "knee" in b && b.knee.side === side);
    return body && "knee" in body ? body.knee.path : null;
  };
  const bend = (side: Side) => {
    const body = view.seen.map(({ entry }) => entry.body).findLast((b) => "bend" in b && b.bend.side === side);
    return body && "bend" in body ? body.bend.bend : null;
  };
  const pelvis = last("pelvis");
  const shoulders = last("shoulders");
  const said = last("words");
  const spoken = said && "words" in said ? said.words : "";

  return (
    <>
      <div className="field-grid">
        {(["left", "right"] as const).map((side) => (
          <Choice
            key={side}
            label={`Knee path, ${side}`}
            options={words.knee_path}
            value={knee(side)}
            none="not looked"
            readOnly={readOnly}
            onPick={(path) => path && void onSee({ knee: { side, path } })}
          />
        ))}
        {(["left", "right"] as const).map((side) => (
          <Choice
            key={`bend ${side}`}
            label={`Slow bend to a third, ${side}`}
            options={words.knee_bend}
            value={bend(side)}
            none="not looked"
            readOnly={readOnly}
            onPick={(to) => to && void onSee({ bend: { side, bend: to } })}
          />
        ))}
        <Choice
          label="Pelvis"
          options={words.pelvis}
          value={pelvis && "pelvis" in pelvis ? pelvis.pelvis : null}
          none="not looked"
          readOnly={readOnly}
          onPick={(seen) => seen && void onSee({ pelvis: seen })}
        />
        <Choice
          label="Shoulders"
          options={words.shoulders}
          value={shoulders && "shoulders" in shoulders ? shoulders.shoulders : null}
          none="not looked"
          readOnly={readOnly}
          onPick={(seen) => seen && void onSee({ shoulders: seen })}
        />
      </div>
      {view.front_views.map((leg) => (
        <p key={leg.side} className={leg.agrees === false ? "warn" : undefined}>
          <b>From the front, {leg.side}:</b> {leg.words}
        </p>
      ))}
      <h3 className="signs-head">Signs</h3>
      <Signs
        signs={view.seen.flatMap(({ entry: { body } }) =>
          "sign" in body && body.sign.there != null ? [body.sign] : [],
        )}
        weights={view.seen.flatMap(({ entry: { body } }) => ("hand" in body ? [body.hand] : []))}
        readOnly={readOnly}
        onSign={(sign) => void onSee({ sign })}
        onHand={(hand) => onSee({ hand })}
      />
      <div className="look-words">
        <WordsField
          label="What else was seen, what the rider said"
          rows={2}
          value={spoken}
          typed={draft.texts["look.words"]}
          readOnly={readOnly}
          onTyped={(text) => setText("look.words", text)}
          onCommit={(text) => onSee({ words: text })}
        />
      </div>
    </>
  );
}

/** Everything seen, with what was foreseen of it then; the last reading of an angle can be taken back. */
function SeenList({ rows, onSee }: { rows: SeenRow[]; onSee: See }) {
  const { view, finished } = useFit();
  // Only of what stands on the bench is there still something to read.
  const here = ({ entry }: SeenRow) =>
    !finished && entry.setup === view.session.now && (entry.hands ?? null) === view.now.after.hands;
  const angles = rows.flatMap((row) => ("seen" in row.entry.body ? [{ ...row, seen: row.entry.body.seen }] : []));
  if (angles.length === 0) return null;
  return (
    <table className="rows seen-list">
      <caption>Foreseen against seen, as it stood then</caption>
      <tbody>
        {angles.map(({ seen, ...row }) => (
          <tr key={row.entry.id}>
            <th scope="row">
              {row.label}
              <span className="how">{row.convention}</span>
              {row.question != null && <span className="mark">{row.question}</span>}
            </th>
            <td>{row.foreseen}</td>
            <td className="seen-words">
              <b>{row.words}</b>
              {here(row) && (
                <button
                  type="button"
                  className="more"
                  aria-label={`Take the last reading back: ${row.label.toLowerCase()}`}
                  onClick={() => void onSee({ seen: { ...seen, value: null } })}
                >
                  take back
                </button>
              )}
            </td>
          </tr>
        ))}
      </tbody>
    </table>
  );
}
