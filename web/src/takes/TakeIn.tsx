import { Button } from "@chakra-ui/react";
import { useRef, useState } from "react";
import { newId, words } from "../api/client";
import type { BodyPoint, MarkerUnit, Sending, Side, TakeAsk, TakesView } from "../api/types";
import { Choice } from "../ui/Choice";
import { dropped, FileInput } from "../ui/FileInput";
import { NumberField } from "../ui/NumberField";
import { Tick } from "../ui/Tick";
import { type Answers, type Coming, sendMarkers, sendTorque } from "./sends";

interface TakeInProps {
  session: string;
  takes: TakesView;
  onTaken: (view: TakesView) => void;
}

const POWER = { unit: "w", step: 10, fine_step: 1, min: 0, max: 2500 } as const;

/** Takes a file in: markers as TRC or C3D, torque as CSV. What is doubtful is asked once. */
export function TakeIn({ session, takes, onTaken }: TakeInProps) {
  const input = useRef<HTMLInputElement>(null);
  const last = takes.takes.findLast(({ take }) => "markers" in take.body || "standing" in take.body)?.take;
  const [anew, setAnew] = useState(false);
  const [stands, setStands] = useState(false);
  const [power, setPower] = useState<number>();
  const [coming, setComing] = useState<Coming>();
  const [asks, setAsks] = useState<TakeAsk[]>([]);
  const [wrong, setWrong] = useState<string>();
  const [busy, setBusy] = useState(false);

  const send = async (file: Coming, answers?: Answers) => {
    setBusy(true);
    setWrong(undefined);
    try {
      if (/\.csv$/i.test(file.file.name)) {
        onTaken(await sendTorque(session, file.id, file.file));
        setComing(undefined);
        return;
      }
      const answered: Sending = await sendMarkers(session, file, answers);
      setAsks(answered.asks);
      if (answered.takes) {
        onTaken(answered.takes);
        setComing(undefined);
        setAnew(false);
        setStands(false);
      } else setComing(file);
    } catch (error) {
      setWrong(words(error));
      setComing(answers ? file : undefined);
    } finally {
      setBusy(false);
    }
  };
  const choose = (file: File) => {
    const placing = (last?.placing ?? 0) + (last === undefined || anew ? 1 : 0);
    void send({ id: newId(), file, power_w: power, placing, stands });
  };

  return (
    <section className="take-in" aria-labelledby="take-in" {...dropped(choose)}>
      <h2 id="take-in" className="visually-hidden">
        Take in a file
      </h2>
      <Button variant="solid" disabled={busy} onClick={() => input.current?.click()}>
        {busy ? "Reading it…" : "Take in a file"}
      </Button>
      <span className="soft">TRC or C3D of markers, CSV of torque; or drop it here</span>
      <FileInput input={input} label="A file of markers or torque" accept=".trc,.c3d,.csv" onFile={choose} />
      <NumberField
        label="Ridden at"
        spec={POWER}
        value={power}
        onCommit={(value) => {
          setPower(value);
          return undefined;
        }}
      />
      <Tick label="Standing still: the zero of lean and twist" on={stands} readOnly={false} onTick={setStands} />
      {last && <Tick label="Markers were put on anew" on={anew} readOnly={false} onTick={setAnew} />}
      {wrong && (
        <p className="number-error" role="alert">
          {wrong}
        </p>
      )}
      {coming && asks.length > 0 && (
        <Asked
          asks={asks}
          onAnswer={(answers) => void send(coming, answers)}
          onLeave={() => {
            setComing(undefined);
            setAsks([]);
          }}
        />
      )}
    </section>
  );
}

const PARTS: [BodyPoint, string][] = [
  ["toe", "toe joint"],
  ["ankle", "ankle"],
  ["knee", "knee"],
  ["hip", "hip"],
  ["shoulder", "shoulder"],
  ["elbow", "elbow"],
  ["wrist", "wrist"],
  ["pedal", "pedal axle"],
  ["heel_upper", "upper heel"],
  ["heel_lower", "lower heel"],
];
const PLACES = PARTS.flatMap(([part, label]) =>
  (["left", "right"] as const).map((side) => ({ key: `${part} ${side}`, label: `${label}, ${side}` })),
);
const UNITS: { key: MarkerUnit; label: string }[] = [
  { key: "mm", label: "millimetres" },
  { key: "cm", label: "centimetres" },
  { key: "m", label: "metres" },
];

/** What is asked about a file before it is kept. */
function Asked({ asks, onAnswer, onLeave }: { asks: TakeAsk[]; onAnswer: (a: Answers) => void; onLeave: () => void }) {
  const markers = asks.flatMap((ask) => (ask.kind === "names" ? ask.markers : []));
  const [names, setNames] = useState<Record<string, string>>({});
  const [unit, setUnit] = useState<MarkerUnit | null>(null);
  const [swap, setSwap] = useState(asks.some((ask) => ask.kind === "swap"));
  const answer = () => {
    const named = markers.flatMap((marker) => {
      const [part, side] = (names[marker] ?? "").split(" ");
      return part && side ? [[marker, { part: part as BodyPoint, side: side as Side }] as const] : [];
    });
    onAnswer({
      names: Object.fromEntries(named),
      nothing: markers.filter((marker) => !names[marker]),
      ...(unit ? { unit } : {}),
      ...(asks.some((ask) => ask.kind === "swap") ? { swap } : {}),
    });
  };
  return (
    <div className="asked" role="group" aria-label="Asked about the file">
      {asks.map((ask) => (
        <div key={ask.words}>
          <p>{ask.words}</p>
          {ask.kind === "names" &&
            ask.markers.map((marker) => (
              <Choice
                key={marker}
                label={marker}
                options={PLACES}
                none="nothing of the body"
                value={names[marker]}
                onPick={(key) => setNames((all) => ({ ...all, [marker]: key ?? "" }))}
              />
            ))}
          {ask.kind === "unit" && (
            <Choice label="Unit" options={UNITS} none="as taken above" value={unit} onPick={setUnit} />
          )}
          {ask.kind === "swap" && <Tick label="Swap left and right" on={swap} readOnly={false} onTick={setSwap} />}
        </div>
      ))}
      <Button variant="solid" onClick={answer}>
        Keep the take
      </Button>
      <Button onClick={onLeave}>Leave it</Button>
    </div>
  );
}
