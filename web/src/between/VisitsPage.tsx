import "../cards/cards.css";
import "./between.css";
import { Button, chakra, Flex } from "@chakra-ui/react";
import { useQuery, useQueryClient } from "@tanstack/react-query";
import { useState } from "react";
import { Link } from "react-router";
import { answer, api, ifMatch, words } from "../api/client";
import { visitsQuery } from "../api/queries";
import type { VisitView } from "../api/types";
import { later } from "../ui/days";
import { HeadRow } from "../ui/HeadRow";
import { Keycap } from "../ui/Keycap";
import { useKeys } from "../ui/keys";
import { Page } from "../ui/Page";
import { Problem } from "../ui/Problem";

const WEEK = 7;

/** Who is to come back, and what to ask them: overdue, this week, later. */
export default function VisitsPage() {
  const visits = useQuery(visitsQuery);
  const queries = useQueryClient();
  const [here, setHere] = useState(0);
  const [problem, setProblem] = useState<string>();
  const all = visits.data ?? [];
  const at = Math.max(0, Math.min(here, all.length - 1));
  const chosen = all[at];
  const move = (visit: VisitView, day: string | null) =>
    void answer<VisitView[]>(
      api.PUT("/api/sessions/{id}/visit", {
        params: { path: { id: visit.session }, header: ifMatch(visit.version) },
        body: { day },
      }),
    ).then(
      (next) => {
        setProblem(undefined);
        queries.setQueryData(visitsQuery.queryKey, next);
        const found = next.findIndex((other) => other.session === visit.session);
        if (found >= 0) setHere(found);
      },
      (error: unknown) => {
        setProblem(words(error));
        void visits.refetch();
      },
    );
  useKeys({
    ArrowDown: () => setHere(Math.min(all.length - 1, at + 1)),
    ArrowUp: () => setHere(Math.max(0, at - 1)),
    "+": chosen ? () => move(chosen, later(chosen.day, WEEK)) : undefined,
    "-": chosen ? () => move(chosen, later(chosen.day, -WEEK)) : undefined,
  });
  return (
    <Page title="Visits">
      <Flex gap="24px" fontSize="16px" color="tide" textDecoration="underline" wrap="wrap" className="no-print">
        <Link to="/">Back to the room</Link>
        <a href="/api/visits.ics">All of them for a calendar</a>
      </Flex>
      <chakra.h1 fontSize="29px">Visits</chakra.h1>
      <Problem words={problem ?? (visits.error ? words(visits.error) : undefined)} />
      {visits.data?.length === 0 && <p>Nobody is expected. A day to come back is set at the hand-out of a fit.</p>}
      {all.length > 0 && (
        <>
          <p className="no-print number-hint">
            <Keycap>↑</Keycap> <Keycap>↓</Keycap> walk, <Keycap>+</Keycap> <Keycap>-</Keycap> move the one that is
            chosen by a week. <Button onClick={() => window.print()}>Print the list</Button>
          </p>
          <table className="plans visits">
            <HeadRow columns={["When", "Who", "What to ask", ""]} />
            <tbody>
              {all.map((visit, index) => (
                <tr key={visit.session} aria-current={index === at ? "true" : undefined}>
                  <td>
                    <input
                      type="date"
                      className="plain-select"
                      aria-label={`${visit.rider} comes on`}
                      value={visit.day}
                      onFocus={() => setHere(index)}
                      onChange={(event) => event.target.value !== "" && move(visit, event.target.value)}
                    />
                    <b className={visit.due ? "due" : undefined}>{visit.words}</b>
                  </td>
                  <td>
                    <Link to={`/riders/${visit.rider_id}`}>{visit.rider}</Link>
                    <br />
                    {visit.bike}
                  </td>
                  <td>
                    <ul>
                      {visit.ask.map((line) => (
                        <li key={line}>{line}</li>
                      ))}
                    </ul>
                  </td>
                  <td className="no-print">
                    <Button onClick={() => move(visit, null)}>Not coming</Button>
                  </td>
                </tr>
              ))}
            </tbody>
          </table>
        </>
      )}
    </Page>
  );
}
