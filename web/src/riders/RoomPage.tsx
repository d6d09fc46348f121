import { Box, Button, chakra, Flex, Grid } from "@chakra-ui/react";
import { useMutation, useQuery, useQueryClient } from "@tanstack/react-query";
import { type SubmitEvent, useRef, useState } from "react";
import { Link, useNavigate } from "react-router";
import { answer, api, ApiError, newId, words } from "../api/client";
import { catalogueQuery, ridersQuery } from "../api/queries";
import type { Imported, RiderLine, RiderView } from "../api/types";
import { day, parse } from "../ui/format";
import { Keycap } from "../ui/Keycap";
import { useKeys } from "../ui/keys";
import { Page } from "../ui/Page";
import { TextField } from "../ui/TextField";

/** The room today: open fits first, the others to find, and a place for the next rider. */
export function RoomPage() {
  const [find, setFind] = useState("");
  const riders = useQuery(ridersQuery(find));
  const finder = useRef<HTMLInputElement>(null);
  const navigate = useNavigate();
  const open = (riders.data ?? []).filter((rider) => rider.open);
  const others = (riders.data ?? []).filter((rider) => !rider.open);
  const first = open[0]?.open;
  useKeys({
    "/": () => finder.current?.focus(),
    Enter: first ? () => void navigate(`/sessions/${first.session_id}`) : undefined,
  });
  const empty = riders.data?.length === 0 && find === "";
  return (
    <Page title="Room today">
      <Flex justify="space-between" align="end" gap="24px" wrap="wrap">
        <chakra.h1 fontSize="29px">Room today</chakra.h1>
        <div className="text-field">
          <label htmlFor="find">
            Find a rider <Keycap>/</Keycap>
          </label>
          <input id="find" ref={finder} type="search" value={find} onChange={(e) => setFind(e.target.value)} />
        </div>
      </Flex>

      {riders.error && (
        <chakra.p role="alert" color="brick" fontWeight="600" marginTop="16px">
          {words(riders.error)}
        </chakra.p>
      )}

      {open.length > 0 && (
        <Box as="section" aria-label="Open fits" marginTop="20px">
          <Grid gap="12px">
            {open.map((rider, index) => (
              <OpenFit key={rider.id} rider={rider} first={index === 0} />
            ))}
          </Grid>
        </Box>
      )}

      <Grid templateColumns={{ base: "1fr", md: "1fr 380px" }} gap="40px" marginTop="28px">
        <Box as="section" aria-label="Other riders">
          {others.length > 0 && <chakra.h2 fontSize="19px">Riders</chakra.h2>}
          {riders.data?.length === 0 && find !== "" && (
            <p>No rider’s name holds “{find}”. Clear the search to see everyone.</p>
          )}
          {empty && (
            <chakra.p fontSize="19px" maxWidth="44ch">
              Nobody is on record yet. Start with the first rider: name and stature are enough, the rest can be measured
              later.
            </chakra.p>
          )}
          <Box as="ul" listStyleType="none" marginTop="8px">
            {others.map((rider) => (
              <chakra.li key={rider.id} borderBottomWidth="1px" borderColor="hairline">
                <Link to={`/riders/${rider.id}`}>
                  <Flex justify="space-between" gap="16px" paddingBlock="10px" fontSize="18px">
                    <chakra.span fontWeight="650" overflowWrap="anywhere">
                      {rider.name}
                    </chakra.span>
                    <chakra.span color="soft" whiteSpace="nowrap">
                      {rider.last_day ? `last fit ${day(rider.last_day)}` : "no fit yet"}
                    </chakra.span>
                  </Flex>
                </Link>
              </chakra.li>
            ))}
          </Box>
        </Box>
        <Box>
          <NewRider first={empty} />
          <ImportRider />
        </Box>
      </Grid>
    </Page>
  );
}

function OpenFit({ rider, first }: { rider: RiderLine; first: boolean }) {
  const catalogue = useQuery(catalogueQuery);
  if (!rider.open) return null;
  const { station, bike, number, session_id } = rider.open;
  const label = catalogue.data?.stations.find((s) => s.station === station)?.label ?? "";
  return (
    <Flex
      align="center"
      justify="space-between"
      gap="20px"
      wrap="wrap"
      background="sheet"
      borderWidth="1px"
      borderLeftWidth={first ? "6px" : "1px"}
      borderColor={first ? "tide" : "hairline"}
      borderRadius="4px"
      padding="16px 20px"
    >
      <Box minWidth="0">
        <chakra.p fontSize={first ? "29px" : "20px"} fontWeight="750" lineHeight="1.2" overflowWrap="anywhere">
          {rider.name}
        </chakra.p>
        <chakra.p color="soft" overflowWrap="anywhere">
          {bike} · fit {number} · at <chakra.b color="ink">{label}</chakra.b>
        </chakra.p>
      </Box>
      <Flex gap="10px" align="center">
        <chakra.span color="tide" textDecoration="underline">
          <Link to={`/riders/${rider.id}`}>Rider</Link>
        </chakra.span>
        <Button asChild variant={first ? "solid" : "outline"}>
          <Link to={`/sessions/${session_id}`}>Go on {first && <Keycap>Enter</Keycap>}</Link>
        </Button>
      </Flex>
    </Flex>
  );
}

