import { Box, Button, chakra, Flex, Grid } from "@chakra-ui/react";
import { useMutation, useQuery, useQueryClient } from "@tanstack/react-query";
import { type SubmitEvent, useState } from "react";
import { useNavigate } from "react-router";
import { answer, api, ApiError, newId, words } from "../api/client";
import { readTyped } from "../api/typed";
import { catalogueQuery, studioQuery } from "../api/queries";
import type {
  BikeView,
  Catalogue,
  Kind,
  NewBike,
  OrdinaryBike,
  Quantity,
  SessionView,
  TapedFrame,
  Unit,
} from "../api/types";
import { number, parse, suffix, today } from "../ui/format";
import { TextField } from "../ui/TextField";
import { type BarKind, barParts } from "../stations/fields";
import { FrameOnTape } from "../stations/FrameOnTape";
import { type PartGroup, partGroups } from "./bikeParts";

type Typed = Partial<Record<Quantity, string>>;

/** An ordinary bike's numbers, as if typed. */
const typedFrom = (bike: OrdinaryBike): Typed =>
  asTyped({ ...bike.frame, ...bike.cockpit, ...barParts(bike.bar), ...bike.pedalling, ...bike });

/** The unit in a key: all but lengths and masses are shown in their own. */
const unitOf = (key: string): Unit => (key.endsWith("_kg") ? "kg" : key.endsWith("_mm") ? "mm" : "deg");

/** Numbers as if typed. */
function asTyped(all: Record<string, unknown>): Typed {
  const typed: Typed = {};
  for (const [key, value] of Object.entries(all)) {
    if (typeof value === "number") typed[key as Quantity] = number(value, unitOf(key)).replace("−", "-");
  }
  return typed;
}

const BARS: [BarKind, string][] = [
  ["drop", "Drop bar"],
  ["flat", "Flat bar"],
  ["aero", "Base bar with pads"],
];

interface BikeFormProps {
  riderId: string;
  first: boolean;
  onDone: () => void;
}

/** A new bike, typed in. Starting from an ordinary one fills the fields; what it fills is typical, not measured. */
export function BikeForm(props: BikeFormProps) {
  const catalogue = useQuery(catalogueQuery);
  return catalogue.data ? <Form {...props} catalogue={catalogue.data} /> : null;
}

