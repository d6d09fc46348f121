import { keepPreviousData, useQuery } from "@tanstack/react-query";
import { useState } from "react";
import { answer, api, ApiError, words } from "../api/client";
import type { MadeDrawn, NextAsked, NextView, Wish, Wished, WishPart, WishSpec } from "../api/types";
import { number, withUnit } from "../ui/format";
import { Lines } from "../ui/Lines";
import { NumberField } from "../ui/NumberField";
import { Problem } from "../ui/Problem";
import { Tick } from "../ui/Tick";
import { KeepAs } from "./KeepAs";
import { Sat } from "../board/Sat";

interface MadeProps {
  rider: string;
  name: string;
  view: NextView;
  from: NextAsked["from"];
}

const PARTS: [WishPart, string][] = [
  ["front", "Front of the frame"],
  ["seat", "Saddle and post"],
  ["bottom", "Bottom bracket"],
  ["over", "Standing over it"],
  ["chosen", "Chosen parts"],
];

/** Made to measure: wishes that hold or are free, what does not go together, and the frame. */
export function MadeSection({ rider, name, view, from }: MadeProps) {
  const [wishes, setWishes] = useState(view.wishes);
  const asked = { from, wishes } as NextAsked;
  const made = useQuery({
    queryKey: ["next made", rider, asked],
    queryFn: () =>
      answer<MadeDrawn>(
        api.POST("/api/riders/{id}/next/made", { params: { path: { id: rider } }, body: asked as never }),
      ),
    placeholderData: keepPreviousData,
    retry: false,
  });
  const edit = (wish: Wish, some: Partial<Wished>) =>
    setWishes(wishes.map((one) => (one.wish === wish ? { ...one, ...some } : one)));
  const { data } = made;
  const first = data?.made.conflicts[0];
  const refused = made.error instanceof ApiError ? made.error.errors[0]?.detail : undefined;
  return (
    <div className="next-cols">
      <div>
        {data && (
          <img
            className="frame-drawing"
            src={`data:image/svg+xml,${encodeURIComponent(data.svg)}`}
            alt="The frame from the side; its dimensions are in the table"
          />
        )}
        {data && <Dimensions made={data} />}
      </div>
      <section aria-labelledby="made">
        <h2 id="made">Made to measure</h2>
        <p className="other">
          What is ticked must hold; what is not gives way. Where wishes do not go together it is told, with what frees
          them.
        </p>
        <Problem words={made.error ? (refused ?? words(made.error)) : undefined} />
        <div aria-live="polite">
          {!made.error &&
            data?.made.conflicts.map((conflict) => (
              <div className="conflict" key={conflict.words}>
                <b>{conflict.words}.</b>
                <Lines title="Any of these frees it" lines={conflict.frees.map((freed) => freed.words)} />
              </div>
            ))}
        </div>
        {PARTS.map(([part, title]) => (
          <Wishes key={part} title={title} part={part} view={view} wishes={wishes} onEdit={edit} />
        ))}
        {data && <Lines title="Told of it" lines={data.made.told} />}
        {data && <Lines title="Assumed" lines={data.made.assumed} />}
        {data && <Sat position={data.position} label="The rider on it: computed, not ridden" />}
        {data && (
          <KeepAs
            rider={rider}
            name={`Frame for ${name}`}
            asked={asked}
            not={first || made.error ? "Wishes that do not go together come first." : undefined}
          />
        )}
      </section>
    </div>
  );
}

interface WishesProps {
  title: string;
  part: WishPart;
  view: NextView;
  wishes: Wished[];
  onEdit: (wish: Wish, some: Partial<Wished>) => void;
}

function Wishes({ title, part, view, wishes, onEdit }: WishesProps) {
  const specs = view.specs.filter((spec) => spec.part === part);
  return (
    <>
      <h3>{title}</h3>
      <div className="wishes">
        {specs.map((spec) => {
          const wished = wishes.find((one) => one.wish === spec.wish);
          return wished && <WishField key={spec.wish} spec={spec} wished={wished} onEdit={onEdit} />;
        })}
      </div>
    </>
  );
}

function WishField({ spec, wished, onEdit }: { spec: WishSpec; wished: Wished; onEdit: WishesProps["onEdit"] }) {
  const least = spec.how.endsWith("at least");
  return (
    <div>
      <NumberField
        label={spec.label}
        how={spec.how}
        hint={least ? "at least" : undefined}
        spec={{ ...spec, fine_step: spec.step >= 5 ? 1 : spec.step / 5 }}
        value={wished.value}
        fieldKey={`wish.${spec.wish}`}
        onCommit={(value) => {
          if (value < spec.min || value > spec.max) {
            return `${spec.label} is ${number(spec.min, spec.unit)} to ${withUnit(spec.max, spec.unit)}`;
          }
          onEdit(spec.wish, { value });
          return undefined;
        }}
        onStep={(value) => onEdit(spec.wish, { value })}
      />
      {spec.part !== "chosen" && (
        <Tick
          label={`${spec.label} holds`}
          on={wished.fixed}
          readOnly={false}
          onTick={(fixed) => onEdit(spec.wish, { fixed })}
        />
      )}
    </div>
  );
}

const FROM = { wished: "as wished", chosen: "chosen", solved: "worked out" } as const;

function Dimensions({ made }: { made: MadeDrawn }) {
  return (
    <table>
      <thead>
        <tr>
          <th scope="col">Dimension</th>
          <th scope="col" className="n">
            Value
          </th>
          <th scope="col" className="n">
            May be off by
          </th>
          <th scope="col">From</th>
        </tr>
      </thead>
      <tbody>
        {made.made.dimensions.map((one) => (
          <tr key={one.key}>
            <th scope="row">{one.label}</th>
            <td className="n">
              <b>{one.unit === "deg" ? `${one.value.toFixed(2).replace("-", "−")}°` : withUnit(one.value, one.unit)}</b>
            </td>
            <td className="n">{one.tolerance == null ? "" : `± ${withUnit(one.tolerance, one.unit)}`}</td>
            <td>{FROM[one.from]}</td>
          </tr>
        ))}
      </tbody>
    </table>
  );
}
