import "./rider.css";
import { Loupe } from "./Loupe";
import { Box, Button, chakra, Flex, Grid } from "@chakra-ui/react";
import { useMutation, useQuery, useQueryClient } from "@tanstack/react-query";
import { useState } from "react";
import { Link, useNavigate, useParams, useSearchParams } from "react-router";
import { answer, api, ApiError, ifMatch, newId, words } from "../api/client";
import { catalogueQuery, positionQuery, riderQuery } from "../api/queries";
import type { BikeInYears, BikeView, NextSheet, Point, RiderView, SessionView, Year, Years } from "../api/types";
import { day, today, withUnit } from "../ui/format";
import { useKeys } from "../ui/keys";
import { Lines } from "../ui/Lines";
import { Nowhere, Page } from "../ui/Page";
import { TextField } from "../ui/TextField";
import { BikeForm } from "./BikeForm";
import { Sat, Standing } from "../board/Sat";
import { OffRoadSize } from "./OffRoadSize";
import { RiderRecord } from "./RiderRecord";
import { Timeline } from "./Timeline";

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
  const { years } = view;
  const newest = years.fits.reduce<Year | undefined>(
    (last, fit) => (last === undefined || fit.day >= last.day ? fit : last),
    undefined,
  );
  const [search] = useSearchParams();
  const [chosen, setChosen] = useState(search.get("bike") ?? newest?.bike_id ?? rider.bikes[0]?.id);
  const bike = rider.bikes.find((b) => b.id === chosen);
  const stand = useStand(rider.id, (made) => {
    setChosen(made);
    setAdding(false);
  });
  return (
    <Page title={rider.name} wide>
      <Name view={view} />
      {rider.simulated && (
        <p className="simulated">Simulated rider: nobody is there. Everything of him is simulated.</p>
      )}
      {rider.archived_at != null && (
        <chakra.p fontWeight="650">Put away: found in the room only when those put away are asked for.</chakra.p>
      )}
      {[years.measure_again, ...years.outgrown.map((o) => `${o.bike}, fit ${o.number}: ${o.growth.words}`)]
        .filter((words) => words != null)
        .map((words) => (
          <p key={words} className="outgrown">
            {words}.
          </p>
        ))}
      <Measured view={view} />
      <OffRoadSize view={view} />
      <p style={{ marginTop: 8 }}>
        <Link className="more" to={`/riders/${rider.id}/next`}>
          The next bike: carry a position, choose a frame, made to measure
        </Link>
      </p>
      {rider.bikes.length > 0 && (
        <Flex as="nav" aria-label="Bikes" gap="8px 22px" wrap="wrap" marginTop="18px" fontSize="20px">
          {rider.bikes.map((b) => (
            <button
              key={b.id}
              type="button"
              className={b.id === chosen ? "bike-word on" : "bike-word"}
              aria-pressed={b.id === chosen}
              onClick={() => setChosen(b.id)}
            >
              {b.name}
            </button>
          ))}
          {!adding && (
            <button type="button" className="bike-word add" onClick={() => setAdding(true)}>
              Add a bike
            </button>
          )}
          {!adding && !rider.bikes.some((b) => b.stand) && (
            <button type="button" className="bike-word add" disabled={stand.isPending} onClick={() => stand.mutate()}>
              Fit on a stand
            </button>
          )}
        </Flex>
      )}
      {rider.bikes.length === 0 && (
        <p style={{ marginTop: 12 }}>
          <Button disabled={stand.isPending} onClick={() => stand.mutate()}>
            No bike yet: fit on a stand
          </Button>
        </p>
      )}
      {bike && !adding && <Positions key={bike.id} bike={bike} years={years} />}
      {adding && <BikeForm riderId={rider.id} first={rider.bikes.length === 0} onDone={() => setAdding(false)} />}
      <RiderRecord view={view} />
    </Page>
  );
}

