import "./judge.css";
import { Button } from "@chakra-ui/react";
import { useEffect, useRef } from "react";
import { Link } from "react-router";
import type { AskNext, JudgeView, MoveView, Said } from "../api/types";
import { disagree, see } from "../fit/sends";
import { useFit } from "../fit/useFit";
import { number, sentence, signed } from "../ui/format";
import { Keycap } from "../ui/Keycap";
import { useKeys } from "../ui/keys";
import { Disagree } from "./Disagree";
import { actOf } from "./act";
import { useDo, useJudge } from "./useJudge";

/** The next move with its reasons, what else could be done, what is worth asking, and where the fitter disagreed. */
export function NextMove() {
  const { view, stations, shown, pending, station } = useFit();
  const judge = useJudge();
  const does = useDo();
  const open = judge && !pending ? judge : undefined;
  const can = open && actOf(open.next, station.station, view.run != null);
  useKeys({
    Enter: open && can ? () => does(open.next) : undefined,
    o: open ? () => shown.toggle("others") : undefined,
    g: judge ? () => shown.toggle("right") : undefined,
    i: open && mayDisagree(open.next) ? () => shown.toggle("disagree") : undefined,
  });
  if (pending) return null;
  if (!judge) return <section className="card next-move waiting" aria-label="Next move" />;
  const { next } = judge;
  const there = stations.find((spec) => spec.station === next.station);
  return (
    <>
      <section className="card next-move" aria-labelledby="next-move">
        <h2 id="next-move">
          Next move{there && there !== station ? `, at ${there.label}` : ""}{" "}
          {next.blocked.length > 0 && <span className="alarm">{next.blocked.join("; ")}</span>}
        </h2>
        <p className={next.title.length > 18 ? "title long" : "title"} data-testid="next-move">
          {next.title}
        </p>
        <Because move={next} otherwise={judge.otherwise} />
        <div className="buttons">
          {can && (
            <Button variant="solid" onClick={() => does(next)}>
              {can} <Keycap>Enter</Keycap>
            </Button>
          )}
          {mayDisagree(next) && (
            <Button aria-expanded={shown.is("disagree")} onClick={() => shown.toggle("disagree")}>
              I disagree… <Keycap>I</Keycap>
            </Button>
          )}
        </div>
        <button type="button" className="more" aria-expanded={shown.is("right")} onClick={() => shown.toggle("right")}>
          {shown.is("right") ? "Back to the board" : "Where the right place is"} <Keycap>G</Keycap>
        </button>
        {shown.is("disagree") && mayDisagree(next) && (
          <Disagree key={next.key} move={next} judge={judge} onDone={() => shown.close("disagree")} />
        )}
        {judge.says.map((words) => (
          <p key={words} className="apart">
            {sentence(words)}
          </p>
        ))}
        {judge.wrong_frame != null && (
          <p>
            <Link
              className="more"
              to={`/riders/${view.rider.id}/next?from=fit&fit=${view.session.id}&to=choose`}
              state={{ why: sentence(judge.wrong_frame) }}
            >
              Choose another frame
            </Link>
          </p>
        )}
      </section>
      <Asks asks={judge.asks} />
      <Others judge={judge} />
      <Standing judge={judge} />
    </>
  );
}

const mayDisagree = (move: MoveView) => move.fault != null || move.axis != null || move.speaks_for.length > 0;

function Because({ move, otherwise }: { move: MoveView; otherwise: string | null | undefined }) {
  return (
    <>
      {move.because !== "" && <p className="because">{sentence(move.because)}</p>}
      {move.how !== "" && <p>{sentence(move.how)}</p>}
      <dl className="reasons">
        {move.speaks_for.length > 0 && <Reason word="For" said={move.speaks_for} />}
        {move.against && <Reason word="Against" said={[move.against]} />}
        {move.wrong_if != null && (
          <>
            <dt>Wrong if</dt>
            <dd>{move.wrong_if}</dd>
          </>
        )}
        {move.if_worse != null && (
          <>
            <dt>If worse</dt>
            <dd>{move.if_worse}</dd>
          </>
        )}
        {otherwise != null && (
          <>
            <dt>Else</dt>
            <dd>{otherwise}</dd>
          </>
        )}
      </dl>
      {(move.lands != null || move.moves_with.length > 0) && (
        <p className="with">
          {[
            move.lands != null ? `${number(Math.round(move.lands * 100))} % to land in the window` : "",
            move.moves_with.length > 0 ? `moves ${move.moves_with.join(", ")}` : "",
          ]
            .filter(Boolean)
            .join("; ")}
        </p>
      )}
    </>
  );
}

