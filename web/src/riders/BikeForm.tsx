import { Box, Button, chakra, Flex, Grid } from "@chakra-ui/react";
import { useMutation, useQuery, useQueryClient } from "@tanstack/react-query";
import { type SubmitEvent, useState } from "react";
import { useNavigate } from "react-router";
import { answer, api, ApiError, newId, words } from "../api/client";
import { catalogueQuery } from "../api/queries";
import type { BikeView, Catalogue, NewBike, OrdinaryBike, Quantity, SessionView } from "../api/types";
import { number, parse, suffix, today } from "../ui/format";
import { TextField } from "../ui/TextField";
import { GROUPS } from "./bikeParts";

/** The one part that need not be known. */
const OPTIONAL: Quantity = "steerer_mm";

type Typed = Partial<Record<Quantity, string>>;

/** An ordinary bike's numbers, as if typed. */
function typedFrom(bike: OrdinaryBike): Typed {
  const all = { ...bike.frame, ...bike.cockpit, ...bike.pedalling, ...bike };
  const typed: Typed = {};
  for (const [key, value] of Object.entries(all)) {
    if (typeof value === "number") typed[key as Quantity] = number(value).replace("−", "-");
  }
  return typed;
}

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
  const [typed, setTyped] = useState<Typed>({});
  const [wrong, setWrong] = useState<Typed>({});
  const [ids] = useState(() => ({ bike: newId(), session: newId() }));
  const queries = useQueryClient();
  const navigate = useNavigate();

  const create = useMutation({
    mutationFn: async () => {
      const numbers = (keys: readonly Quantity[]) =>
        Object.fromEntries(keys.map((key) => [key, parse(typed[key] ?? "") ?? null]));
      const [frame, cockpit, saddle, pedalling] = GROUPS.map((group) => numbers(group.keys));
      const body = {
        id: ids.bike,
        name,
        frame,
        cockpit,
        saddle,
        pedalling: { left: pedalling, right: pedalling },
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

  const submit = (event: SubmitEvent) => {
    event.preventDefault();
    const found: Typed = {};
    for (const key of GROUPS.flatMap((group): Quantity[] => [...group.keys])) {
      const text = (typed[key] ?? "").trim();
      if (text === "") {
        if (key !== OPTIONAL) found[key] = "Type a number";
      } else if (parse(text) === undefined) {
        found[key] = `“${text}” is not a number`;
      }
    }
    setWrong(found);
    if (Object.keys(found).length === 0) create.mutate();
  };

  return (
    <chakra.form
      noValidate
      onSubmit={submit}
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
          <label htmlFor="ordinary">Fill in an ordinary road bike</label>
          <select
            id="ordinary"
            className="plain-select"
            value=""
            onChange={(event) => {
              const bike = catalogue.ordinary_bikes.find((b) => b.name === event.target.value);
              if (bike) {
                setTyped(typedFrom(bike));
                setWrong({});
              }
            }}
          >
            <option value="">choose a size…</option>
            {catalogue.ordinary_bikes.map((bike) => (
              <option key={bike.name}>{bike.name}</option>
            ))}
          </select>
        </Box>
      </Flex>
      <chakra.p fontSize="15px" color="soft" marginTop="4px">
        An ordinary bike’s numbers are typical, not measured: overtype what you can tape.
      </chakra.p>
      {GROUPS.map((group) => (
        <chakra.fieldset key={group.at} marginTop="16px" border="0">
          <chakra.legend fontWeight="700">{group.title}</chakra.legend>
          <Grid
            templateColumns="repeat(auto-fill, minmax(150px, 1fr))"
            gap="10px 16px"
            marginTop="4px"
            alignItems="end"
          >
            {group.keys.map((key) => {
              const spec = catalogue.quantities.find((q) => q.quantity === key);
              if (!spec) return null;
              return (
                <TextField
                  key={key}
                  label={`${spec.label}, ${suffix(spec.unit).trim()}`}
                  inputMode="decimal"
                  hint={key === OPTIONAL ? "If known" : undefined}
                  value={typed[key] ?? ""}
                  onChange={(value) => {
                    setTyped({ ...typed, [key]: value });
                    setWrong({ ...wrong, [key]: undefined });
                  }}
                  error={wrong[key] ?? refused?.at(`/${key}`)}
                />
              );
            })}
          </Grid>
        </chakra.fieldset>
      ))}
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