/** A fit stand for the rider: a bike without a frame. */
function useStand(rider: string, onMade: (bike: string) => void) {
  const queries = useQueryClient();
  return useMutation({
    mutationFn: () =>
      answer<BikeView>(api.POST("/api/riders/{id}/stands", { params: { path: { id: rider } }, body: { id: newId() } })),
    onSuccess: async ({ bike }) => {
      await queries.invalidateQueries({ queryKey: riderQuery(rider).queryKey });
      onMade(bike.id);
    },
  });
}

/** The rider's name, corrected in place. Another window's name is shown beside one's own. */
function Name({ view }: { view: RiderView }) {
  const { rider, version } = view;
  const [typed, setTyped] = useState<string>();
  const queries = useQueryClient();
  const rename = useMutation({
    mutationFn: (name: string) =>
      answer<RiderView>(
        api.PATCH("/api/riders/{id}", {
          params: { path: { id: rider.id }, header: ifMatch(version) },
          body: { name },
        }),
      ),
    onSuccess: (fresh) => {
      queries.setQueryData(riderQuery(rider.id).queryKey, fresh);
      void queries.invalidateQueries({ queryKey: ["riders"] });
      setTyped(undefined);
    },
    onError: (error) => {
      if (error instanceof ApiError && error.status === 412) {
        void queries.invalidateQueries({ queryKey: riderQuery(rider.id).queryKey });
      }
    },
  });
  const stale = rename.error instanceof ApiError && rename.error.status === 412;
  if (typed === undefined) {
    return (
      <Flex gap="14px" align="baseline" wrap="wrap">
        <chakra.h1 fontSize="29px" overflowWrap="anywhere">
          {rider.name}
        </chakra.h1>
        <button type="button" className="bike-word add" onClick={() => setTyped(rider.name)}>
          Correct the name
        </button>
      </Flex>
    );
  }
  return (
    <form
      className="rename"
      onSubmit={(event) => {
        event.preventDefault();
        rename.mutate(typed);
      }}
    >
      <TextField
        label="Name"
        value={typed}
        onChange={setTyped}
        error={
          stale
            ? `Another window wrote “${rider.name}”; you typed “${typed}”. Keep it to write yours.`
            : rename.error
              ? words(rename.error)
              : undefined
        }
      />
      <Button type="submit" variant="solid" disabled={rename.isPending}>
        Keep it
      </Button>
      <Button onClick={() => setTyped(undefined)}>Leave it</Button>
    </form>
  );
}

/** A bike's fits: the position as each left it on the left, its numbers over time on the right. */
function Positions({ bike, years }: { bike: BikeInYears; years: Years }) {
  const positions = years.fits.filter((fit) => fit.bike_id === bike.id);
  const [at, setAt] = useState(Math.max(0, positions.length - 1));
  const walk = (by: number) => setAt((i) => Math.max(0, Math.min(positions.length - 1, i + by)));
  useKeys({ ArrowLeft: () => walk(-1), ArrowRight: () => walk(1) });
  const here = positions[at];
  return (
    <Grid templateColumns={{ base: "1fr", lg: "minmax(0, 1.05fr) minmax(0, 1fr)" }} gap="28px" marginTop="14px">
      <Box>
        {here ? (
          <AsLeft here={here} earlier={positions.slice(0, at)} newest={years.newest} />
        ) : bike.carried ? (
          <Carried bike={bike} carried={bike.carried} />
        ) : (
          <chakra.p fontSize="19px">
            No position yet: it is drawn here once the bike as found is taped and closed.
          </chakra.p>
        )}
      </Box>
      <Box>
        {positions.length > 0 && (
          <Timeline fits={positions} complaints={years.complaints} rides={years.rides} at={at} onPick={setAt} />
        )}
        <Fits bike={bike} />
        {bike.carried && <NextSheetLines id={bike.id} />}
      </Box>
    </Grid>
  );
}

const BOARD = { width: 600, height: 430 };

