import { Box, Button, chakra, Flex, Grid } from "@chakra-ui/react";
import { useMutation, useQuery, useQueryClient } from "@tanstack/react-query";
import { useState } from "react";
import { Link, useNavigate, useParams } from "react-router";
import { answer, api, newId, words } from "../api/client";
import { catalogueQuery, riderQuery } from "../api/queries";
import type { Bike, RiderView, SessionView } from "../api/types";
import { day, today, withUnit } from "../ui/format";
import { Nowhere, Page } from "../ui/Page";
import { BikeForm } from "./BikeForm";

/** One rider: what was measured, the bikes, the fits. */
export default function RiderPage() {
  const { id = "" } = useParams();
  const rider = useQuery(riderQuery(id));
  if (rider.error) return <Nowhere what={words(rider.error)} />;
  if (!rider.data) return null;
  return <Loaded view={rider.data} />;
}

function Loaded({ view }: { view: RiderView }) {
  const { rider } = view;
  const [adding, setAdding] = useState(rider.bikes.length === 0);
  return (
    <Page title={rider.name}>
      <chakra.h1 fontSize="29px" overflowWrap="anywhere">
        {rider.name}
      </chakra.h1>
      <Measured view={view} />
      <chakra.h2 fontSize="22px" marginTop="28px">
        Bikes
      </chakra.h2>
      <Grid gap="12px" marginTop="10px">
        {rider.bikes.map((bike) => (
          <BikeCard key={bike.id} bike={bike} />
        ))}
      </Grid>
      {adding ? (
        <BikeForm riderId={rider.id} first={rider.bikes.length === 0} onDone={() => setAdding(false)} />
      ) : (
        <Button marginTop="14px" onClick={() => setAdding(true)}>
          Add a bike
        </Button>
      )}
      <chakra.p marginTop="36px" fontSize="15px">
        <chakra.a href={`/api/riders/${rider.id}/file`} download color="tide" textDecoration="underline">
          Save everything about {rider.name} as a file
        </chakra.a>
      </chakra.p>
    </Page>
  );
}

function Measured({ view }: { view: RiderView }) {
  const catalogue = useQuery(catalogueQuery);
  const latest = new Map(view.rider.readings.map((r) => [`${r.quantity}${r.side ?? ""}`, r]));
  return (
    <Flex as="dl" gap="26px" wrap="wrap" marginTop="8px">
      {[...latest.values()].map((reading) => {
        const spec = catalogue.data?.quantities.find((q) => q.quantity === reading.quantity);
        if (!spec) return null;
        return (
          <Box key={reading.id}>
            <chakra.dt fontSize="15px" color="soft">
              {spec.label}
              {reading.side ? `, ${reading.side}` : ""}
            </chakra.dt>
            <chakra.dd fontSize="20px" fontWeight="700">
              {withUnit(reading.value, spec.unit)}
            </chakra.dd>
          </Box>
        );
      })}
    </Flex>
  );
}

function BikeCard({ bike }: { bike: Bike }) {
  const navigate = useNavigate();
  const queries = useQueryClient();
  const open = bike.sessions.find((s) => s.state === "open");
  const start = useMutation({
    mutationFn: () =>
      answer<SessionView>(
        api.POST("/api/bikes/{id}/sessions", {
          params: { path: { id: bike.id } },
          body: { id: newId(), day: today() },
        }),
      ),
    onSuccess: async (view) => {
      queries.setQueryData(["session", view.session.id], view);
      void queries.invalidateQueries({ queryKey: ["rider", view.rider.id] });
      await navigate(`/sessions/${view.session.id}`);
    },
  });
  return (
    <Box background="sheet" borderWidth="1px" borderColor="hairline" borderRadius="4px" padding="14px 18px">
      <Flex justify="space-between" align="center" gap="16px" wrap="wrap">
        <chakra.h3 fontSize="20px" overflowWrap="anywhere">
          {bike.name}
        </chakra.h3>
        {open ? (
          <Button asChild variant="solid">
            <Link to={`/sessions/${open.id}`}>Go on with fit {open.number}</Link>
          </Button>
        ) : (
          <Button variant="solid" disabled={start.isPending} onClick={() => start.mutate()}>
            Start {bike.sessions.length === 0 ? "the first fit" : "the next fit"}
          </Button>
        )}
      </Flex>
      {start.error && (
        <p className="number-error" role="alert">
          {words(start.error)}
        </p>
      )}
      {bike.sessions.length > 0 && (
        <Box as="ul" listStyleType="none" marginTop="8px">
          {bike.sessions.map((session) => (
            <li key={session.id}>
              Fit {session.number}, {day(session.day)}:{" "}
              {session.state === "finished" ? (
                <chakra.span color="tide" textDecoration="underline">
                  <Link to={`/sessions/${session.id}/hand-out`}>hand-out</Link>
                </chakra.span>
              ) : (
                "going on"
              )}
            </li>
          ))}
        </Box>
      )}
    </Box>
  );
}
