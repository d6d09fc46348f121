import { Button } from "@chakra-ui/react";
import { useMutation, useQueryClient } from "@tanstack/react-query";
import { type SubmitEvent, useState } from "react";
import { useNavigate } from "react-router";
import { answer, api, ApiError, newId } from "../api/client";
import type { RiderView } from "../api/types";
import { parse } from "../ui/format";
import { TextField } from "../ui/TextField";

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

/** The next rider: a blank figure on the ground line, whose four fields are its place in the record. */
export function NewRider() {
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
    <form noValidate onSubmit={submit} aria-labelledby="new-rider" className="new-rider">
      <h2 id="new-rider">New rider</h2>
      <TextField id="new-rider-name" label="Name" {...field("name")} />
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
    </form>
  );
}
