import "./rider.css";
import "./practice.css";
import { Button, chakra, Flex } from "@chakra-ui/react";
import { useQuery, useQueryClient } from "@tanstack/react-query";
import { type SubmitEvent, useState } from "react";
import { Link, useNavigate } from "react-router";
import { answer, api, ApiError, newId, words } from "../api/client";
import { practiceQuery } from "../api/queries";
import type { Begun, Level, PracticeLine, PracticeView } from "../api/types";
import { day } from "../ui/format";
import { Page } from "../ui/Page";
import { TextField } from "../ui/TextField";
import { Tick } from "../ui/Tick";
import { useKept } from "../ui/useKept";

/** Practice: riders whose truth is told at the end, apart from riders' records. */
export default function PracticePage() {
  const practice = useQuery(practiceQuery);
  return (
    <Page title="Practice">
      <Flex gap="24px" fontSize="16px" color="tide" textDecoration="underline">
        <Link to="/">Back to the room</Link>
        <Link to="/devices">Devices</Link>
        <Link to="/how-good">How good is Wedge?</Link>
      </Flex>
      <chakra.h1 fontSize="29px">Practice</chakra.h1>
      <p className="number-hint">
        A rider who is not there, measured and on his bike: fit him with all of Wedge. At the end his truth is drawn
        over the board. A name is kept of who practises, nothing else, and none of it among riders’ records.
      </p>
      {practice.error && <p className="number-error">{words(practice.error)}</p>}
      {practice.data && <Begin practice={practice.data} />}
      {practice.data && <Trends trends={practice.data.trends} />}
      {practice.data && <Fits fits={practice.data.fits} />}
    </Page>
  );
}

/** What is chosen before a fit of practice: kept, for the next one. */
interface Chosen {
  apprentice: string;
  level: Level;
  judge: boolean;
}

/** Who practises, on whom. */
function Begin({ practice }: { practice: PracticeView }) {
  const navigate = useNavigate();
  const queries = useQueryClient();
  const kept = useKept<Chosen>("wedge-practice", { apprentice: "", level: "straightforward", judge: true });
  const { apprentice, level, judge } = kept.state;
  const [error, setError] = useState<ApiError>();
  const [id, setId] = useState(newId);
  const begin = (event: SubmitEvent) => {
    event.preventDefault();
    answer<Begun>(api.POST("/api/practice", { body: { id, apprentice, level, judge } })).then(
      (begun) => {
        setId(newId());
        void queries.invalidateQueries({ queryKey: practiceQuery.queryKey });
        void navigate(`/sessions/${begun.session}`);
      },
      (failed: unknown) => {
        if (failed instanceof ApiError) setError(failed);
      },
    );
  };
  const beside = error?.at("/apprentice");
  return (
    <form className="practice-begin" onSubmit={begin}>
      <TextField
        label="Who practises"
        value={apprentice}
        onChange={(name) => kept.edit({ apprentice: name })}
        error={beside}
      />
      <fieldset>
        <legend>On whom</legend>
        {practice.levels.map(({ key, label, words: learnt }) => (
          <label key={key} className="level">
            <input
              type="radio"
              name="level"
              value={key}
              checked={key === level}
              onChange={() => kept.edit({ level: key })}
            />
            <span>
              <b>{label}</b> {learnt}
            </span>
          </label>
        ))}
      </fieldset>
      <Tick
        label="With the judge: the next move is proposed"
        on={judge}
        readOnly={false}
        onTick={(on) => kept.edit({ judge: on })}
      />
      <Button type="submit" variant="solid">
        Begin
      </Button>
      {error && beside === undefined && (
        <p className="number-error" role="alert">
          {error.message}
        </p>
      )}
    </form>
  );
}

/** How each apprentice comes along. */
function Trends({ trends }: { trends: PracticeView["trends"] }) {
  if (trends.length === 0) return null;
  const most = Math.max(1, ...trends.flatMap((trend) => trend.missed));
  return (
    <section aria-labelledby="trends">
      <h2 id="trends">Windows missed at the end, fit by fit</h2>
      <ul className="trends">
        {trends.map(({ apprentice, missed, words: told }) => (
          <li key={apprentice}>
            <b>{apprentice}</b>
            <svg viewBox={`0 0 ${missed.length * 22 + 4} 44`} width={missed.length * 22 + 4} height="44" aria-hidden>
              {missed.map((count, at) => (
                <g key={at} transform={`translate(${at * 22 + 4} 0)`}>
                  <rect y={30 - (26 * count) / most} width="16" height={(26 * count) / most + 1} />
                  <text x="8" y="43">
                    {count}
                  </text>
                </g>
              ))}
            </svg>
            <span>{told}</span>
          </li>
        ))}
      </ul>
    </section>
  );
}

/** Every fit of practice, the last first. */
function Fits({ fits }: { fits: PracticeLine[] }) {
  if (fits.length === 0) return null;
  return (
    <section aria-labelledby="fits">
      <h2 id="fits">Fits of practice</h2>
      <table className="rows scores">
        <thead>
          <tr>
            {["Who", "Begun", "On whom", "Judge", "Trials", "Windows missed", "Now"].map((head, at) => (
              <th key={at} scope="col">
                {head}
              </th>
            ))}
          </tr>
        </thead>
        <tbody>
          {fits.map((fit) => (
            <tr key={fit.rider}>
              <th scope="row">{fit.apprentice}</th>
              <td>{day(fit.begun.slice(0, 10))}</td>
              <td>{fit.level}</td>
              <td>{fit.judge ? "with" : "without"}</td>
              <td className="after">{fit.ended?.trials ?? ""}</td>
              <td className="after">{fit.ended ? `${fit.ended.out[1]} of ${fit.ended.out[0]}` : "going on"}</td>
              <td>
                {fit.ended ? (
                  <Link to={`/practice/${fit.rider}`}>The truth</Link>
                ) : (
                  <Link to={`/sessions/${fit.session}`}>Go on</Link>
                )}
              </td>
            </tr>
          ))}
        </tbody>
      </table>
    </section>
  );
}
