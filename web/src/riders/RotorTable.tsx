import { Button, chakra } from "@chakra-ui/react";
import type { RotorLine } from "../api/types";
import { number } from "../ui/format";
import { HeadRow } from "../ui/HeadRow";
import { NumberField } from "../ui/NumberField";
import type { FullHouse } from "./HouseRules";
import type { HouseWrites } from "./useHouse";

interface RotorTableProps extends HouseWrites {
  house: FullHouse;
}

const SIZES: [Exclude<keyof RotorLine, "over_kg">, string][] = [
  ["front_mm", "front, trail"],
  ["rear_mm", "rear, trail"],
  ["steep_front_mm", "front, steep"],
  ["steep_rear_mm", "rear, steep"],
];
const MM = { unit: "mm", step: 20, fine_step: 1, min: 100, max: 300 } as const;
const KG = { unit: "kg", step: 5, fine_step: 1, min: 0, max: 250 } as const;

/** Usual rotors by the rider's mass: the studio's own table. */
export function RotorTable({ house, put, take, takeBeside }: RotorTableProps) {
  const { rotors } = house;
  const save = (table: RotorLine[], done: string) => take(put({ rotors: table }), done);
  const set = (index: number, change: Partial<RotorLine>) =>
    takeBeside(put({ rotors: rotors.map((line, n) => (n === index ? { ...line, ...change } : line)) }), "Saved");
  const last = rotors.at(-1);
  const next = last
    ? { ...last, over_kg: last.over_kg + 10 }
    : { over_kg: 0, front_mm: 180, rear_mm: 160, steep_front_mm: 203, steep_rear_mm: 180 };
  return (
    <chakra.section marginTop="28px" aria-labelledby="rotors">
      <h2 id="rotors">Rotors</h2>
      <p className="number-hint">
        Usual sizes by the rider’s mass in full kit, for bikes off the road. The makers of fork and frame come first.
      </p>
      {rotors.length > 0 && (
        <table className="rotor-table">
          <caption className="visually-hidden">Usual rotors by the rider’s mass</caption>
          <HeadRow columns={["riders over", ...SIZES.map(([, label]) => label), ""]} />
          <tbody>
            {rotors.map((line, index) => {
              const riders = `riders over ${number(line.over_kg)} kg`;
              return (
                <tr key={index}>
                  <th scope="row">
                    <NumberField
                      label={`Line ${index + 1}, riders over`}
                      labelHidden
                      fieldKey={`rotors.${index}.over_kg`}
                      spec={KG}
                      value={line.over_kg}
                      readOnly={index === 0}
                      onCommit={(over_kg) => set(index, { over_kg })}
                    />
                  </th>
                  {SIZES.map(([key, label]) => (
                    <td key={key}>
                      <NumberField
                        label={`Rotor ${label}, ${riders}`}
                        labelHidden
                        fieldKey={`rotors.${index}.${key}`}
                        spec={MM}
                        value={line[key]}
                        onCommit={(mm) => set(index, { [key]: mm })}
                      />
                    </td>
                  ))}
                  <td>
                    {index > 0 && (
                      <button
                        type="button"
                        className="more"
                        aria-label={`Take the line of ${riders} out`}
                        onClick={() =>
                          void save(
                            rotors.filter((_, n) => n !== index),
                            "Taken out",
                          )
                        }
                      >
                        Take out
                      </button>
                    )}
                  </td>
                </tr>
              );
            })}
          </tbody>
        </table>
      )}
      <Button size="sm" onClick={() => void save([...rotors, next], "Added")}>
        Add a line
      </Button>
    </chakra.section>
  );
}
