import { sentence } from "../ui/format";
import "./protocol.css";
import { Button } from "@chakra-ui/react";
import { useQuery, useQueryClient } from "@tanstack/react-query";
import { useEffect, useRef, useState } from "react";
import { Link, useNavigate, useParams } from "react-router";
import { ApiError, words } from "../api/client";
import { runQuery } from "../api/queries";
import type { Ask, RunView, Step } from "../api/types";
import type { FromRun } from "../fit/fromRun";
import { Keycap } from "../ui/Keycap";
import { useKeys } from "../ui/keys";
import { KeysDialog } from "../ui/KeysDialog";
import { NumberField } from "../ui/NumberField";
import { Nowhere, TopBar } from "../ui/Page";
import { type Answered, callRun, endRun, hiddenSetting, takeBack } from "./sends";
import { Hear } from "./Hear";
import { Timer } from "./Timer";

/** A protocol in large type: one instruction, the clock, the calls. */
export default function ProtocolPage() {
  const { id = "" } = useParams();
  const run = useQuery(runQuery(id));
  if (run.error) return <Nowhere what={words(run.error)} />;
  if (!run.data) return null;
  return <Running key={id} run={run.data} />;
}

function Running({ run }: { run: RunView }) {
  const queries = useQueryClient();
  const navigate = useNavigate();
  const [problem, setProblem] = useState<string>();
  const inFlight = useRef(false);
  const [busy, setBusy] = useState(false);
  const [ending, setEnding] = useState(false);
  const [setting, setSetting] = useState<string>();
  const [keysOpen, setKeysOpen] = useState(false);
  const { screen } = run;
  const { ask } = screen;
  const back = `/sessions/${run.session}`;

  /** One call at a time: a key held too long must not answer the next question. */
  const send = async (write: () => Promise<RunView>): Promise<ApiError | undefined> => {
    if (inFlight.current) return undefined;
    inFlight.current = true;
    setBusy(true);
    setEnding(false);
    try {
      const answered = await write();
      // Free again before the next question can be seen: a quick hand must not be ignored.
      inFlight.current = false;
      queries.setQueryData(runQuery(run.id).queryKey, answered);
      setProblem(undefined);
      return undefined;
    } catch (error) {
      // What is asked may have changed in another window.
      await queries.invalidateQueries({ queryKey: ["run", run.id] });
      const wrong = error instanceof ApiError ? error : new ApiError({ status: 0, detail: words(error) });
      setProblem(wrong.errors[0]?.detail ?? wrong.message);
      return wrong;
    } finally {
      inFlight.current = false;
      setBusy(false);
    }
  };
  const call = (answered: Answered) =>
    ask ? send(() => callRun(run.id, ask.id, answered)) : Promise.resolve(undefined);
  const takeLastBack = () => run.last_call != null && void send(() => takeBack(run.id));
  const end = () => {
    if (ask && !ending) setEnding(true);
    else void send(() => endRun(run.id)).then(leaveRead);
  };
  /** What was found goes into the session as it is read next. */
  const leaveRead = () => void queries.invalidateQueries({ queryKey: ["session", run.session] });
  const foresee = async (step: Step) => {
    const from: FromRun = { foresee: step, why: `${screen.title}: ${run.finding?.title ?? ""}` };
    await queries.invalidateQueries({ queryKey: ["session", run.session] });
    await navigate(back, { state: from });
  };
  const leave = () => {
    leaveRead();
    void navigate(back);
  };

  const showSetting = () => {
    if (!run.hidden || setting !== undefined) return;
    setSetting("…");
    hiddenSetting(run.id).then(
      (shown) => setSetting((held) => (held === undefined ? undefined : shown.setting)),
      (error: unknown) => {
        setSetting(undefined);
        setProblem(words(error));
      },
    );
  };
  useRelease("h", () => setSetting(undefined));

  const moves = run.over ? (run.finding?.moves ?? []) : [];
  useKeys({
    "?": () => setKeysOpen(true),
    Escape: leave,
    Backspace: run.last_call != null ? takeLastBack : undefined,
    e: ask ? end : undefined,
    h: run.hidden ? showSetting : undefined,
    Enter: ask ? undefined : !run.over ? end : moves[0] ? () => void foresee(moves[0] as Step) : leave,
    ...Object.fromEntries(moves.map((step, index) => [String(index + 1), () => void foresee(step)])),
    ...Object.fromEntries((ask?.keys ?? []).map(({ key }) => [key, () => void call({ key })])),
  });

  return (
    <div className="protocol">
      <title>{`${screen.title}, ${run.rider} · Wedge`}</title>
      <TopBar>
        <span className="who">
          <b>
            <Link to={back}>{run.rider}</Link>
          </b>{" "}
          · {run.bike}
        </span>
        <b className="name">{screen.title}</b>
        <span>{screen.place}</span>
        <span className="leave">
          <Button onClick={leave}>
            {run.over ? "Back to the board" : "Back to the board; it waits"} <Keycap>Esc</Keycap>
          </Button>
        </span>
      </TopBar>
      <main>
        <h1 className="visually-hidden">
          {screen.title}, {run.rider}
        </h1>
        <section className="say" aria-live="polite">
          <p className={screen.instruction.length > 34 ? "instruction long" : "instruction"} data-testid="instruction">
            {screen.instruction}
          </p>
          {run.finding ? (
            <ul className="found">
              {run.finding.words.map((sentence) => (
                <li key={sentence}>{sentence}</li>
              ))}
            </ul>
          ) : (
            <p className="mind">{screen.detail}</p>
          )}
          {run.finding?.next_bike != null && (
            <p className="mind">▸ For the next bike: {sentence(run.finding.next_bike)}</p>
          )}
        </section>
        {ask && (
          <div className="clock">
            {screen.timer_s != null && <Timer key={ask.id} from={run.clock_from} seconds={screen.timer_s} />}
            {screen.effort !== "" && <p className="effort">{screen.effort}</p>}
          </div>
        )}
        {run.simulated && ask && <Hear key={ask.id} run={run.id} />}
        {run.hidden && (
          <button
            type="button"
            className="hold"
            aria-label="Hold to see the setting to make now"
            onPointerDown={showSetting}
            onPointerUp={() => setSetting(undefined)}
            onPointerLeave={() => setSetting(undefined)}
          >
            {setting ?? (
              <>
                The setting to make now: hold <Keycap>H</Keycap>
              </>
            )}
          </button>
        )}
        {ask && <Question key={ask.id} run={run.id} ask={ask} busy={busy} onCall={call} onBack={takeLastBack} />}
        {!ask && (
          <div className="calls next">
            {!run.over && (
              <button type="button" className="call" disabled={busy} onClick={end}>
                Keep it as evidence <Keycap>Enter</Keycap>
              </button>
            )}
            {moves.map((step, index) => (
              <button key={step.title} type="button" className="call" onClick={() => void foresee(step)}>
                Foresee: {step.title} {step.left !== "" && <small>{step.left}</small>}
                <Keycap>{index === 0 ? "Enter" : String(index + 1)}</Keycap>
              </button>
            ))}
            {run.over && (
              <button type="button" className="call" onClick={leave}>
                Back to the board <Keycap>{moves.length === 0 ? "Enter" : "Esc"}</Keycap>
              </button>
            )}
          </div>
        )}
        {problem !== undefined && (
          <p className="number-error" role="alert">
            {problem}
          </p>
        )}
        <p className="under">
          {run.last_call != null && (
            <Button disabled={busy} onClick={takeLastBack}>
              Take the last call back <Keycap>⌫</Keycap>
            </Button>
          )}
          {ask && (
            <Button onClick={end} aria-pressed={ending}>
              {ending ? "Press again to end it here" : "End it here"} {!ask.number && <Keycap>E</Keycap>}
            </Button>
          )}
        </p>
      </main>
      <section aria-label="The run so far">
        <ol className="run">
          {screen.notches.length === 0 && <li className="none">The run stands here, a notch for each step.</li>}
          {screen.notches.map((notch, index) => (
            <li key={index} className={notch.state} ref={index === screen.notches.length - 1 ? scrollTo : undefined}>
              <b>{notch.label}</b>
              <span>
                {notch.state === "marked" && "▲ "}
                {notch.state === "now" ? "now" : notch.words}
              </span>
            </li>
          ))}
        </ol>
      </section>
      {keysOpen && <KeysDialog onClose={() => setKeysOpen(false)} />}
    </div>
  );
}

