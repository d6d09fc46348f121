import "./room.css";
import { Box, Button, chakra, Flex, Grid } from "@chakra-ui/react";
import { useQuery } from "@tanstack/react-query";
import { useRef, useState } from "react";
import { Link, useLocation, useNavigate } from "react-router";
import { words } from "../api/client";
import { catalogueQuery, roomQuery } from "../api/queries";
import type { Position, RiderLine } from "../api/types";
import { Figure } from "../board/Drawing";
import { bounds } from "../board/figure";
import { day } from "../ui/format";
import { Keycap } from "../ui/Keycap";
import { useKeys } from "../ui/keys";
import { Page } from "../ui/Page";
import { ImportRiders, TakeDemo } from "./ImportRiders";
import { NewRider } from "./NewRider";

type Open = NonNullable<RiderLine["open"]>;
type Drawn = RiderLine & { open: Open };

/** The room today: open fits stand on one ground line, the others are found below. */
export function RoomPage() {
  const [find, setFind] = useState("");
  const [here, setHere] = useState(0);
  const [archived, setArchived] = useState(false);
  const riders = useQuery(roomQuery(find, archived));
  const finder = useRef<HTMLInputElement>(null);
  const navigate = useNavigate();
  const open = (riders.data ?? []).filter((rider): rider is Drawn => rider.open != null);
  const others = (riders.data ?? []).filter((rider) => rider.open == null);
  const due = others.filter((rider) => rider.follow_up?.due === true && !rider.archived);
  const chosen = open[Math.min(here, open.length - 1)];
  const walk = (by: number) =>
    setHere((at) => Math.max(0, Math.min(open.length - 1, Math.min(at, open.length - 1) + by)));
  useKeys({
    "/": () => finder.current?.focus(),
    Enter: chosen ? () => void navigate(`/sessions/${chosen.open.session_id}`) : undefined,
    ArrowLeft: () => walk(-1),
    ArrowRight: () => walk(1),
    u: due[0] ? () => void navigate(`/riders/${due[0]?.id ?? ""}`) : undefined,
    n: () => document.getElementById("new-rider-name")?.focus(),
  });
  const said = (useLocation().state as { said?: string } | null)?.said;
  const empty = riders.data?.length === 0 && find === "";
  return (
    <Page title="Room today" wide>
      {said && <p role="status">{said}</p>}
      <Flex justify="space-between" align="end" gap="24px" wrap="wrap">
        <chakra.h1 fontSize="29px">Room today</chakra.h1>
        <Flex gap="20px" marginLeft="auto" color="tide" textDecoration="underline">
          <Link to="/visits">Visits</Link>
          <Link to="/practice">Practice</Link>
          <Link to="/devices">Devices</Link>
          <Link to="/studio">Studio: ranges, schools, units, frames</Link>
        </Flex>
        <div className="text-field">
          <label htmlFor="find">
            Find a rider <Keycap>/</Keycap>
          </label>
          <input
            id="find"
            ref={finder}
            type="search"
            value={find}
            onChange={(e) => setFind(e.target.value)}
            onKeyDown={(e) => {
              if (e.key !== "Escape") return;
              // What is typed is taken back; the next one leaves.
              e.preventDefault();
              if (find === "") finder.current?.blur();
              else setFind("");
            }}
          />
        </div>
      </Flex>

      {due.length > 0 && find === "" && (
        <chakra.p marginTop="6px" fontSize="18px">
          Due to come back:{" "}
          {due.slice(0, MOST_DUE).map((rider, index) => (
            <span key={rider.id}>
              {index > 0 && "; "}
              <chakra.span color="tide" textDecoration="underline">
                <Link to={`/riders/${rider.id}`}>{rider.name}</Link>
              </chakra.span>
              , <b>{rider.follow_up?.words}</b>
            </span>
          ))}
          {due.length > MOST_DUE && `; and ${due.length - MOST_DUE} more below`}
        </chakra.p>
      )}

      {riders.error && (
        <chakra.p role="alert" color="brick" fontWeight="600" marginTop="16px">
          {words(riders.error)}
        </chakra.p>
      )}

      {riders.data && <Ground open={open} chosen={chosen} empty={empty} />}

      {riders.data && (
        <Grid templateColumns={{ base: "1fr", md: "1fr 380px" }} gap="40px" marginTop="26px">
          <Box as="section" aria-label="Other riders">
            {others.length > 0 && <chakra.h2 fontSize="19px">Riders without an open fit</chakra.h2>}
            {riders.data.length === 0 && find !== "" && (
              <p>No rider’s name holds “{find}”. Clear the search to see everyone.</p>
            )}
            <RiderList riders={others} />
            <chakra.label
              display="flex"
              gap="8px"
              alignItems="center"
              minHeight="32px"
              marginTop="12px"
              fontSize="15px"
            >
              <input type="checkbox" checked={archived} onChange={(event) => setArchived(event.target.checked)} />
              Show those put away
            </chakra.label>
          </Box>
          {!empty && <ImportRiders />}
        </Grid>
      )}
    </Page>
  );
}

