import "./rider.css";
import { chakra, Flex } from "@chakra-ui/react";
import { useQuery } from "@tanstack/react-query";
import type { ReactNode } from "react";
import { Link } from "react-router";
import { words } from "../api/client";
import { hundredQuery } from "../api/queries";
import type { Claim, Proof, Score } from "../api/types";
import { Page } from "../ui/Page";

/** How good Wedge is: whole fits of riders whose truth is hidden, by the judge and by other ways. */
export default function HundredPage() {
  const proof = useQuery(hundredQuery);
  return (
    <Page title="How good is Wedge?">
      <Flex gap="24px" fontSize="16px" color="tide" textDecoration="underline">
        <Link to="/">Back to the room</Link>
        <Link to="/judging">How the next move is judged</Link>
        <Link to="/rules">Where every number comes from</Link>
      </Flex>
      <chakra.h1 fontSize="29px">How good is Wedge?</chakra.h1>
      {proof.error && <p className="number-error">{words(proof.error)}</p>}
      {proof.data && <Shown proof={proof.data} />}
    </Page>
  );
}

function Shown({ proof }: { proof: Proof }) {
  const judge = proof.ways[0];
  return (
    <>
      <p className="number-hint">
        Hidden riders {proof.seed} to {proof.seed + proof.riders - 1}, all simulated: nobody knows where they belong
        before the end. A proof against these riders, not against people. Made again by <code>{proof.command}</code>.
        Shares of riders, with what they may be on the whole, 95 %.
      </p>
      <section aria-label="Ways of fitting">
        <h2>Ways of fitting</h2>
        <Ways rows={proof.ways.map((score) => [score.label, score])} />
        <p className="number-hint">
          A trial is a bolt or a protocol. Near: within a tape’s error of every one of the rider’s windows. Inside:
          strictly inside all of them.
        </p>
      </section>
      <section aria-label="With more noise, or less">
        <h2>The judge with more noise, or less</h2>
        <Ways rows={proof.noise.map((noisy) => [noisy.words, noisy.score])} />
      </section>
      <Flex gap="48px" wrap="wrap" align="start">
        {judge && <Kinds score={judge} />}
        {judge && <Claims claims={judge.reliability} />}
      </Flex>
      <Foresight proof={proof} />
      <Worst proof={proof} />
      <section aria-label="What is assumed">
        <h2>What is assumed of these riders</h2>
        <Scores
          heads={[
            "Axis",
            "Right places lie around what schools wish",
            "Half of a usual window",
            "Bikes that come out, and how far",
          ]}
        >
          {proof.assumed.map((of) => (
            <tr key={of.axis}>
              <th scope="row">{of.axis}</th>
              <td className="after">{of.around}</td>
              <td className="after">{of.half}</td>
              <td className="after">{of.out}</td>
            </tr>
          ))}
        </Scores>
      </section>
    </>
  );
}

/** A table whose rows begin with what they are of. */
function Scores({ heads, children }: { heads: string[]; children: ReactNode }) {
  return (
    <table className="rows scores">
      <thead>
        <tr>
          {heads.map((head, at) => (
            <th key={at} scope="col">
              {head}
            </th>
          ))}
        </tr>
      </thead>
      <tbody>{children}</tbody>
    </table>
  );
}

function Ways({ rows }: { rows: [string, Score][] }) {
  return (
    <Scores
      heads={[
        "Way",
        "Near in 6 trials",
        "Near in 10",
        "Near at the end",
        "Inside in 6",
        "Trials",
        "Minutes",
        "Limits crossed",
        "Done too soon",
        "Referred for nothing",
      ]}
    >
      {rows.map(([label, score]) => (
        <tr key={label}>
          <th scope="row">{label}</th>
          {[...score.near, score.right[0]].map((share, at) => (
            <Shared key={at} words={share?.words} />
          ))}
          <td className="after">{score.trials}</td>
          <td className="after">{Math.round(score.minutes)}</td>
          <td className="after">{score.crossed}</td>
          <Shared words={score.false_done.words} />
          <Shared words={score.false_refer.words} />
        </tr>
      ))}
    </Scores>
  );
}

/** A share, and below it what it may be on the whole. */
function Shared({ words }: { words: string | undefined }) {
  const [share, between] = (words ?? "").split(" (");
  return (
    <td className="after">
      {share}
      <span className="between">({between}</span>
    </td>
  );
}

function Kinds({ score }: { score: Score }) {
  return (
    <section aria-label="By what is wrong">
      <h2>The judge, by what is wrong</h2>
      <Scores heads={["Riders", "Near at the end"]}>
        {score.by_kind.map((of) => (
          <tr key={of.kind}>
            <th scope="row">{of.kind}</th>
            <td className="after">
              {of.near.count} of {of.near.of}
            </td>
          </tr>
        ))}
      </Scores>
    </section>
  );
}

function Claims({ claims }: { claims: Claim[] }) {
  const percent = (share: number) => `${String(Math.round(100 * share))} %`;
  return (
    <section aria-label="Whether it knows">
      <h2>Whether the judge knows</h2>
      <Scores heads={["Said it is fine", "It was", "Of so many axes"]}>
        {claims.map((claim) => (
          <tr key={claim.claimed}>
            <th scope="row">{percent(claim.claimed)}</th>
            <td className="after">{percent(claim.so)}</td>
            <td className="after">{claim.of}</td>
          </tr>
        ))}
      </Scores>
    </section>
  );
}

function Foresight({ proof }: { proof: Proof }) {
  return (
    <section aria-label="Foresight">
      <h2>Foresight against what their bodies do</h2>
      <Scores
        heads={[
          "Foreseen",
          "From the tape: off by",
          "It said",
          "Within one band, two",
          "After one take: off by",
          "It said",
          "Within one band, two",
        ]}
      >
        {proof.foresight.map((of) => (
          <tr key={of.what}>
            <th scope="row">{of.what}</th>
            {[of.before, of.after].flatMap(([off, band, one, two], at) => [
              <td key={`${String(at)}off`} className="after">
                {off}
              </td>,
              <td key={`${String(at)}band`} className="after">
                {band}
              </td>,
              <td key={`${String(at)}covered`} className="after">
                {one}, {two}
              </td>,
            ])}
          </tr>
        ))}
      </Scores>
      <p className="number-hint">{proof.read_by}</p>
    </section>
  );
}

function Worst({ proof }: { proof: Proof }) {
  return (
    <section aria-label="The worst">
      <h2>The riders it did worst by</h2>
      <Scores heads={["Rider", "Out at the end", "What was tried"]}>
        {proof.worst.map((of) => (
          <tr key={of.seed}>
            <th scope="row">{of.seed}</th>
            <td className="after">
              {of.worst_axis}, {of.worst.toFixed(1)} half-windows
            </td>
            <td className="source">{of.did.join("; ")}</td>
          </tr>
        ))}
      </Scores>
    </section>
  );
}