/** The last step stays in sight. */
const scrollTo = (element: HTMLElement | null) => {
  element?.scrollIntoView({ block: "nearest", inline: "end" });
};

interface QuestionProps {
  run: string;
  ask: Ask;
  busy: boolean;
  onCall: (answered: Answered) => Promise<ApiError | undefined>;
  onBack: () => void;
}

/** What is asked: keys as wide as there is room, or a number to read off. What is typed survives a reload. */
function Question({ run, ask, busy, onCall, onBack }: QuestionProps) {
  const kept = `wedge.run.${run}.${ask.id}`;
  const field = useRef<HTMLDivElement>(null);
  useEffect(() => {
    field.current?.querySelector("input")?.focus();
  }, []);
  // In a field with nothing to delete, the key takes the last call back as it does everywhere else.
  useEffect(() => {
    const input = field.current?.querySelector("input");
    const press = (event: KeyboardEvent) => {
      if (event.key === "Backspace" && !event.repeat && input?.value === "") onBack();
    };
    input?.addEventListener("keydown", press);
    return () => input?.removeEventListener("keydown", press);
  }, [onBack]);
  return (
    <section className="question" aria-label={ask.question}>
      <h2>{ask.question}</h2>
      {ask.number ? (
        <div className="read-off" ref={field}>
          <NumberField
            label={ask.number.label}
            fieldKey={ask.id}
            spec={{ unit: ask.number.unit, step: 1, fine_step: 0.5 }}
            value={undefined}
            typed={sessionStorage.getItem(kept) ?? undefined}
            onTyped={(text) =>
              text === undefined ? sessionStorage.removeItem(kept) : sessionStorage.setItem(kept, text)
            }
            onCommit={async (number) => {
              const wrong = await onCall({ number });
              return wrong?.errors[0]?.detail ?? wrong?.message;
            }}
          />
          <p className="hint">
            <Keycap>Enter</Keycap> calls it
          </p>
        </div>
      ) : (
        <div className="calls">
          {ask.keys.map(({ key, label }) => (
            <button key={key} type="button" className="call" disabled={busy} onClick={() => void onCall({ key })}>
              {label} <Keycap>{key.length === 1 ? key.toUpperCase() : key}</Keycap>
            </button>
          ))}
        </div>
      )}
    </section>
  );
}

/** Runs when a key is let go, or the window loses the keyboard while it is held. */
function useRelease(key: string, act: () => void) {
  const latest = useRef(act);
  useEffect(() => {
    latest.current = act;
  });
  useEffect(() => {
    const release = (event: KeyboardEvent) => event.key.toLowerCase() === key && latest.current();
    const lose = () => latest.current();
    window.addEventListener("keyup", release);
    window.addEventListener("blur", lose);
    return () => {
      window.removeEventListener("keyup", release);
      window.removeEventListener("blur", lose);
    };
  }, [key]);
}
