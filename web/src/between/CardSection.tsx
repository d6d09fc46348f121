import { Button, Flex } from "@chakra-ui/react";
import { useQuery, useQueryClient } from "@tanstack/react-query";
import { useState } from "react";
import { answer, api, words } from "../api/client";
import { cardLinkQuery } from "../api/queries";
import type { CardLink } from "../api/types";
import { day } from "../ui/format";
import { Problem } from "../ui/Problem";

/** The card that goes out: as a file that needs no network, on paper, or on the rider's phone through the room's network. */
export function CardSection({ id }: { id: string }) {
  const link = useQuery(cardLinkQuery(id));
  const queries = useQueryClient();
  const [problem, setProblem] = useState<string>();
  const told = (request: Promise<CardLink>) =>
    void request.then(
      (made) => {
        queries.setQueryData(cardLinkQuery(id).queryKey, made);
        setProblem(undefined);
      },
      (error: unknown) => setProblem(words(error)),
    );
  const path = { params: { path: { id } } };
  const { data } = link;
  return (
    <section className="between" aria-labelledby="card">
      <h2 id="card">The card</h2>
      <p>
        The plan, what to do when something comes, tests for the road, and a line for every ride. It needs no network:
        the rider opens the file on his phone and sends back what it gives.
      </p>
      <div className="buttons">
        <Button asChild>
          <a href={`/api/sessions/${id}/card.html`} download>
            The card as a file
          </a>
        </Button>
        <Button asChild>
          <a href={`/api/sessions/${id}/card.pdf?paper=a4`}>On paper, A4</a>
        </Button>
        <Button asChild>
          <a href={`/api/sessions/${id}/card.pdf?paper=letter`}>On paper, US</a>
        </Button>
        <Button asChild>
          <a href={`/api/sessions/${id}/ledger.json`} download>
            All rides as a file
          </a>
        </Button>
      </div>
      {data && (
        <>
          <h3>On the rider’s phone, in this room</h3>
          {!data.open && (
            <p className="number-hint">
              Only with the room’s network let in (<code>wedge serve --lan</code>). A link opens this card and nothing
              else.
            </p>
          )}
          {data.open && (
            <Flex gap="28px" wrap="wrap" align="start">
              {data.qr != null && (
                <img src={`data:image/svg+xml,${encodeURIComponent(data.qr)}`} alt="A code for the link" />
              )}
              <div>
                {data.urls.length > 0 && (
                  <p>
                    Told once: <code className="fingerprint">{data.urls.join(" ")}</code>
                  </p>
                )}
                <p>
                  {data.until == null
                    ? "No link. One holds for seven days, and opens this card and nothing else."
                    : `A link holds until ${day(data.until.slice(0, 10))}.`}
                </p>
                <div className="buttons">
                  <Button onClick={() => told(answer<CardLink>(api.POST("/api/sessions/{id}/card-link", path)))}>
                    {data.until == null ? "Make a link" : "Another link in its place"}
                  </Button>
                  {data.until != null && (
                    <Button onClick={() => told(answer<CardLink>(api.DELETE("/api/sessions/{id}/card-link", path)))}>
                      Take it back
                    </Button>
                  )}
                </div>
              </div>
            </Flex>
          )}
        </>
      )}
      <Problem words={problem} />
    </section>
  );
}
