import { Button } from "@chakra-ui/react";
import type { ApiError } from "../api/client";
import type { Foresight, StationSpec } from "../api/types";
import { Keycap } from "../ui/Keycap";

interface ChangeCardProps {
  station: StationSpec;
  foresight: Foresight;
  pending: boolean;
  refused: ApiError | undefined;
  trying: boolean;
  problem: string | undefined;
  why: string;
  onWhy: (why: string) => void;
  /** The fitter insists on what the trade does not do in one trial. */
  insisted: boolean;
  onInsist: (insisted: boolean) => void;
  onTry: () => void;
  onClear: () => void;
  onOffer: (index: number) => void;
}

/** Your change: what was stepped, what to mind, and the way to try it. */
export function ChangeCard(props: ChangeCardProps) {
  const { station, foresight, pending, refused, trying, problem } = props;
  const held = (foresight.insist?.length ?? 0) > 0 && !props.insisted;
  return (
    <section className={pending ? "card foreseen" : "card"} aria-labelledby="your-change">
      <h2 id="your-change">Your change</h2>
      {pending ? (
        <>
          <p className={foresight.title.length > 18 ? "title long" : "title"} data-testid="change-title">
            {foresight.title || "No bolt moves"}
          </p>
          {refused && (
            <p className="number-error" role="alert">
              {refused.errors[0]?.detail ?? refused.message}
            </p>
          )}
          <ul>
            {foresight.turns.map((turn) => (
              <li key={`${turn.quantity}${turn.side ?? ""}`}>{turn.words}</li>
            ))}
            {foresight.notes.map((note) => (
              <li key={note} className="warn">
                {note}
              </li>
            ))}
          </ul>
          {foresight.insist && foresight.insist.length > 0 && (
            <label className="insist">
              <input
                type="checkbox"
                checked={props.insisted}
                onChange={(event) => props.onInsist(event.target.checked)}
              />
              <span>{foresight.insist.join(" ")} I insist.</span>
            </label>
          )}
          <div className="text-field" style={{ marginTop: 8 }}>
            <label htmlFor="why">Why</label>
            <input
              id="why"
              value={props.why}
              maxLength={2000}
              autoComplete="off"
              onChange={(event) => props.onWhy(event.target.value)}
              onKeyDown={(event) => {
                if (event.key === "Enter") props.onTry();
              }}
            />
          </div>
          <div className="buttons">
            <Button
              variant="solid"
              disabled={trying || refused !== undefined || !foresight.title || held}
              onClick={props.onTry}
            >
              Try it <Keycap>Enter</Keycap>
            </Button>
            <Button onClick={props.onClear}>Leave it</Button>
            {foresight.offers.map((offer, index) => (
              <Button key={offer.title} whiteSpace="normal" textAlign="left" onClick={() => props.onOffer(index)}>
                {offer.title}: {offer.reason}
              </Button>
            ))}
          </div>
        </>
      ) : (
        <>
          <p className="task">{station.task}</p>
          {foresight.notes.length > 0 && (
            <ul>
              {foresight.notes.map((note) => (
                <li key={note} className="warn">
                  {note}
                </li>
              ))}
            </ul>
          )}
          <p style={{ marginTop: 8, lineHeight: 1.6 }}>
            <Keycap>↑</Keycap> <Keycap>↓</Keycap> step a dimension, or type it: all else answers before a bolt is
            turned.
          </p>
        </>
      )}
      {problem && (
        <p className="number-error" role="alert">
          {problem}
        </p>
      )}
    </section>
  );
}