/** What speaks for or against, each opening where it is from. */
function Reason({ word, said }: { word: string; said: Said[] }) {
  return (
    <>
      <dt>{word}</dt>
      <dd>
        <ul>
          {said.map((one) => (
            <li key={one.words}>
              <Witness said={one} /> <b>{signed(one.points)}</b>
            </li>
          ))}
        </ul>
      </dd>
    </>
  );
}

/** A witness; a press goes to where it is from. */
export function Witness({ said }: { said: Said }) {
  const { go, view } = useFit();
  const from = said.source;
  if (!from) return <>{said.words}</>;
  if (from.run != null) return <Link to={`/runs/${from.run}`}>{said.words}</Link>;
  const { trial } = from;
  if (trial != null) {
    return (
      <a
        href={`#trial-${trial}`}
        onClick={(event) => {
          event.preventDefault();
          toTrial(trial);
        }}
      >
        {said.words}
      </a>
    );
  }
  return (
    <a
      href={`#${from.station}`}
      onClick={(event) => {
        event.preventDefault();
        if (from.station !== view.session.station) go(from.station);
      }}
    >
      {said.words}
    </a>
  );
}

/** The trial on the strip, in sight and with the focus. */
function toTrial(id: string) {
  const card = document.querySelector<HTMLElement>(`[data-trial="${id}"]`);
  card?.scrollIntoView({ block: "nearest", inline: "center" });
  card?.focus();
}

/** What is worth asking now: a press answers it. */
function Asks({ asks }: { asks: AskNext[] }) {
  const { post } = useFit();
  if (asks.length === 0) return null;
  return (
    <div className="asks" role="group" aria-label="Worth asking">
      <h3>Worth asking</h3>
      <ul>
        {asks.map((ask) => {
          const answer = (there: boolean) =>
            void post(see({ sign: { sign: ask.sign, side: ask.side ?? null, there } }));
          return (
            <li key={`${ask.sign}${ask.side ?? ""}`}>
              <span>{ask.words}</span>{" "}
              <Button aria-label={`${ask.words} yes`} onClick={() => answer(true)}>
                Yes
              </Button>{" "}
              <Button aria-label={`${ask.words} no`} onClick={() => answer(false)}>
                No
              </Button>
            </li>
          );
        })}
      </ul>
    </div>
  );
}

/** Everything else that could be done, in one ranking, and what is not proposed and why. */
function Others({ judge }: { judge: JudgeView }) {
  const { view, shown, station } = useFit();
  const does = useDo();
  const list = useRef<HTMLUListElement>(null);
  const open = shown.is("others");
  useEffect(() => {
    if (open) list.current?.querySelector("button")?.focus();
  }, [open]);
  const { others, blocked } = judge;
  if (others.length + blocked.length === 0) return null;
  return (
    <section className="other-moves" aria-label="Other moves">
      <button type="button" className="more" aria-expanded={open} onClick={() => shown.toggle("others")}>
        {open ? "Only the next move" : `Other moves: ${others.length}`} <Keycap>O</Keycap>
      </button>
      {open && (
        <ul ref={list}>
          {others.map((move) => {
            const can = actOf(move, station.station, view.run != null);
            return (
              <li key={move.key}>
                <button type="button" disabled={!can} onClick={() => does(move)}>
                  <b>{move.title}</b>
                  <span className="act">{ACTS[move.act] ?? move.act}</span>
                  <span className="because">{move.because || move.how}</span>
                </button>
              </li>
            );
          })}
          {blocked.map((move) => (
            <li key={move.key} className="blocked">
              <b>{move.title}</b>
              <span className="act">not proposed</span>
              <span className="because">{move.blocked.join("; ")}</span>
            </li>
          ))}
        </ul>
      )}
    </section>
  );
}

const ACTS: Record<string, string> = {
  move: "move",
  linked: "linked move",
  test: "find out",
  put_back: "back",
  done: "end",
  refer: "end",
};

/** Where the fitter disagreed, each to be taken back. */
function Standing({ judge }: { judge: JudgeView }) {
  const { post, finished } = useFit();
  if (judge.disputes.length === 0) return null;
  return (
    <section className="disputes" aria-label="Where you disagree">
      <h3>Where you disagree</h3>
      <ul>
        {judge.disputes.map((dispute) => (
          <li key={dispute.id}>
            <b>{dispute.words}</b>: {dispute.reason}{" "}
            {!finished && (
              <button
                type="button"
                className="more"
                aria-label={`Take back: ${dispute.words}`}
                onClick={() => void post(disagree({ taken_back: dispute.id }, dispute.words, ""))}
              >
                Take back
              </button>
            )}
          </li>
        ))}
      </ul>
    </section>
  );
}
