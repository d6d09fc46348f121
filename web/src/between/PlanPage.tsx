import "../cards/cards.css";
import "./between.css";
import { chakra, Flex } from "@chakra-ui/react";
import { useQuery, useQueryClient } from "@tanstack/react-query";
import { Link, useParams } from "react-router";
import { answer, api, newId, words } from "../api/client";
import { betweenQuery, catalogueQuery, handoutQuery } from "../api/queries";
import type { AfterBody, BetweenView } from "../api/types";
import { Page } from "../ui/Page";
import { Problem } from "../ui/Problem";
import { Plan } from "./Plan";
import { Referrals } from "./Referrals";

/** What leaves a fit and what comes back of it: the plan in safe steps, and who else is asked. */
export default function PlanPage() {
  const { id = "" } = useParams();
  const between = useQuery(betweenQuery(id));
  const catalogue = useQuery(catalogueQuery);
  const queries = useQueryClient();
  const write = async (body: AfterBody) => {
    const next = await answer<BetweenView>(
      api.POST("/api/sessions/{id}/afterwards", { params: { path: { id } }, body: { id: newId(), body } as never }),
    );
    queries.setQueryData(betweenQuery(id).queryKey, next);
    void queries.invalidateQueries({ queryKey: handoutQuery(id).queryKey });
  };
  return (
    <Page title="Plan and referrals">
      <Flex gap="24px" fontSize="16px" color="tide" textDecoration="underline" wrap="wrap">
        <Link to={`/sessions/${id}/hand-out`}>Back to the sheet</Link>
        <Link to={`/sessions/${id}`}>Back to the board</Link>
        <Link to={`/sessions/${id}/rides`}>Card and rides</Link>
        <Link to="/visits">Visits that are due</Link>
      </Flex>
      <chakra.h1 fontSize="29px">Plan and referrals</chakra.h1>
      <Problem words={between.error ? words(between.error) : undefined} />
      {between.data && catalogue.data && (
        <>
          <Plan id={id} catalogue={catalogue.data} view={between.data} write={write} />
          <Referrals id={id} specialists={catalogue.data.words.specialist} view={between.data} write={write} />
        </>
      )}
    </Page>
  );
}
