import { Button } from "@chakra-ui/react";
import { useQuery } from "@tanstack/react-query";
import { useState } from "react";
import { words } from "../api/client";
import { weighedQuery } from "../api/queries";
import type { WeighedView } from "../api/types";
import { readScales } from "../fit/standIn";
import { useFit } from "../fit/useFit";
import { NumberField } from "../ui/NumberField";
import { Problem } from "../ui/Problem";

const KG = { unit: "kg", step: 0.5, fine_step: 0.1, min: 0, max: 200 } as const;

/** A scale under each wheel: what the front carries, beside what is estimated and aimed at. */
export function Scales({ onKeep }: { onKeep: (weighed: WeighedView) => Promise<string | undefined> }) {
  const { view, finished } = useFit();
  const [front, setFront] = useState<number>();
  const [rear, setRear] = useState<number>();
  const [kept, setKept] = useState(false);
  const [wrong, setWrong] = useState<string>();
  const id = view.session.id;
  const there = front !== undefined && rear !== undefined;
  const weighed = useQuery({
    ...weighedQuery(id, front ?? 0, rear ?? 0, view.version),
    enabled: there,
  });
  const typed = (set: (kg: number) => void) => (kg: number) => {
    set(kg);
    setKept(false);
    return undefined;
  };
  const read = () =>
    void readScales(id).then(
      ({ wheels, trouble }) => {
        setFront(wheels?.front_kg ?? undefined);
        setRear(wheels?.rear_kg ?? undefined);
        setKept(false);
        setWrong(trouble?.words);
      },
      (error: unknown) => setWrong(words(error)),
    );
  const keep = (read: WeighedView) =>
    void onKeep(read).then((error) => {
      setWrong(error);
      setKept(error === undefined);
    });
  if (finished) return null;
  return (
    <details className="scales">
      <summary>Scales under the wheels</summary>
      <div className="felt">
        <NumberField
          label="Front wheel"
          fieldKey="scales.front"
          spec={KG}
          value={front}
          placeholder="?"
          onCommit={typed(setFront)}
        />
        <NumberField
          label="Rear wheel"
          fieldKey="scales.rear"
          spec={KG}
          value={rear}
          placeholder="?"
          onCommit={typed(setRear)}
        />
      </div>
      {view.rider.simulated && (
        <div className="buttons">
          <Button onClick={read}>Read the scales (simulated)</Button>
        </div>
      )}
      {weighed.error && <p className="number-error">{words(weighed.error)}</p>}
      {there && weighed.data && (
        <div role="status">
          {weighed.data.words.map((line) => (
            <p key={line}>{line}</p>
          ))}
          {kept ? (
            <p className="soft">Kept as a reading.</p>
          ) : (
            <Button onClick={() => keep(weighed.data)}>Keep the share</Button>
          )}
        </div>
      )}
      <Problem words={wrong} />
    </details>
  );
}
