import "../cards/cards.css";
import "./between.css";
import { chakra, Flex } from "@chakra-ui/react";
import { useQuery, useQueryClient } from "@tanstack/react-query";
import { useDeferredValue } from "react";
import { Link, useParams } from "react-router";
import { answer, api, newId, words } from "../api/client";
import { betweenQuery, handoutQuery, judgeQuery, ledgerQuery } from "../api/queries";
import type { BetweenView, LedgerRide, LedgerView } from "../api/types";
import { Page } from "../ui/Page";
import { Problem } from "../ui/Problem";
import { CardSection } from "./CardSection";
import { ReadBackSection } from "./ReadBackSection";
import { RideForm } from "./RideForm";
import { Rides } from "./Rides";

/** What the rider keeps of his rides: the card that goes out, the rides that come back, and what they say. */
export default function LedgerPage() {
  const { id = "" } = useParams();
  const ledger = useQuery(ledgerQuery(id));
  const queries = useQueryClient();
  // What the rides say is drawn first; the forms beneath it come with the next frame.
  const formsToo = useDeferredValue(ledger.data !== undefined, false);
  const changed = (view: LedgerView) => {
    queries.setQueryData(ledgerQuery(id).queryKey, view);
    void queries.invalidateQueries({ queryKey: betweenQuery(id).queryKey });
    void queries.invalidateQueries({ queryKey: handoutQuery(id).queryKey });
    void queries.invalidateQueries({ queryKey: ["judge", id] });
  };
  const write = async (rides: LedgerRide[]) =>
    changed(
      await answer<LedgerView>(
        api.POST("/api/sessions/{id}/ledger", { params: { path: { id } }, body: { rides } as never }),
      ),
    );
  const takeOut = async (ride: string) => {
    await answer<BetweenView>(
      api.POST("/api/sessions/{id}/afterwards", {
        params: { path: { id } },
        body: { id: newId(), body: { taken_out: { ride } } } as never,
      }),
    );
    changed(await answer<LedgerView>(api.GET("/api/sessions/{id}/ledger", { params: { path: { id } } })));
  };
  return (
    <Page title="Card and rides">
      <Flex gap="24px" fontSize="16px" color="tide" textDecoration="underline" wrap="wrap">
        <Link to={`/sessions/${id}/plan`}>Plan and referrals</Link>
        <Link to={`/sessions/${id}/hand-out`}>Back to the sheet</Link>
        <Link to={`/sessions/${id}`}>Back to the board</Link>
      </Flex>
      <chakra.h1 fontSize="29px">Card and rides</chakra.h1>
      <Problem words={ledger.error ? words(ledger.error) : undefined} />
      {ledger.data?.rides.length === 0 && <CardSection id={id} />}
      {ledger.data && (
        <>
          <Problem words={ledger.data.paused ?? undefined} />
          <Rides view={ledger.data} takeOut={takeOut} />
          {ledger.data.rides.length > 0 && <NextMove id={id} rides={ledger.data.rides.length} />}
          {formsToo && (
            <>
              <ReadBackSection id={id} write={write} />
              <RideForm id={id} view={ledger.data} write={write} />
            </>
          )}
        </>
      )}
      {ledger.data && ledger.data.rides.length > 0 && <CardSection id={id} />}
    </Page>
  );
}

/** What the judge makes of the fit with these rides among its evidence. */
function NextMove({ id, rides }: { id: string; rides: number }) {
  const judged = useQuery({ ...judgeQuery(id, `with ${rides} rides`), retry: false });
  if (!judged.data) return null;
  const { title, because, speaks_for, against } = judged.data.next;
  return (
    <section className="between" aria-labelledby="next-move">
      <h2 id="next-move">With these rides, the next move</h2>
      <p>
        <b>{title}</b>
        {because !== "" && `: ${because}`}
      </p>
      <ul className="found">
        {speaks_for.map((said) => (
          <li key={said.words}>{said.words}</li>
        ))}
        {against && <li>Against it: {against.words}</li>}
      </ul>
    </section>
  );
}
