import { Button } from "@chakra-ui/react";
import { useState } from "react";
import { words } from "../api/client";
import type { StandMoves } from "../api/types";
import { sendStand } from "../fit/standIn";
import { useFit } from "../fit/useFit";
import { Problem } from "../ui/Problem";

/** A fit on a stand: it is sent to the setup on the bench, and says where it stands. */
export function FitStand() {
  const { view, finished } = useFit();
  const [moves, setMoves] = useState<StandMoves>();
  const [wrong, setWrong] = useState<string>();
  if (!view.bike.stand || finished) return null;
  const send = () => {
    setWrong(undefined);
    sendStand(view.session.id).then(setMoves, (error: unknown) => setWrong(words(error)));
  };
  return (
    <section className="card" aria-labelledby="fit-stand">
      <h2 id="fit-stand">Fit stand</h2>
      <p className="task">
        Saddle and front slide to the millimetre. Send it to what stands on the board, while the rider pedals.
      </p>
      <div className="buttons">
        <Button onClick={send}>Send it there (simulated)</Button>
      </div>
      {moves && (
        <div role="status">
          <p>{moves.words}</p>
          {moves.trouble && <p className="warn">{moves.trouble.words}</p>}
        </div>
      )}
      <Problem words={wrong} />
    </section>
  );
}
