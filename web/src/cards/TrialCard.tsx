import { sentence } from "../ui/format";
import { List } from "../ui/List";
import { Eyes } from "./Eyes";
import { FrontWorkCard } from "./FrontWorkCard";
import { HurtsNow } from "./Hurts";
import { Places, placed, placeWords } from "./Places";
import { Scales } from "./Scales";
import { Signs } from "./Signs";
import { StandIn } from "./StandIn";
import "./TrialCard.css";
import { Button } from "@chakra-ui/react";
import { detail } from "../api/client";
import type { Catalogue, EntryBody, Felt, Sure, TrialView, Verdict } from "../api/types";
import { barOf } from "../fit/fields";
import { useFit } from "../fit/useFit";
import { Keycap } from "../ui/Keycap";
import { NumberField } from "../ui/NumberField";
import { Problem } from "../ui/Problem";

const VERDICTS: [Verdict, string][] = [
  ["better", "Better"],
  ["same", "Same"],
  ["worse", "Worse"],
];

/** The trial on the bench: why, each bolt, the effort, how the rider finds it, and what becomes of it. */
export function TrialCard({ trial }: { trial: TrialView }) {
  const { view, catalogue, problem, draft, edit, enter, settle, asked } = useFit();
  const onEnter: Enter = (body) => enter(body).then(detail);
  const { title, turns, notes, hands } = trial.trial.foreseen;
  return (
    <section className="card foreseen" aria-labelledby="on-bench">
      <h2 id="on-bench">Trial {trial.trial.number}, on the bench</h2>
      <p className={title.length > 18 ? "title long" : "title"}>{title}</p>
      {trial.why != null && <p className="why">Why: {trial.why}</p>}
      <ul>
        {hands != null && <li>{hands}</li>}
        {turns.map((turn) => (
          <li key={`${turn.quantity}${turn.side ?? ""}`}>{turn.words}</li>
        ))}
        {notes.map((note) => (
          <li key={note} className="warn">
            {note}
          </li>
        ))}
        {trial.unlike != null && (
          <li className="warn">{sentence(trial.unlike)} It is not compared with the trial before.</li>
        )}
      </ul>
      {trial.front_work.length > 0 && (
        <FrontWorkCard trial={trial} onDone={(step, done) => void onEnter({ done: { step, done } })} />
      )}
      <Ridden trial={trial} onEnter={onEnter} />
      <Eyes session={view.session.id} />
      <Held trial={trial} onEnter={onEnter} />
      <StandIn
        onWords={(said) => {
          // What the fitter has typed stays.
          if (!draft.words) edit(() => ({ words: said }));
        }}
        onTakeDown={async (said) => {
          const of = said.trial;
          const bodies: EntryBody[] = [
            ...(of ? [{ verdict: of.verdict }, { sure: of.sure }, { felt: of.felt }] : []),
            ...(of?.hurts ?? []).map((hurts) => ({ hurts })),
            ...said.signs.flatMap(({ body }) => ("sign" in body ? [{ sign: body.sign }] : [])),
          ];
          for (const body of bodies) {
            const wrong = await onEnter(body);
            if (wrong !== undefined) return wrong;
          }
          return undefined;
        }}
      />
      <Scales
        onKeep={({ weighed }) =>
          onEnter({ seen: { output: "front_share_percent", side: null, value: weighed.front_percent } })
        }
      />
      <div className="buttons verdicts" role="group" aria-label="How the rider finds it">
        {VERDICTS.map(([verdict, label]) => (
          <Button
            key={verdict}
            variant="subtle"
            flex="1"
            minWidth="0"
            paddingInline="8px"
            aria-pressed={trial.verdict === verdict}
            onClick={() => void onEnter({ verdict })}
          >
            {trial.verdict === verdict ? `✓ ${label}` : label}{" "}
            <Keycap>{`${VERDICTS.findIndex(([v]) => v === verdict) + 1}`}</Keycap>
          </Button>
        ))}
      </div>
      <Where trial={trial} catalogue={catalogue} onEnter={onEnter} />
      <HurtsNow hurts={trial.hurts} catalogue={catalogue} onHurts={(hurts) => onEnter({ hurts })} />
      <Signs
        signs={trial.signs}
        weights={trial.hand_weights}
        onSign={(sign) => void onEnter({ sign })}
        onHand={(hand) => onEnter({ hand })}
      />
      <div className="text-field" style={{ marginTop: 8 }}>
        <label htmlFor="words">What the rider said</label>
        <textarea
          id="words"
          rows={2}
          value={draft.words || (trial.words ?? "")}
          maxLength={2000}
          onChange={(event) => edit(() => ({ words: event.target.value }))}
        />
      </div>
      {asked && (
        <p className="warn" role="alert">
          Nobody said how the rider finds it: 1 better, 2 same, 3 worse. Keep once more keeps it all the same.
        </p>
      )}
      <div className="buttons">
        <Button variant="solid" onClick={() => void settle("kept")}>
          Keep <Keycap>K</Keycap>
        </Button>
        <Button onClick={() => void settle("put_back")}>
          Put back <Keycap>Z</Keycap>
        </Button>
      </div>
      <Problem words={problem} />
    </section>
  );
}

