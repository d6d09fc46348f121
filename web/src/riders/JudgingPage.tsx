import "../cards/cards.css";
import "./rider.css";
import { Button, chakra, Flex } from "@chakra-ui/react";
import { useQuery } from "@tanstack/react-query";
import { useState } from "react";
import { Link } from "react-router";
import { words } from "../api/client";
import { catalogueQuery, houseJudgingQuery, scoreQuery, studioQuery } from "../api/queries";
import type { HouseHalf, HouseJudging, HouseLinks, OwnJudging, StudioView } from "../api/types";
import { inSentence, number, withUnit } from "../ui/format";
import { NumberField } from "../ui/NumberField";
import { Page } from "../ui/Page";
import { Problem } from "../ui/Problem";
import { TextField } from "../ui/TextField";
import { useHouse } from "./useHouse";

/** How the next move is judged: how well it was before, and the strengths and windows a studio may have of its own. */
export default function JudgingPage() {
  const studio = useQuery(studioQuery);
  const house = useQuery(houseJudgingQuery);
  const catalogue = useQuery(catalogueQuery);
  return (
    <Page title="How the next move is judged">
      <Flex gap="24px" fontSize="16px" color="tide" textDecoration="underline">
        <Link to="/">Back to the room</Link>
        <Link to="/studio">Studio</Link>
        <Link to="/rules">Where every number comes from</Link>
        <Link to="/how-good">How good is Wedge?</Link>
      </Flex>
      <chakra.h1 fontSize="29px">How the next move is judged</chakra.h1>
      <Score />
      {studio.error && <p className="number-error">{words(studio.error)}</p>}
      {studio.data && house.data && catalogue.data && <Own studio={studio.data} house={house.data} />}
    </Page>
  );
}

/** What was claimed before, and what trials, protocols and visits then showed: never hidden. */
function Score() {
  const score = useQuery(scoreQuery);
  return (
    <section aria-labelledby="score">
      <h2 id="score">How right it was</h2>
      <p className="number-hint">
        What it claimed before every protocol that found a place, before every trial that was called and of every bike
        as a fit left it, and what that and the next fit then showed: worked out anew by this version.
      </p>
      {score.error && <p className="number-error">{words(score.error)}</p>}
      {!score.data && !score.error && <p>Working through every fit on record…</p>}
      {score.data?.length === 0 && (
        <p>No protocol found a place and no trial was called yet: there is nothing to count.</p>
      )}
      {score.data && score.data.length > 0 && (
        <table className="plans">
          <thead>
            <tr>
              <th>Axis</th>
              <th>Places found</th>
              <th>In the window</th>
              <th>Claimed, mean</th>
              <th>Directions told</th>
              <th>Right</th>
            </tr>
          </thead>
          <tbody>
            {score.data.map((line) => (
              <tr key={line.axis} aria-label={`${line.label}: ${line.words}`}>
                <th scope="row">{line.label}</th>
                <td className="n">{line.found}</td>
                <td className="n">{line.found > 0 ? line.was_fine : "–"}</td>
                <td className="n">{line.found > 0 ? `${number(Math.round(100 * line.claimed_fine))} %` : "–"}</td>
                <td className="n">{line.directions}</td>
                <td className="n">{line.directions > 0 ? line.right : "–"}</td>
              </tr>
            ))}
          </tbody>
        </table>
      )}
    </section>
  );
}

type Save = (judging: OwnJudging) => Promise<string | undefined>;

function Own({ studio, house }: { studio: StudioView; house: HouseJudging }) {
  const { house: own, problem, said, put, take } = useHouse(studio);
  const { judging } = own;
  const save: Save = async (change) => {
    await take(put({ judging: change }), "Saved");
    return undefined;
  };
  const changed = judging.links.length + judging.halves.length;
  return (
    <>
      <p role="status" className="number-hint">
        {said}
      </p>
      <Problem words={problem} />
      {changed > 0 && (
        <p>
          {changed === 1 ? "One number is" : `${changed} numbers are`} the studio’s own.{" "}
          <button type="button" className="more" onClick={() => void save({ links: [], halves: [] })}>
            All back to the house
          </button>
        </p>
      )}
      <Halves halves={house.halves} judging={judging} save={save} />
      <Links links={house.links} judging={judging} save={save} />
    </>
  );
}

