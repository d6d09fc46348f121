import { Button } from "@chakra-ui/react";
import { detail } from "../api/client";
import { useFit } from "../fit/useFit";
import { Keycap } from "../ui/Keycap";
import { Problem } from "../ui/Problem";

/** Your change: what was stepped, what to mind, and the way to try it. */
export function ChangeCard() {
  const { station, foresight, pending, refused, problem, insisted, ...fit } = useFit();
  return (
    <section className={pending ? "card foreseen" : "card"} aria-labelledby="your-change">
      <h2 id="your-change">Your change</h2>
      {pending ? (
        <>
          <p className={foresight.title.length > 18 ? "title long" : "title"} data-testid="change-title">
            {foresight.title || "No bolt moves"}
          </p>
          <Problem words={detail(refused)} />
          <ul>
            {foresight.hands != null && <li>{foresight.hands}</li>}
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
              <input type="checkbox" checked={insisted} onChange={(event) => fit.insist(event.target.checked)} />
              <span>{foresight.insist.join(" ")} I insist.</span>
            </label>
          )}
          <div className="text-field" style={{ marginTop: 8 }}>
            <label htmlFor="why">Why</label>
            <input
              id="why"
              value={fit.why}
              maxLength={2000}
              autoComplete="off"
              onChange={(event) => fit.setWhy(event.target.value)}
              onKeyDown={(event) => {
                if (event.key === "Enter") fit.begin();
              }}
            />
          </div>
          <div className="buttons">
            <Button variant="solid" disabled={!fit.ready} onClick={fit.begin}>
              Try it <Keycap>Enter</Keycap>
            </Button>
            <Button onClick={fit.leave}>Leave it</Button>
            {foresight.offers.map((offer) => (
              <Button key={offer.title} whiteSpace="normal" textAlign="left" onClick={() => fit.foresee(offer.changes)}>
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
      <Problem words={problem} />
    </section>
  );
}