const NOTHING = { name: "", stature_mm: "", mass_kg: "", inseam_mm: "" };
type Fields = typeof NOTHING;

/** What the form cannot send at all, by field. */
function unreadable(fields: Fields): Partial<Fields> {
  const wrong: Partial<Fields> = {};
  for (const key of ["stature_mm", "mass_kg", "inseam_mm"] as const) {
    const needed = key === "stature_mm";
    if (fields[key].trim() === "") {
      if (needed) wrong[key] = "Stature in mm is needed, like 1780";
    } else if (parse(fields[key]) === undefined) {
      wrong[key] = `“${fields[key].trim()}” is not a number: type it like 1780`;
    }
  }
  return wrong;
}

function NewRider({ first }: { first: boolean }) {
  const [fields, setFields] = useState<Fields>(NOTHING);
  const [wrong, setWrong] = useState<Partial<Fields>>({});
  const [id] = useState(newId);
  const navigate = useNavigate();
  const queries = useQueryClient();
  const create = useMutation({
    mutationFn: () =>
      answer<RiderView>(
        api.POST("/api/riders", {
          body: {
            id,
            name: fields.name,
            stature_mm: parse(fields.stature_mm) ?? Number.NaN,
            mass_kg: parse(fields.mass_kg) ?? null,
            inseam_mm: parse(fields.inseam_mm) ?? null,
          },
        }),
      ),
    onSuccess: async () => {
      await queries.invalidateQueries({ queryKey: ["riders"] });
      await navigate(`/riders/${id}`);
    },
  });
  const refused = create.error instanceof ApiError ? create.error : undefined;
  const field = (key: keyof Fields) => ({
    value: fields[key],
    onChange: (value: string) => {
      setFields({ ...fields, [key]: value });
      setWrong({ ...wrong, [key]: undefined });
    },
    error: wrong[key] ?? refused?.at(`/${key}`),
  });
  const submit = (event: SubmitEvent) => {
    event.preventDefault();
    const found = unreadable(fields);
    setWrong(found);
    if (Object.keys(found).length === 0) create.mutate();
  };
  return (
    <chakra.form
      noValidate
      onSubmit={submit}
      aria-labelledby="new-rider"
      background="sheet"
      borderWidth="1px"
      borderColor={first ? "tide" : "hairline"}
      borderRadius="4px"
      padding="18px 20px"
      display="grid"
      gap="10px"
    >
      <chakra.h2 id="new-rider" fontSize="19px">
        New rider
      </chakra.h2>
      <TextField label="Name" {...field("name")} />
      <TextField label="Stature, mm, barefoot" inputMode="decimal" {...field("stature_mm")} />
      <TextField
        label="Inseam, mm, barefoot"
        inputMode="decimal"
        hint="Estimated until measured"
        {...field("inseam_mm")}
      />
      <TextField label="Mass, kg" inputMode="decimal" {...field("mass_kg")} />
      {refused && refused.errors.length === 0 && (
        <p className="number-error" role="alert">
          {refused.message}
        </p>
      )}
      <Button type="submit" variant="solid" disabled={create.isPending}>
        Write down
      </Button>
    </chakra.form>
  );
}

function ImportRider() {
  const navigate = useNavigate();
  const queries = useQueryClient();
  const take = useMutation({
    mutationFn: async (file: File) => {
      const text = await file.text();
      return answer<Imported>(
        api.POST("/api/import", {
          // The file goes as it is: it is read, and refused, on the server.
          body: text as never,
          bodySerializer: (body: unknown) => body as string,
          headers: { "content-type": "application/json" },
        }),
      );
    },
    onSuccess: async ({ rider_id }) => {
      await queries.invalidateQueries({ queryKey: ["riders"] });
      await navigate(`/riders/${rider_id}`);
    },
  });
  return (
    <Box marginTop="18px" fontSize="15px">
      <label htmlFor="import-rider">Take in a rider from a file</label>
      <chakra.input
        id="import-rider"
        type="file"
        accept="application/json,.json"
        display="block"
        marginTop="4px"
        onChange={(event) => {
          const file = event.currentTarget.files?.[0];
          if (file) take.mutate(file);
        }}
      />
      {take.error && (
        <p className="number-error" role="alert">
          {words(take.error)}
        </p>
      )}
    </Box>
  );
}
