import { Button } from "@chakra-ui/react";
import { useQueryClient } from "@tanstack/react-query";
import { useId, useState } from "react";
import { words } from "../api/client";
import { sessionQuery } from "../api/queries";
import type { Keepable, TakesView } from "../api/types";
import { useKeys } from "../ui/keys";
import { Keycap } from "../ui/Keycap";
import { keep } from "./sends";

/** What the last take shows, to be written down at the look: ticked ones are kept. */
export function Keeping({ session, takes }: { session: string; takes: TakesView }) {
  const queries = useQueryClient();
  const id = useId();
  const [off, setOff] = useState<string[]>(() => takes.keepable.filter((one) => one.doubtful).map((one) => one.label));
  const [said, setSaid] = useState<string>();
  const [wrong, setWrong] = useState<string>();
  const [busy, setBusy] = useState(false);
  const chosen = takes.keepable.filter((one) => !off.includes(one.label));
  const isValue = (one: Keepable) => "seen" in one.body;
  const keepThem = async () => {
    if (busy || chosen.length === 0 || said) return;
    setBusy(true);
    try {
      const view = await keep(session, chosen);
      queries.setQueryData(sessionQuery(session).queryKey, view);
      setWrong(undefined);
      setSaid(`Kept at the look: ${chosen.length}.`);
    } catch (error) {
      setWrong(words(error));
    } finally {
      setBusy(false);
    }
  };
  useKeys({ k: () => void keepThem() });
  const line = (one: Keepable) => (
    <div key={one.label} className="tick">
      <input
        id={`${id} ${one.label}`}
        type="checkbox"
        checked={!off.includes(one.label)}
        disabled={said !== undefined}
        onChange={(event) =>
          setOff(event.target.checked ? off.filter((label) => label !== one.label) : [...off, one.label])
        }
      />
      <label htmlFor={`${id} ${one.label}`}>
        <b>{one.label}</b> <span className="soft">{one.words}</span>
      </label>
    </div>
  );
  const classes = takes.keepable.filter((one) => !isValue(one));
  const values = takes.keepable.filter(isValue);
  return (
    <section className="card keeping" aria-labelledby="keeping">
      <h2 id="keeping">What the last take shows</h2>
      {classes.map(line)}
      {values.length > 0 && (
        <details>
          <summary>
            {values.length} values, {values.filter((one) => !off.includes(one.label)).length} of them ticked
          </summary>
          {values.map(line)}
        </details>
      )}
      {said ? (
        <p role="status">{said}</p>
      ) : (
        <Button variant="solid" disabled={busy || chosen.length === 0} onClick={() => void keepThem()}>
          Keep {chosen.length} at the look <Keycap>K</Keycap>
        </Button>
      )}
      {wrong && (
        <p className="number-error" role="alert">
          {wrong}
        </p>
      )}
    </section>
  );
}
