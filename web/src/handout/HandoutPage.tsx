import "./handout.css";
import { Button, Flex } from "@chakra-ui/react";
import { useQuery } from "@tanstack/react-query";
import type { ReactNode } from "react";
import { Link, useParams } from "react-router";
import { words } from "../api/client";
import { handoutQuery } from "../api/queries";
import type { Handout, Line, TrialLine } from "../api/types";
import { FrontStack } from "../board/FrontStack";
import { day, number, signed, suffix, withUnit, sentence } from "../ui/format";
import { Nowhere, TopBar } from "../ui/Page";

/** The sheet: page one for the rider, page two for the mechanic, then what the next fitter asks for. */
export default function HandoutPage() {
  const { id = "" } = useParams();
  const handout = useQuery(handoutQuery(id));
  if (handout.error) return <Nowhere what={words(handout.error)} />;
  if (!handout.data) return null;
  const file = (end: string) => `/api/sessions/${id}/${end}`;
  return (
    <>
      <div className="no-print">
        <TopBar>
          <nav className="sheet-files" aria-label="This sheet as a file">
            <a href={file("handout.pdf?paper=a4")}>PDF, A4</a>
            <a href={file("handout.pdf?paper=letter")}>PDF, letter</a>
            <a href={file("drawing.svg")}>Drawing, SVG</a>
            <a href={file("drawing.png")}>Drawing, PNG</a>
            <Link to={`/sessions/${id}/plan`}>Plan and referrals</Link>
            <Link to={`/sessions/${id}/rides`}>Card and rides</Link>
            <Link to={`/sessions/${id}`}>Back to the board</Link>
          </nav>
          <Button variant="solid" onClick={() => window.print()}>
            Print
          </Button>
        </TopBar>
      </div>
      <main className="sheet">
        <title>{`Hand-out, ${handout.data.rider} · Wedge`}</title>
        <ForRider handout={handout.data} drawing={file("drawing.svg?text=shapes")} />
        <ForMechanic handout={handout.data} />
        {handout.data.plan.length > 0 && (
          <section className="for-rider plan" aria-label="Your plan">
            <h1>Your plan</h1>
            <p>{handout.data.plan_note}</p>
            <Lines lines={handout.data.plan} />
          </section>
        )}
        <ForFitter handout={handout.data} />
      </main>
    </>
  );
}

function ForRider({ handout, drawing }: { handout: Handout; drawing: string }) {
  const { changed, feel, stop } = handout.for_rider;
  return (
    <section className="for-rider" aria-label="For the rider">
      {handout.studio !== "" && <p className="studio-name">{handout.studio}</p>}
      <Flex justify="space-between" align="baseline" gap="20px" wrap="wrap">
        <h1>{handout.rider}</h1>
        <p>
          {handout.bike} · fit {handout.number} · {day(handout.day)}
          {handout.effort &&
            ` · ${withUnit(handout.effort.power_w, "w")} at ${withUnit(handout.effort.cadence_rpm, "rpm")}`}
        </p>
      </Flex>
      {handout.warnings.map((warning) => (
        <p key={warning}>
          <b>{warning}</b>
        </p>
      ))}
      <img className="drawing" src={drawing} alt={handout.described} width={740} height={460} />
      <h2>What changed</h2>
      <ul>
        {changed.map((line) => (
          <li key={line}>{line}</li>
        ))}
      </ul>
      <ListOf title="What to feel for" lines={feel} />
      <ListOf title="When to stop" lines={stop} />
      {handout.follow_up != null && (
        <p>
          <b>Come back on {day(handout.follow_up)}.</b>
        </p>
      )}
    </section>
  );
}

function ForMechanic({ handout }: { handout: Handout }) {
  const { note, places, bolts, stack, rails } = handout.for_mechanic;
  const toDo = handout.front_work?.steps.filter((step) => !step.done) ?? [];
  return (
    <section className="for-mechanic" aria-label="For the mechanic">
      <h1>For the mechanic</h1>
      <p>{note}</p>
      {handout.disagreement != null && <p className="warn">{handout.disagreement}</p>}
      {places.map((place) => (
        <section key={place.at} aria-label={place.label}>
          <h2>{place.label}</h2>
          {place.lines.length > 0 && <SetTo lines={place.lines} />}
          {place.as_found != null && <p className="folded">{place.as_found}</p>}
          {place.at === "saddle" && <Lines lines={rails} />}
          {place.at === "front" && stack.length > 0 && <FrontStack stack={stack} />}
        </section>
      ))}
      <ListOf title="Bolts that were turned: torque them" lines={bolts} />
      {handout.front_work != null && (
        <section aria-label="Front-end work">
          <h2>Front-end work</h2>
          <p>{toDo.length === 0 ? "All of it is done." : "Still to do:"}</p>
          <Lines lines={toDo.map((step) => step.label)} />
        </section>
      )}
      <Lines lines={handout.cautions.slice(1, 3)} />
      <details>
        <summary>All conventions</summary>
        <table>
          <thead>
            <tr>
              <th scope="col">Measure</th>
              <th scope="col">From where to where</th>
              <th scope="col" className="n">
                Found
              </th>
              <th scope="col" className="n">
                Left
              </th>
              <th scope="col" className="n">
                Difference
              </th>
              <th scope="col">The number is</th>
            </tr>
          </thead>
          <tbody>
            {handout.table.map((line) => (
              <FullLine key={keyOf(line)} line={line} />
            ))}
          </tbody>
        </table>
      </details>
    </section>
  );
}

