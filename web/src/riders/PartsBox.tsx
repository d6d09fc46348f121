import { Button, chakra } from "@chakra-ui/react";
import { useState } from "react";
import { answer, api, words } from "../api/client";
import type { ApiError } from "../api/client";
import type { Catalogue, Part, Quantity, StudioView } from "../api/types";
import { specOf } from "../fit/fields";
import { Choice } from "../ui/Choice";
import { withUnit } from "../ui/format";
import { NumberField } from "../ui/NumberField";
import { Problem } from "../ui/Problem";
import { TextField } from "../ui/TextField";
import { readStrictly } from "../ui/typed";
import { asCsv, CsvFile } from "./CsvFile";
import type { FullHouse } from "./HouseRules";
import type { HouseWrites } from "./useHouse";

interface PartsBoxProps extends Pick<HouseWrites, "put" | "take"> {
  house: FullHouse;
  catalogue: Catalogue;
}

const COUNT = { unit: "size", step: 1, fine_step: 1, min: 0, max: 999 } as const;

/** The parts a studio has on hand: what the front end is built of. */
export function PartsBox({ house, catalogue, put, take }: PartsBoxProps) {
  const [wrong, setWrong] = useState<string>();
  const { parts } = house;
  const save = (next: Part[], done: string) => void take(put({ parts: next }), done);
  const label = (part: Part) => catalogue.part_kinds.find((k) => k.kind === part.kind)?.label ?? part.kind;
  const sizes = (part: Part) =>
    Object.entries(part.sizes)
      .map(([key, value]) => {
        const spec = specOf(catalogue, key as Quantity);
        return `${spec?.label.toLowerCase() ?? key} ${withUnit(value, spec?.unit ?? "mm")}`;
      })
      .join(", ");
  const bring = (text: string, name: string) => {
    setWrong(undefined);
    void answer<Part[]>(api.POST("/api/parts/read", asCsv(text))).then(
      (read) => save(read, `The box is what ${name} says`),
      (error: unknown) => setWrong(words(error)),
    );
  };
  return (
    <chakra.section marginTop="28px" aria-labelledby="box">
      <CsvFile id="box" title="Parts box" href="/api/parts/file" label="A CSV of parts" onText={bring} />
      <p className="number-hint">
        What is on hand; ordinary stems and spacers are known besides, as to order. A CSV replaces the whole box.
      </p>
      <Problem words={wrong} />
      {parts.length > 0 && (
        <table className="rows">
          <thead>
            <tr>
              <th scope="col" style={{ textAlign: "left" }}>
                Part
              </th>
              <th scope="col">sizes</th>
              <th scope="col">on hand</th>
              <td />
            </tr>
          </thead>
          <tbody>
            {parts.map((part, index) => (
              <tr key={`${index}${part.kind}${sizes(part)}`}>
                <th scope="row">{part.name ? `${label(part)}, ${part.name}` : label(part)}</th>
                <td>{sizes(part)}</td>
                <td>
                  <NumberField
                    label={`${label(part)} ${sizes(part)}, on hand`}
                    labelHidden
                    spec={COUNT}
                    value={part.on_hand ?? 0}
                    onCommit={(count) => {
                      if (!Number.isInteger(count) || count < 0 || count > 999) return "A whole number, 0 to 999";
                      save(
                        parts.map((p, i) => (i === index ? { ...p, on_hand: count } : p)),
                        "Saved",
                      );
                      return undefined;
                    }}
                  />
                </td>
                <td>
                  <button
                    type="button"
                    className="more"
                    aria-label={`Take ${label(part)} ${sizes(part)} out`}
                    onClick={() =>
                      save(
                        parts.filter((_, i) => i !== index),
                        "Taken out of the box",
                      )
                    }
                  >
                    take out
                  </button>
                </td>
              </tr>
            ))}
          </tbody>
        </table>
      )}
      <NewPart catalogue={catalogue} onAdd={(part) => put({ parts: [...parts, part] })} take={take} />
    </chakra.section>
  );
}

interface NewPartProps {
  catalogue: Catalogue;
  onAdd: (part: Part) => Promise<StudioView>;
  take: PartsBoxProps["take"];
}

/** One more part: its kind says what is asked for. */
function NewPart({ catalogue, onAdd, take }: NewPartProps) {
  const [kind, setKind] = useState<Part["kind"]>("stem");
  const [texts, setTexts] = useState<Record<string, string>>({});
  const [wrong, setWrong] = useState<Record<string, string>>({});
  const sizes = catalogue.part_kinds.find((k) => k.kind === kind)?.sizes ?? [];
  const add = async () => {
    const found: Record<string, string> = {};
    const read: Record<string, number> = {};
    await Promise.all(
      sizes.map(async (quantity) => {
        const text = texts[quantity]?.trim() ?? "";
        if (text === "") return;
        const value = await readStrictly(text, { quantity, unit: specOf(catalogue, quantity)?.unit ?? "mm" });
        if (typeof value === "string") found[quantity] = value;
        else read[quantity] = value;
      }),
    );
    setWrong(found);
    if (Object.keys(found).length > 0) return;
    const part: Part = { kind, name: texts["name"]?.trim() ?? "", on_hand: 1, sizes: read, flips: kind === "stem" };
    const sent = onAdd(part);
    // What is refused is said beside its field, and stays typed.
    await sent.then(
      () => {
        setTexts({});
        return take(sent, "In the box");
      },
      (error: unknown) => {
        const said = (error as ApiError).errors.map((e) => [e.pointer.split("/").pop() ?? "", e.detail] as const);
        setWrong(Object.fromEntries(said));
        return said.length > 0 ? undefined : take(sent, "");
      },
    );
  };
  return (
    <details>
      <summary>Add a part</summary>
      <div className="field-grid">
        <Choice<Part["kind"]>
          label="What it is"
          options={catalogue.part_kinds.map((k) => ({ key: k.kind, label: k.label }))}
          value={kind}
          onPick={(key) => key && setKind(key)}
        />
        <TextField
          label="Called"
          value={texts["name"] ?? ""}
          error={wrong["name"]}
          onChange={(name) => setTexts({ ...texts, name })}
        />
        {sizes.map((quantity) => {
          const spec = specOf(catalogue, quantity);
          return (
            <TextField
              key={quantity}
              label={`${spec?.label ?? quantity}, ${spec?.unit === "deg" ? "°" : "mm"}`}
              inputMode="decimal"
              value={texts[quantity] ?? ""}
              error={wrong[quantity]}
              onChange={(text) => setTexts({ ...texts, [quantity]: text })}
            />
          );
        })}
      </div>
      <div className="buttons">
        <Button onClick={() => void add()}>Put it in the box</Button>
      </div>
    </details>
  );
}