interface OwnProps {
  judging: Required<OwnJudging>;
  save: Save;
}

/** How wide a rider's window is to either side. */
function Halves({ halves, judging, save }: OwnProps & { halves: HouseHalf[] }) {
  return (
    <section aria-labelledby="halves">
      <h2 id="halves">How wide a rider’s window is</h2>
      <p className="number-hint">To either side of its middle: craft, not data.</p>
      <div className="own-numbers">
        {halves.map((line) => {
          const own = judging.halves.find((half) => half.axis === line.axis);
          const others = judging.halves.filter((half) => half !== own);
          return (
            <div key={line.axis} className="own-number">
              <NumberField
                label={line.label}
                fieldKey={`half.${line.axis}`}
                spec={{
                  unit: line.unit,
                  step: line.half / 4,
                  fine_step: line.half / 8,
                  min: line.least,
                  max: line.most,
                }}
                value={own?.half ?? line.half}
                onCommit={(half) => save({ ...judging, halves: [...others, { axis: line.axis, half }] })}
              />
              {own && (
                <Button
                  variant="plain"
                  aria-label={`${line.label}: back to the house's ${number(line.half, line.unit)}`}
                  onClick={() => void save({ ...judging, halves: others })}
                >
                  House: {number(line.half, line.unit)}
                </Button>
              )}
            </div>
          );
        })}
      </div>
    </section>
  );
}

const keyOf = (tells: HouseLinks["tells"]) => JSON.stringify(tells);

/** How strongly something felt or seen speaks for each of its causes. */
function Links({ links, judging, save }: OwnProps & { links: HouseLinks[] }) {
  const [find, setFind] = useState("");
  const wanted = find.trim().toLowerCase();
  const isOwn = (line: HouseLinks) => judging.links.some((own) => keyOf(own.tells) === keyOf(line.tells));
  const shown = links.filter((line) =>
    wanted === ""
      ? isOwn(line)
      : [line.label, ...line.causes.map((cause) => cause.label)].some((text) => text.toLowerCase().includes(wanted)),
  );
  return (
    <section aria-labelledby="links">
      <h2 id="links">How strongly a sign speaks</h2>
      <p className="number-hint">
        The chance that the cause alone brings it about when it is well out: about 60 % often, 35 % sometimes, 15 %
        seldom; 0 says nothing.
      </p>
      <TextField label="Find a complaint, a sign or a cause" value={find} onChange={setFind} inputMode="search" />
      {wanted !== "" && shown.length === 0 && <p>Nothing holds “{find}”.</p>}
      {shown.map((line) => (
        <section key={keyOf(line.tells)} aria-label={line.label}>
          <h3>
            {line.label}
            <span className="now-words"> by itself {number(100 * line.leak)} %</span>
          </h3>
          <div className="own-numbers">
            {line.causes.map((cause) => {
              const own = judging.links.find(
                (link) => keyOf(link.tells) === keyOf(line.tells) && link.fault === cause.fault,
              );
              const others = judging.links.filter((link) => link !== own);
              return (
                <div key={cause.fault} className="own-number">
                  <NumberField
                    label={cause.label}
                    fieldKey={`link.${keyOf(line.tells)}.${cause.fault}`}
                    spec={{ unit: "percent", step: 5, fine_step: 1, min: 0, max: 90 }}
                    value={100 * (own?.strength ?? cause.strength)}
                    onCommit={(percent) => {
                      const link = { tells: line.tells, fault: cause.fault, strength: percent / 100 };
                      return save({ ...judging, links: [...others, link] });
                    }}
                  />
                  {own && (
                    <Button
                      variant="plain"
                      aria-label={`${cause.label} from ${inSentence(line.label)}: back to the house's ${withUnit(100 * cause.strength, "percent")}`}
                      onClick={() => void save({ ...judging, links: others })}
                    >
                      House: {withUnit(100 * cause.strength, "percent")}
                    </Button>
                  )}
                </div>
              );
            })}
          </div>
        </section>
      ))}
    </section>
  );
}