const keyOf = (line: Line) => `${line.label}, ${line.convention}`;
const value = (line: Line, of: number) => `${number(of, line.unit)}${suffix(line.unit)}`;

/** What is set at a place: what was is told only where it is another number. */
function SetTo({ lines }: { lines: Line[] }) {
  return (
    <table>
      <thead>
        <tr>
          <th scope="col">Measure</th>
          <th scope="col">From where to where</th>
          <th scope="col" className="n">
            Set to
          </th>
          <th scope="col" className="n">
            Was
          </th>
          <th scope="col">The number is</th>
        </tr>
      </thead>
      <tbody>
        {lines.map((line) => (
          <tr key={keyOf(line)}>
            <th scope="row">{line.label}</th>
            <td>{line.convention}</td>
            <td className="n left-value">{value(line, line.left)}</td>
            <td className="n">{line.changed ? value(line, line.found) : ""}</td>
            <td className="same">{line.from}</td>
          </tr>
        ))}
      </tbody>
    </table>
  );
}

function FullLine({ line }: { line: Line }) {
  return (
    <tr>
      <th scope="row">{line.label}</th>
      <td>{line.convention}</td>
      <td className="n">{value(line, line.found)}</td>
      <td className="n left-value">{value(line, line.left)}</td>
      <td className={line.changed ? "n" : "n same"}>
        {line.changed ? `${signed(line.difference, line.unit)}${suffix(line.unit)}` : "as found"}
      </td>
      <td className="same">{line.from}</td>
    </tr>
  );
}

function ForFitter({ handout }: { handout: Handout }) {
  const tested = handout.model_error != null ? [...handout.evidence, handout.model_error] : handout.evidence;
  return (
    <section className="for-fitter" aria-label="For the next fitter">
      <h1>For the next fitter</h1>
      <ListOf title="What the rider came with" lines={handout.intake} />
      <ListOf title="Asked again where it hurts" lines={handout.asked_again} />
      <Trials title="Changed and kept" trials={handout.kept} />
      <Trials title="Tried and not kept" trials={handout.not_kept} />
      <ListOf title="Tested, and foreseen against seen" lines={tested} />
      <Titled title="Looked at and fine" show={handout.fine.length > 0}>
        <p>Looked for and not there: {handout.fine.join("; ")}.</p>
      </Titled>
      <ListOf title="What remains likely" lines={handout.judged.remains} />
      <ListOf title="To ask a clinician" lines={handout.judged.refer} />
      <ListOf title="Asked elsewhere" lines={handout.referred} />
      <ListOf title="For the next bike" lines={handout.next_bike} />
      <Titled title="Estimated, not measured" show={handout.estimated_words != null}>
        <p>{handout.estimated_words}</p>
      </Titled>
      <p>{handout.cautions.at(-1)}</p>
    </section>
  );
}

function Titled({ title, show, children }: { title: string; show: boolean; children: ReactNode }) {
  if (!show) return null;
  return (
    <>
      <h2>{title}</h2>
      {children}
    </>
  );
}

function ListOf({ title, lines }: { title: string; lines: readonly string[] }) {
  return (
    <Titled title={title} show={lines.length > 0}>
      <Lines lines={lines} />
    </Titled>
  );
}

function Lines({ lines }: { lines: readonly string[] }) {
  if (lines.length === 0) return null;
  return (
    <ul>
      {lines.map((line) => (
        <li key={line}>{sentence(line)}</li>
      ))}
    </ul>
  );
}

function Trials({ title, trials }: { title: string; trials: TrialLine[] }) {
  return (
    <Titled title={title} show={trials.length > 0}>
      <ol>
        {trials.map((trial, index) => (
          <li key={index}>
            <b>{trial.title}</b>: {trial.told}
            {trial.words != null && <blockquote>“{trial.words}”</blockquote>}
            {trial.why.length > 0 && <p className="why-kept">{trial.why.join(" ")}</p>}
          </li>
        ))}
      </ol>
    </Titled>
  );
}