/** Nobody is on record: the three ways in. */
function WayIn() {
  return (
    <div className="way-in">
      <p className="first">Nobody is on record yet.</p>
      <ol>
        <li>
          <b>The first rider</b>
          <p>Name and stature are enough; the rest can be measured later.</p>
          <Button variant="solid" onClick={() => document.getElementById("new-rider-name")?.focus()}>
            Begin with a name <Keycap>N</Keycap>
          </Button>
        </li>
        <li>
          <b>Riders you have</b>
          <p>A file that Wedge wrote, of one rider or of a whole studio.</p>
          <ImportRiders />
        </li>
        <li>
          <b>Somebody to try it on</b>
          <p>Invented riders, some of them half-way through a fit. Each can be deleted.</p>
          <TakeDemo />
        </li>
      </ol>
    </div>
  );
}

/** Riders by name, with when they were here last and when they come back. */
function RiderList({ riders }: { riders: RiderLine[] }) {
  return (
    <Box as="ul" listStyleType="none" marginTop="8px">
      {riders.map((rider) => (
        <chakra.li key={rider.id} borderBottomWidth="1px" borderColor="hairline">
          <Link to={`/riders/${rider.id}`}>
            <Flex justify="space-between" gap="16px" paddingBlock="10px" fontSize="18px">
              <chakra.span fontWeight="650" overflowWrap="anywhere">
                {rider.name}
                {rider.simulated && <chakra.span color="soft"> (simulated)</chakra.span>}
                {rider.archived && <chakra.span color="soft"> (put away)</chakra.span>}
              </chakra.span>
              <chakra.span color="soft" textAlign="right">
                {rider.follow_up && (
                  <chakra.b color={rider.follow_up.due ? "brick" : "ink"}>{rider.follow_up.words}, </chakra.b>
                )}
                {rider.last_day ? `last fit ${day(rider.last_day)}` : "no fit yet"}
              </chakra.span>
            </Flex>
          </Link>
        </chakra.li>
      ))}
    </Box>
  );
}

/** The most riders named as due above the ground. */
const MOST_DUE = 4;

/** Millimetres of height the ground line's drawings share: one scale for all, so that short and tall show. */
const TALL_MM = 1800;
/** Pixels of that height for the fit at hand, and for the others, and how they stand; less of both when there are many. */
const CROWDS = {
  few: { large: 400, small: 250, standing: "few" },
  many: { large: 300, small: 180, standing: "many" },
  crowd: { large: 230, small: 130, standing: "crowd" },
  throng: { large: 200, small: 104, standing: "crowd throng" },
  packed: { large: 160, small: 88, standing: "crowd throng packed" },
};
const crowding = (fits: number) =>
  CROWDS[fits <= 2 ? "few" : fits === 3 ? "many" : fits === 4 ? "crowd" : fits < 7 ? "throng" : "packed"];

interface GroundProps {
  open: Drawn[];
  chosen: Drawn | undefined;
  empty: boolean;
}

/** One ground line crosses the page; open fits stand on it, the next rider at its end. */
function Ground({ open, chosen, empty }: GroundProps) {
  const catalogue = useQuery(catalogueQuery);
  const label = ({ open: { station, position } }: Drawn) => {
    const pads = position?.bike.pad != null && catalogue.data?.bars.find(({ bar }) => bar === "aero");
    const stations = pads ? pads.stations : catalogue.data?.stations;
    return stations?.find((s) => s.station === station)?.label ?? "";
  };
  const crowd = crowding(open.length);
  return (
    <section className="room-ground" aria-label="Open fits">
      <div className={`standing ${crowd.standing}`}>
        {open.map((rider) => {
          const on = rider.id === chosen?.id;
          const { open: fit } = rider;
          return (
            <article key={rider.id} className={on ? "fit on" : "fit"}>
              <div className="said">
                <h2>
                  <Link to={`/riders/${rider.id}`}>{rider.name}</Link>
                </h2>
                {rider.simulated && <p className="simulated">simulated rider</p>}
                <p>
                  {fit.bike} · fit {fit.number} · at <b>{label(rider)}</b>
                </p>
                {on && fit.words != null && <p className="words">“{fit.words}”</p>}
                <Button asChild variant={on ? "solid" : "outline"}>
                  <Link to={`/sessions/${fit.session_id}`}>Go on {on && <Keycap>Enter</Keycap>}</Link>
                </Button>
              </div>
              {fit.position && (
                <Standing position={fit.position} height={on ? crowd.large : crowd.small} name={rider.name} />
              )}
            </article>
          );
        })}
        <article className="fit next">
          {empty && <WayIn />}
          <NewRider />
        </article>
      </div>
    </section>
  );
}

/** A rider on the ground line, to the room's one scale. */
function Standing({ position, height, name }: { position: Position; height: number; name: string }) {
  const box = bounds(position);
  const k = height / TALL_MM;
  const width = (box.right - box.left) * k;
  return (
    <div className="board standing-board" style={{ width, height }}>
      <svg
        viewBox={`0 0 ${width} ${height}`}
        width={width}
        height={height}
        role="img"
        aria-label={`${name} as the fit stands`}
      >
        <g transform={`translate(${-box.left * k} ${height + box.bottom * k}) scale(${k} ${-k})`}>
          <Figure position={position} crank={90} />
        </g>
      </svg>
    </div>
  );
}
