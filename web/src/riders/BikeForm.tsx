import { Box, Button, chakra, Flex, Grid } from "@chakra-ui/react";
import { useMutation, useQuery, useQueryClient } from "@tanstack/react-query";
import { type ReactNode, type SubmitEvent, useEffect, useState } from "react";
import { useNavigate } from "react-router";
import { answer, api, ApiError, newId, words } from "../api/client";
import { readStrictly } from "../ui/typed";
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
import { Problem } from "../ui/Problem";
import { focusWrong } from "../ui/focusWrong";
import { List } from "../ui/List";
import { TextField } from "../ui/TextField";
import { useKept } from "../ui/useKept";
import { type BarKind, barParts, specOf } from "../fit/fields";
import { FrameOnTape } from "../cards/FrameOnTape";
import { type PartGroup, partGroups } from "../fit/bikeParts";

type Typed = Partial<Record<Quantity, string>>;
type Numbers = Partial<Record<Quantity, number>>;

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

/** A bike as it is typed. */
interface Written {
  name: string;
  kind: Kind;
  bar: BarKind;
  groups: PartGroup[];
  numbers: Numbers;
  taped: TapedFrame | undefined;
  /** What an ordinary bike filled in, and nobody overtyped. */
  usual: Quantity[];
}

/** Writes a bike down, and begins its first fit. */
function useNewBike(riderId: string, onDone: () => void) {
  const [ids] = useState(() => ({ bike: newId(), session: newId() }));
  const queries = useQueryClient();
  const navigate = useNavigate();
  return useMutation({
    mutationFn: async ({ name, kind, bar, groups, numbers, taped, usual }: Written) => {
      const of = (group: PartGroup): Numbers =>
        Object.fromEntries(group.keys.flatMap((key) => (numbers[key] === undefined ? [] : [[key, numbers[key]]])));
      const parts = new Map(groups.map((group) => [group.at, of(group)]));
      const body = {
        ...Object.fromEntries(parts),
        id: ids.bike,
        name,
        kind,
        taped: taped ?? null,
        usual,
        bar: { [bar]: parts.get("bar") },
        pedalling: { left: parts.get("pedalling"), right: parts.get("pedalling") },
        levers: { left: parts.get("levers"), right: parts.get("levers") },
      } as unknown as NewBike;
      await answer<BikeView>(api.POST("/api/riders/{id}/bikes", { params: { path: { id: riderId } }, body }));
      return answer<SessionView>(
        api.POST("/api/bikes/{id}/sessions", {
          params: { path: { id: ids.bike } },
          body: { id: ids.session, day: today() },
        }),
      );
    },
    onError: focusWrong,
    onSuccess: async () => {
      await queries.invalidateQueries({ queryKey: ["rider", riderId] });
      onDone();
      await navigate(`/sessions/${ids.session}`);
    },
  });
}

/** What is typed of a bike. */
interface Sketch {
  name: string;
  kind: Kind;
  bar: BarKind;
  typed: Typed;
  taped: TapedFrame | undefined;
  usual: Quantity[];
}

const BLANK: Sketch = { name: "", kind: "road", bar: "drop", typed: {}, taped: undefined, usual: [] };

/** A rider without a bike: that is what comes next. */
function useLanding(first: boolean) {
  useEffect(() => {
    if (first) document.getElementById("bike-name")?.focus({ preventScroll: true });
  }, [first]);
}

