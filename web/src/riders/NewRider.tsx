import { Button } from "@chakra-ui/react";
import { useMutation, useQueryClient } from "@tanstack/react-query";
import { type SubmitEvent, useState } from "react";
import { useNavigate } from "react-router";
import { answer, api, ApiError, newId } from "../api/client";
import type { RiderView } from "../api/types";
import { readStrictly } from "../ui/typed";
import { suffix } from "../ui/format";
import { focusWrong } from "../ui/focusWrong";
import { TextField } from "../ui/TextField";
import { useKept } from "../ui/useKept";

const NOTHING = { name: "", stature_mm: "", mass_kg: "", inseam_mm: "" };
type Fields = typeof NOTHING;

const NUMBERS = ["stature_mm", "mass_kg", "inseam_mm"] as const;
type Numbers = Partial<Record<(typeof NUMBERS)[number], number>>;

/** The numbers as read, and what could not be, by field. */
async function readAll(fields: Fields): Promise<{ numbers: Numbers; wrong: Partial<Fields> }> {
  const wrong: Partial<Fields> = {};
  const numbers: Numbers = {};
  const read = async (key: (typeof NUMBERS)[number]) => {
    if (fields[key].trim() === "") {
      if (key === "stature_mm") wrong[key] = "Stature is needed, like 1780 or 178 cm";
      return;
    }
    const value = await readStrictly(fields[key], { quantity: key, unit: key === "mass_kg" ? "kg" : "mm" });
    if (typeof value === "string") wrong[key] = value;
    else numbers[key] = value;
  };
  await Promise.all(NUMBERS.map(read));
  if (fields.name.trim() === "") wrong.name = "A name is needed";
  return { numbers, wrong };
}

/** The next rider: a blank figure on the ground line, whose four fields are its place in the record. */
export function NewRider() {
  const { state: fields, edit, sent } = useKept<Fields>("wedge-new-rider", NOTHING);
  const [wrong, setWrong] = useState<Partial<Fields>>({});
  const [id] = useState(newId);
  const navigate = useNavigate();
  const queries = useQueryClient();
  const create = useMutation({
    mutationFn: (numbers: Numbers) =>
      answer<RiderView>(
        api.POST("/api/riders", {
          body: {
            id,
            name: fields.name,
            stature_mm: numbers.stature_mm ?? Number.NaN,
            mass_kg: numbers.mass_kg ?? null,
            inseam_mm: numbers.inseam_mm ?? null,
          },
        }),
      ),
    onError: focusWrong,
    onSuccess: async () => {
      sent();
      await queries.invalidateQueries({ queryKey: ["riders"] });
      await navigate(`/riders/${id}`);
    },
  });
  const refused = create.error instanceof ApiError ? create.error : undefined;
  const field = (key: keyof Fields) => ({
    value: fields[key],
    onChange: (value: string) => {
      edit({ [key]: value });
      setWrong({ ...wrong, [key]: undefined });
    },
    error: wrong[key] ?? refused?.at(`/${key}`),
  });
  const submit = async (event: SubmitEvent) => {
    event.preventDefault();
    const read = await readAll(fields);
    setWrong(read.wrong);
    if (Object.keys(read.wrong).length === 0) create.mutate(read.numbers);
    else focusWrong();
  };
  return (
    <form noValidate onSubmit={(event) => void submit(event)} aria-labelledby="new-rider" className="new-rider">
      <h2 id="new-rider">New rider</h2>
      <TextField id="new-rider-name" label="Name" {...field("name")} />
      <TextField label={`Stature, ${suffix("mm").trim()}, barefoot`} inputMode="decimal" {...field("stature_mm")} />
      <TextField
        label={`Inseam, ${suffix("mm").trim()}, barefoot`}
        inputMode="decimal"
        hint="Estimated until measured"
        {...field("inseam_mm")}
      />
      <TextField label={`Mass, ${suffix("kg").trim()}`} inputMode="decimal" {...field("mass_kg")} />
      {refused && refused.errors.length === 0 && (
        <p className="number-error" role="alert">
          {refused.message}
        </p>
      )}
      <Button type="submit" variant="solid" disabled={create.isPending}>
        Write down
      </Button>
    </form>
  );
}