/** Enters something; answers what is wrong with it. */
type Enter = (body: EntryBody) => Promise<string | undefined>;

const MINUTES = { unit: "size", step: 5, fine_step: 1, min: 0, max: 1440 } as const;

/** For how long it was held: on pads the position that can be held is the fast one. */
function Held({ trial, onEnter }: { trial: TrialView; onEnter: Enter }) {
  const { view } = useFit();
  if (barOf(view.input.setup) !== "aero") return null;
  const held = trial.trial.entries.flatMap(({ body }) => ("held" in body ? [body.held] : []));
  return (
    <NumberField
      label="Held, minutes"
      fieldKey="trial.held"
      spec={MINUTES}
      value={held.length === 0 ? undefined : Math.max(...held)}
      placeholder="not yet"
      onCommit={(minutes) => onEnter({ held: minutes })}
    />
  );
}

/** The effort as ridden, where it was another than the fit's. */
function Ridden({ trial, onEnter }: { trial: TrialView; onEnter: Enter }) {
  const power_w = trial.effort?.power_w ?? 150;
  const cadence_rpm = trial.effort?.cadence_rpm ?? 90;
  return (
    <div className="felt" role="group" aria-label="Ridden at">
      <NumberField
        label="Ridden at"
        fieldKey="trial.power_w"
        spec={{ unit: "w", step: 10, fine_step: 1 }}
        value={trial.effort?.power_w}
        placeholder="?"
        onCommit={(power) => onEnter({ effort: { power_w: power, cadence_rpm } })}
      />
      <NumberField
        label="at"
        fieldKey="trial.cadence_rpm"
        spec={{ unit: "rpm", step: 5, fine_step: 1 }}
        value={trial.effort?.cadence_rpm}
        placeholder="?"
        onCommit={(cadence) => onEnter({ effort: { power_w, cadence_rpm: cadence } })}
      />
    </div>
  );
}

/** Where it is felt, and how sure the rider is. */
function Where({ trial, catalogue, onEnter }: { trial: TrialView; catalogue: Catalogue; onEnter: Enter }) {
  const label = (felt: Felt) => placeWords(catalogue, felt);
  const add = (key: string) => {
    const felt: Felt = placed(key);
    if (!trial.felt.some((f) => label(f) === label(felt))) void onEnter({ felt: [...trial.felt, felt] });
  };
  return (
    <div className="felt">
      {trial.felt.map((felt) => (
        <button
          key={label(felt)}
          type="button"
          className="chip"
          aria-label={`${label(felt)}: take it away`}
          onClick={() => void onEnter({ felt: trial.felt.filter((f) => f !== felt) })}
        >
          {label(felt)} ×
        </button>
      ))}
      <List id="felt-where" label="Where it is felt" value="" onPick={add}>
        <option value="">where it is felt…</option>
        <Places catalogue={catalogue} />
      </List>
      <List
        id="how-sure"
        label="How sure"
        value={trial.sure ?? ""}
        onPick={(key) => void onEnter({ sure: key as Sure })}
      >
        <option value="" disabled>
          how sure…
        </option>
        {catalogue.words.sure.map((sure) => (
          <option key={sure.key} value={sure.key}>
            {sure.label}
          </option>
        ))}
      </List>
    </div>
  );
}