function Form({ riderId, first, onDone, catalogue }: BikeFormProps & { catalogue: Catalogue }) {
  useLanding(first);
  const { state, edit, sent } = useKept(`wedge-bike-${riderId}`, BLANK);
  const { name, kind, bar, typed, taped, usual } = state;
  const studio = useQuery(studioQuery);
  const [wrong, setWrong] = useState<Typed>({});
  const groups = partGroups(catalogue, bar);

  const create = useNewBike(riderId, () => {
    sent();
    onDone();
  });
  const refused = create.error instanceof ApiError ? create.error : undefined;

  const submit = async (event: SubmitEvent) => {
    event.preventDefault();
    const found: Typed = {};
    const numbers: Numbers = {};
    const read = async (key: Quantity) => {
      const spec = specOf(catalogue, key);
      const text = (typed[key] ?? "").trim();
      if (text === "") {
        if (spec?.optional !== true) found[key] = "Type a number";
        return;
      }
      const value = await readStrictly(text, { quantity: key, unit: spec?.unit ?? "mm" });
      if (typeof value === "string") found[key] = value;
      else numbers[key] = value;
    };
    await Promise.all(groups.flatMap((group) => group.keys).map(read));
    setWrong(found);
    if (Object.keys(found).length > 0) focusWrong();
    else create.mutate({ name, kind, bar, groups, numbers, taped, usual: usual.filter((key) => key in numbers) });
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
          <TextField
            id="bike-name"
            label="Name of the bike"
            value={name}
            onChange={(text) => edit({ name: text })}
            error={refused?.at("/name")}
          />
        </Box>
        <PickOne
          id="kind"
          label="Kind of riding"
          value={kind}
          onPick={(key) => {
            const chosen = catalogue.kinds.find((k) => k.kind === key);
            if (chosen) edit({ kind: chosen.kind });
          }}
        >
          {catalogue.kinds.map((k) => (
            <option key={k.kind} value={k.kind}>
              {k.word}
            </option>
          ))}
        </PickOne>
        <PickOne
          id="bar"
          label="Bar"
          value={bar}
          onPick={(key) => {
            const chosen = BARS.find(([b]) => b === key);
            if (chosen) edit({ bar: chosen[0] });
          }}
        >
          {BARS.map(([b, words]) => (
            <option key={b} value={b}>
              {words}
            </option>
          ))}
        </PickOne>
        <PickOne
          id="ordinary"
          label="Fill in an ordinary bike"
          value=""
          onPick={(key) => {
            const bike = catalogue.ordinary_bikes.find((b) => b.name === key);
            const chosen = bike && BARS.find(([b]) => b in bike.bar);
            if (!bike || !chosen) return;
            // What is typed stands: an ordinary bike fills what is empty.
            const filled = Object.entries(typedFrom(bike)).filter(([part]) => !typed[part as Quantity]?.trim());
            edit({
              kind: bike.kind,
              bar: chosen[0],
              typed: { ...typed, ...(Object.fromEntries(filled) as Typed) },
              usual: [...usual, ...filled.map(([part]) => part as Quantity)],
            });
            setWrong({});
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
        </PickOne>
      </Flex>
      {(studio.data?.frames.length ?? 0) > 0 && (
        <Box marginTop="8px" maxWidth="340px">
          <PickOne
            id="library"
            label="A frame from the library"
            value=""
            onPick={(key) => {
              const chosen = studio.data?.frames.find((f) => f.id === key);
              if (!chosen) return;
              const frame = asTyped(chosen.frame);
              edit({
                kind: chosen.kind,
                typed: { ...typed, ...frame },
                taped: undefined,
                usual: usual.filter((key) => !(key in frame)),
              });
              setWrong({});
            }}
          >
            <option value="">choose one…</option>
            {studio.data?.frames.map((frame) => (
              <option key={frame.id} value={frame.id}>
                {frame.name}
              </option>
            ))}
          </PickOne>
        </Box>
      )}
      <chakra.p fontSize="15px" color="soft" marginTop="4px">
        An ordinary bike fills what is empty; its numbers are usual, not measured: overtype what you can tape.
      </chakra.p>
      {usual.length > 0 && (
        <Button
          size="sm"
          marginTop="6px"
          onClick={() => {
            edit({
              typed: Object.fromEntries(Object.entries(typed).filter(([key]) => !usual.includes(key as Quantity))),
              usual: [],
            });
          }}
        >
          Take the {usual.length} usual numbers out again
        </Button>
      )}
      {groups.map((group) => (
        <Group
          key={group.at}
          group={group}
          catalogue={catalogue}
          typed={typed}
          usual={usual}
          computed={taped !== undefined}
          error={(key) => wrong[key] ?? refused?.at(`/${key}`)}
          onType={(some) => {
            edit({
              typed: { ...typed, ...some },
              usual: usual.filter((key) => !(key in some)),
              ...(CHARTED.some((key) => key in some) && { taped: undefined }),
            });
            setWrong({ ...wrong, ...Object.fromEntries(Object.keys(some).map((key) => [key, undefined])) });
          }}
          onComputed={(some, from) => {
            edit({ typed: { ...typed, ...some }, taped: from, usual: usual.filter((key) => !(key in some)) });
          }}
        />
      ))}
      <Problem words={create.error && !refused?.errors.length ? words(create.error) : undefined} />
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

interface PickOneProps {
  label: string;
  id: string;
  value: string;
  onPick: (key: string) => void;
  children: ReactNode;
}

/** One of a list, with its label above. */
function PickOne({ label, id, value, onPick, children }: PickOneProps) {
  return (
    <Box>
      <label htmlFor={id}>{label}</label>
      <List id={id} value={value} onPick={onPick}>
        {children}
      </List>
    </Box>
  );
}

/** What a frame's chart gives, or the tape. */
const CHARTED: Quantity[] = ["frame_reach_mm", "frame_stack_mm"];

interface GroupProps {
  group: PartGroup;
  catalogue: Catalogue;
  typed: Typed;
  /** What an ordinary bike filled in. */
  usual: Quantity[];
  /** Reach and stack were computed from the tape. */
  computed: boolean;
  error: (key: Quantity) => string | undefined;
  onType: (some: Typed) => void;
  onComputed: (some: Typed, from: TapedFrame) => void;
}

/** One group of numbers; those that may be left out are folded away. */
function Group({ group, catalogue, typed, usual, computed, error, onType, onComputed }: GroupProps) {
  const field = (key: Quantity) => {
    const spec = specOf(catalogue, key);
    return (
      spec && (
        <TextField
          key={key}
          label={`${spec.label}, ${suffix(spec.unit).trim()}`}
          inputMode="decimal"
          value={typed[key] ?? ""}
          onChange={(value) => onType({ [key]: value })}
          hint={
            computed && CHARTED.includes(key)
              ? "computed from the tape"
              : usual.includes(key)
                ? "usual, not measured"
                : undefined
          }
          error={error(key)}
        />
      )
    );
  };
  const optional = group.keys.filter((key) => specOf(catalogue, key)?.optional === true);
  const needed = group.keys.filter((key) => !optional.includes(key));
  const columns = { templateColumns: "repeat(auto-fill, minmax(150px, 1fr))", gap: "10px 16px" };
  return (
    <chakra.fieldset marginTop="16px" border="0">
      <chakra.legend fontWeight="700">{group.title}</chakra.legend>
      <Grid {...columns} marginTop="4px" alignItems="end">
        {needed.map(field)}
      </Grid>
      {group.at === "frame" && (
        <FrameOnTape
          catalogue={catalogue}
          seatAngle={parse(typed.seat_angle_deg ?? "")}
          start={{}}
          onComputed={({ frame_reach_mm, frame_stack_mm }, from) => {
            onComputed(asTyped({ frame_reach_mm, frame_stack_mm }), from);
            return undefined;
          }}
        />
      )}
      {optional.length > 0 && (
        <details open={optional.some((key) => error(key) !== undefined)}>
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
}