/** A position that was carried here, and what of it goes out. */
function Carried({ bike, carried }: { bike: BikeInYears; carried: NonNullable<BikeInYears["carried"]> }) {
  const { position } = carried;
  const file = (name: string) => `/api/bikes/${bike.id}/${name}`;
  return (
    <>
      {position ? (
        <Sat position={position} label={carried.words} sit={carried.sit} hand={carried.hand} />
      ) : (
        <p>{carried.words}.</p>
      )}
      <Flex gap="8px 18px" wrap="wrap" marginTop="8px">
        <a className="more" href={file("next.pdf")} download>
          Sheet for the rider, PDF
        </a>
        <a className="more" href={file("next.pdf?paper=letter")} download>
          on letter
        </a>
        {carried.made && (
          <>
            <a className="more" href={file("frame.pdf")} download>
              Sheet for the builder, PDF
            </a>
            <a className="more" href={file("frame.svg")} download>
              Drawing, SVG
            </a>
            <a className="more" href={file("frame.dxf")} download>
              Drawing, DXF
            </a>
          </>
        )}
        <a className="more" href={file("frame.csv")} download>
          The frame as CSV
        </a>
      </Flex>
    </>
  );
}

/** The rider's sheet of a bike that was not ridden yet, to read here. */
function NextSheetLines({ id }: { id: string }) {
  const sheet = useQuery({
    queryKey: ["next sheet", id],
    queryFn: () => answer<NextSheet>(api.GET("/api/bikes/{id}/next", { params: { path: { id } } })),
  });
  if (!sheet.data) return null;
  const { data } = sheet;
  return (
    <Box as="section" marginTop="18px" className="next-sheet">
      <p>{data.ridden}</p>
      <Lines title="Built of" lines={data.built} />
      <Lines title="To order" lines={data.to_order} />
      <Lines title="What is not as it was" lines={data.off} />
      <Lines title="Other than before" lines={data.compared} />
      <Lines title="Frames that would do as well" lines={data.others} />
      <Lines title="Check at delivery" lines={data.checks} />
    </Box>
  );
}

/** A position, with the contact points of earlier ones as dated crosses. */
function AsLeft({ here, earlier, newest }: { here: Year; earlier: Year[]; newest: Years["newest"] }) {
  const { data: position } = useQuery({
    ...positionQuery(here.session_id),
    initialData: newest?.session_id === here.session_id ? newest.position : undefined,
    staleTime: 60_000,
  });
  if (!position) return null;
  // Years of fits would bury the rider in crosses: the latest that stand apart are drawn.
  const apart = earlier.filter((then, i) => {
    const later = [...earlier.slice(i + 1), here];
    return !later.some((l) => near(l.sit, then.sit) && near(l.hand, then.hand));
  });
  const shown = apart.slice(-MOST_CROSSES);
  const caption = `Fit ${here.number}, ${day(here.day)}`;
  const loupes = ". In the loupes: saddle and hands now, and crosses where earlier fits left them";
  return (
    <Standing
      position={position}
      size={BOARD}
      label={`As fit ${here.number} left it`}
      caption={caption + (shown.length > 0 ? loupes : "")}
    >
      {(paper) => {
        if (shown.length === 0) return null;
        const left = (of: (year: Year) => Point) => shown.map((then) => ({ p: paper.at(of(then)), day: then.day }));
        return (
          <>
            <Loupe at={[178, 84]} now={paper.at(here.sit)} earlier={left((year) => year.sit)} side="left" />
            <Loupe
              at={[BOARD.width - 178, 84]}
              now={paper.at(here.hand)}
              earlier={left((year) => year.hand)}
              side="right"
            />
          </>
        );
      }}
    </Standing>
  );
}

const MOST_CROSSES = 3;
/** Contact points this close are one cross. */
const NEAR_MM = 4;
const near = (a: Point, b: Point) => Math.hypot(a[0] - b[0], a[1] - b[1]) < NEAR_MM;

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

/** The fits of a bike, and the way into the one that is going on or the next. */
function Fits({ bike }: { bike: BikeInYears }) {
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
    <Box
      marginTop="18px"
      background="sheet"
      borderWidth="1px"
      borderColor="hairline"
      borderRadius="4px"
      padding="14px 18px"
    >
      <Flex justify="space-between" align="center" gap="16px" wrap="wrap">
        <chakra.h2 fontSize="20px" overflowWrap="anywhere">
          Fits on {bike.name}
        </chakra.h2>
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