function Form({ riderId, first, onDone, catalogue }: BikeFormProps & { catalogue: Catalogue }) {
  const [name, setName] = useState("");
  const [kind, setKind] = useState<Kind>("road");
  const [bar, setBar] = useState<BarKind>("drop");
  const [typed, setTyped] = useState<Typed>({});
  const [taped, setTaped] = useState<TapedFrame>();
  const studio = useQuery(studioQuery);
  const [wrong, setWrong] = useState<Typed>({});
  const [ids] = useState(() => ({ bike: newId(), session: newId() }));
  const queries = useQueryClient();
  const navigate = useNavigate();
  const groups = partGroups(catalogue, bar);
  const specOf = (key: Quantity) => catalogue.quantities.find((q) => q.quantity === key);

  const create = useMutation({
    mutationFn: async (typed: Typed) => {
      const numbers = (group: PartGroup): Partial<Record<Quantity, number>> =>
        Object.fromEntries(
          group.keys.flatMap((key) => {
            const value = parse(typed[key] ?? "");
            return value === undefined ? [] : [[key, value] as const];
          }),
        );
      const parts = new Map(groups.map((group) => [group.at, numbers(group)]));
      const body = {
        ...Object.fromEntries(parts),
        id: ids.bike,
        name,
        kind,
        taped: taped ?? null,
        bar: { [bar]: parts.get("bar") },
        pedalling: { left: parts.get("pedalling"), right: parts.get("pedalling") },
      } as unknown as NewBike;
      await answer<BikeView>(api.POST("/api/riders/{id}/bikes", { params: { path: { id: riderId } }, body }));
      return answer<SessionView>(
        api.POST("/api/bikes/{id}/sessions", {
          params: { path: { id: ids.bike } },
          body: { id: ids.session, day: today() },
        }),
      );
    },
    onSuccess: async () => {
      await queries.invalidateQueries({ queryKey: ["rider", riderId] });
      onDone();
      await navigate(`/sessions/${ids.session}`);
    },
  });
  const refused = create.error instanceof ApiError ? create.error : undefined;

  const submit = async (event: SubmitEvent) => {
    event.preventDefault();
    const found: Typed = {};
    const plain: Typed = { ...typed };
    for (const key of groups.flatMap((group) => group.keys)) {
      const text = (typed[key] ?? "").trim();
      if (text === "") {
        if (specOf(key)?.optional !== true) found[key] = "Type a number";
      } else if (parse(text) === undefined) {
        const read = await readTyped(text, specOf(key)?.unit ?? "mm");
        if (typeof read === "string") found[key] = read;
        else plain[key] = String(read);
      }
    }
    setTyped(plain);
    setWrong(found);
    if (Object.keys(found).length === 0) create.mutate(plain);
  };

  return (
    <chakra.form
      noValidate
      onSubmit={(event) => void submit(event)}
      aria-label="New bike"
      background="sheet"
      borderWidth="1px"
      borderColor="tide"
      borderRadius="4px"
      padding="18px 20px"
      marginTop="14px"
    >
      <chakra.h3 fontSize="19px">{first ? "The first bike" : "Another bike"}</chakra.h3>
      <Flex gap="18px" wrap="wrap" marginTop="8px" align="end">
        <Box flex="1" minWidth="220px">
          <TextField label="Name of the bike" value={name} onChange={setName} error={refused?.at("/name")} />
        </Box>
        <Box>
          <label htmlFor="kind">Kind of riding</label>
          <select
            id="kind"
            className="plain-select"
            value={kind}
            onChange={(event) => {
              const chosen = catalogue.kinds.find((k) => k.kind === event.target.value);
              if (chosen) setKind(chosen.kind);
            }}
          >
            {catalogue.kinds.map((k) => (
              <option key={k.kind} value={k.kind}>
                {k.word}
              </option>
            ))}
          </select>
        </Box>
        <Box>
          <label htmlFor="bar">Bar</label>
          <select
            id="bar"
            className="plain-select"
            value={bar}
            onChange={(event) => {
              const chosen = BARS.find(([b]) => b === event.target.value);
              if (chosen) setBar(chosen[0]);
            }}
          >
            {BARS.map(([b, words]) => (
              <option key={b} value={b}>
                {words}
              </option>
            ))}
          </select>
        </Box>
        <Box>
          <label htmlFor="ordinary">Fill in an ordinary bike</label>
          <select
            id="ordinary"
            className="plain-select"
            value=""
            onChange={(event) => {
              const bike = catalogue.ordinary_bikes.find((b) => b.name === event.target.value);
              const chosen = bike && BARS.find(([b]) => b in bike.bar);
              if (bike && chosen) {
                setKind(bike.kind);
                setBar(chosen[0]);
                setTyped(typedFrom(bike));
                setWrong({});
              }
            }}
          >
            <option value="">choose one…</option>
            {catalogue.kinds.map((k) => (
              <optgroup key={k.kind} label={k.word}>
                {catalogue.ordinary_bikes
                  .filter((bike) => bike.kind === k.kind)
                  .map((bike) => (
                    <option key={bike.name}>{bike.name}</option>
                  ))}
              </optgroup>
            ))}
          </select>
        </Box>
      </Flex>
      {(studio.data?.frames.length ?? 0) > 0 && (
        <Box marginTop="8px" maxWidth="340px">
          <label htmlFor="library">A frame from the library</label>
          <select
            id="library"
            className="plain-select"
            value=""
            onChange={(event) => {
              const chosen = studio.data?.frames.find((f) => f.id === event.target.value);
              if (!chosen) return;
              setKind(chosen.kind);
              setTyped({ ...typed, ...asTyped(chosen.frame) });
              setTaped(undefined);
              setWrong({});
            }}
          >
            <option value="">choose one…</option>
            {studio.data?.frames.map((frame) => (
              <option key={frame.id} value={frame.id}>
                {frame.name}
              </option>
            ))}
          </select>
        </Box>
      )}
      <chakra.p fontSize="15px" color="soft" marginTop="4px">
        An ordinary bike’s numbers are typical, not measured: overtype what you can tape.
      </chakra.p>
      {groups.map((group) => {
        const field = (key: Quantity) => {
          const spec = specOf(key);
          if (!spec) return null;
          return (
            <TextField
              key={key}
              label={`${spec.label}, ${suffix(spec.unit).trim()}`}
              inputMode="decimal"
              value={typed[key] ?? ""}
              onChange={(value) => {
                setTyped({ ...typed, [key]: value });
                if (key === "frame_reach_mm" || key === "frame_stack_mm") setTaped(undefined);
                setWrong({ ...wrong, [key]: undefined });
              }}
              hint={
                taped && (key === "frame_reach_mm" || key === "frame_stack_mm") ? "computed from the tape" : undefined
              }
              error={wrong[key] ?? refused?.at(`/${key}`)}
            />
          );
        };
        const optional = group.keys.filter((key) => specOf(key)?.optional === true);
        const needed = group.keys.filter((key) => !optional.includes(key));
        const columns = { templateColumns: "repeat(auto-fill, minmax(150px, 1fr))", gap: "10px 16px" };
        return (
          <chakra.fieldset key={group.at} marginTop="16px" border="0">
            <chakra.legend fontWeight="700">{group.title}</chakra.legend>
            <Grid {...columns} marginTop="4px" alignItems="end">
              {needed.map(field)}
            </Grid>
            {group.at === "frame" && (
              <FrameOnTape
                catalogue={catalogue}
                seatAngle={parse(typed.seat_angle_deg ?? "")}
                start={{}}
                onComputed={(computed, from) => {
                  const plain = (value: number) => number(value, "mm").replace("−", "-");
                  setTyped({
                    ...typed,
                    frame_reach_mm: plain(computed.frame_reach_mm),
                    frame_stack_mm: plain(computed.frame_stack_mm),
                  });
                  setTaped(from);
                  return undefined;
                }}
              />
            )}
            {optional.length > 0 && (
              <details open={optional.some((key) => wrong[key] !== undefined || refused?.at(`/${key}`) !== undefined)}>
                <chakra.summary cursor="pointer" marginTop="8px" fontSize="15px">
                  More, if known
                </chakra.summary>
                <Grid {...columns} marginTop="4px" alignItems="end">
                  {optional.map(field)}
                </Grid>
              </details>
            )}
          </chakra.fieldset>
        );
      })}
      {create.error && !refused?.errors.length && (
        <p className="number-error" role="alert">
          {words(create.error)}
        </p>
      )}
      {(Object.values(wrong).some(Boolean) || (refused?.errors.length ?? 0) > 0) && (
        <p className="number-error" role="alert">
          Some numbers need another look: see the fields above.
        </p>
      )}
      <Flex gap="12px" marginTop="16px">
        <Button type="submit" variant="solid" disabled={create.isPending}>
          Write down and start the fit
        </Button>
        {!first && <Button onClick={onDone}>Not now</Button>}
      </Flex>
    </chakra.form>
  );
}
