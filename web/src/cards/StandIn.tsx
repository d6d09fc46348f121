import { Button } from "@chakra-ui/react";
import { useQueryClient } from "@tanstack/react-query";
import { useState } from "react";
import { Link } from "react-router";
import { newId, words } from "../api/client";
import { takesQuery } from "../api/queries";
import type { Given, Spoken } from "../api/types";
import { type DeviceTaking, hear, takeTenSeconds } from "../fit/standIn";
import { useFit } from "../fit/useFit";
import { Problem } from "../ui/Problem";

interface StandInProps {
  /** What he says is put where the fitter writes, to be overwritten. */
  onWords: (words: string) => void;
  /** What he says is taken down as it is. */
  onTakeDown: (said: Spoken) => Promise<string | undefined>;
}

/** A rider who is not there: ten seconds of him by the devices, and what he says. Everything of him is simulated. */
export function StandIn({ onWords, onTakeDown }: StandInProps) {
  const { view, finished } = useFit();
  const [said, setSaid] = useState<Spoken>();
  const [down, setDown] = useState(false);
  const [wrong, setWrong] = useState<string>();
  if (!view.rider.simulated || finished) return null;
  const ask = () => {
    setWrong(undefined);
    setDown(false);
    hear(view.session.id).then(
      (spoken) => {
        setSaid(spoken);
        onWords(spoken.words);
      },
      (error: unknown) => setWrong(words(error)),
    );
  };
  const takeDown = (spoken: Spoken) =>
    void onTakeDown(spoken).then((error) => {
      setWrong(error);
      setDown(error === undefined);
    });
  return (
    <section className="stand-in" aria-labelledby="stand-in">
      <h3 id="stand-in">
        Simulated rider <span className="how">nobody sits there</span>
      </h3>
      <div className="buttons">
        <TenSeconds session={view.session.id} onWrong={setWrong} />
        <Button onClick={ask}>Ask him</Button>
      </div>
      {said && (
        <div role="status">
          <p className="said-words">“{said.words}”</p>
          {said.signs.length > 0 && <p>Seen: {said.signs.map((sign) => sign.words.toLowerCase()).join("; ")}.</p>}
          {down ? (
            <p className="soft">Taken down, marked simulated.</p>
          ) : (
            (said.trial != null || said.signs.length > 0) && (
              <Button onClick={() => takeDown(said)}>
                Take down{said.trial ? `: ${said.trial.verdict}` : " what is seen"}
              </Button>
            )
          )}
        </div>
      )}
      <Problem words={wrong} />
    </section>
  );
}

/** Ten seconds by the camera and the trainer. What fails is told, and kept or dropped as the fitter says. */
function TenSeconds({ session, onWrong }: { session: string; onWrong: (words: string | undefined) => void }) {
  const queries = useQueryClient();
  const [busy, setBusy] = useState(false);
  const [kept, setKept] = useState(0);
  const [broken, setBroken] = useState<{ id: string; of: DeviceTaking; given: Given }>();
  const take = async (id: string, of: DeviceTaking, keep: boolean): Promise<boolean> => {
    const given = await takeTenSeconds(session, { id, of, keep });
    if (given.takes) {
      queries.setQueryData(takesQuery(session).queryKey, given.takes);
      setKept((n) => n + 1);
    }
    const failed = given.trouble != null && !given.takes;
    setBroken(failed ? { id, of, given } : undefined);
    return !failed;
  };
  const run = (work: () => Promise<unknown>) => {
    setBusy(true);
    onWrong(undefined);
    void work()
      .catch((error: unknown) => onWrong(words(error)))
      .finally(() => {
        setBusy(false);
        void queries.invalidateQueries({ queryKey: ["session", session] });
      });
  };
  const both = async () => (await take(newId(), "camera", false)) && take(newId(), "trainer", false);
  return (
    <>
      <Button variant="solid" disabled={busy} onClick={() => run(both)}>
        {busy ? "Taking…" : "Take ten seconds"}
      </Button>
      {broken?.given.trouble && (
        <div className="broken" role="alert">
          <p>{broken.given.trouble.words}</p>
          {broken.given.keepable && (
            <Button onClick={() => run(() => take(broken.id, broken.of, true))}>Keep what came</Button>
          )}
          <Button onClick={() => setBroken(undefined)}>{broken.given.keepable ? "Drop it" : "Leave it"}</Button>
        </div>
      )}
      {kept > 0 && !broken && (
        <p role="status" className="soft">
          Kept, simulated: see <Link to={`/sessions/${session}/takes`}>Takes</Link>.
        </p>
      )}
    </>
  );
}
