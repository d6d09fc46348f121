import { Button } from "@chakra-ui/react";
import type { TrialView, Verdict } from "../api/types";
import { Keycap } from "../ui/Keycap";

interface TrialCardProps {
  trial: TrialView;
  words: string;
  problem: string | undefined;
  onWords: (words: string) => void;
  onVerdict: (verdict: Verdict) => void;
  onKeep: () => void;
  onPutBack: () => void;
}

const VERDICTS: [Verdict, string][] = [
  ["better", "Better"],
  ["same", "Same"],
  ["worse", "Worse"],
];

/** The trial on the bench: each bolt, how the rider finds it, what the rider says, and what becomes of it. */
export function TrialCard(props: TrialCardProps) {
  const { trial, words, problem } = props;
  const { title, turns, notes } = trial.trial.foreseen;
  return (
    <section className="card foreseen" aria-labelledby="on-bench">
      <h2 id="on-bench">Trial {trial.trial.number}, on the bench</h2>
      <p className={title.length > 18 ? "title long" : "title"}>{title}</p>
      <ul>
        {turns.map((turn) => (
          <li key={`${turn.quantity}${turn.side ?? ""}`}>{turn.words}</li>
        ))}
        {notes.map((note) => (
          <li key={note} className="warn">
            {note}
          </li>
        ))}
      </ul>
      <div className="buttons" role="group" aria-label="How the rider finds it">
        {VERDICTS.map(([verdict, label]) => (
          <Button
            key={verdict}
            variant="subtle"
            aria-pressed={trial.verdict === verdict}
            onClick={() => props.onVerdict(verdict)}
          >
            {trial.verdict === verdict ? `✓ ${label}` : label}
          </Button>
        ))}
      </div>
      <div className="text-field" style={{ marginTop: 10 }}>
        <label htmlFor="words">What the rider said</label>
        <textarea id="words" rows={2} value={words} maxLength={2000} onChange={(e) => props.onWords(e.target.value)} />
      </div>
      <div className="buttons">
        <Button variant="solid" onClick={props.onKeep}>
          Keep <Keycap>K</Keycap>
        </Button>
        <Button onClick={props.onPutBack}>
          Put back <Keycap>Z</Keycap>
        </Button>
      </div>
      {problem && (
        <p className="number-error" role="alert">
          {problem}
        </p>
      )}
    </section>
  );
}
