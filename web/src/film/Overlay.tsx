import { useQuery } from "@tanstack/react-query";
import { useState } from "react";
import { takesQuery } from "../api/queries";
import type { BodyPoint, FilmRead } from "../api/types";
import { readShot } from "./sends";

type Stick = Partial<Record<BodyPoint, [number, number]>>;

const stickOf = (read: FilmRead): Stick => Object.fromEntries(read.places.map(({ part, at }) => [part, at]));

const LIMBS: BodyPoint[] = ["toe", "ankle", "knee", "hip", "shoulder", "elbow", "wrist"];

/** The rider as in the picture over an earlier still, BB on BB, both squared and to one scale. */
export function Overlay({ session, now }: { session: string; now: FilmRead | undefined }) {
  const takes = useQuery(takesQuery(session));
  const [over, setOver] = useState<string>();
  const stills = (takes.data?.takes ?? []).flatMap(({ take, on }) =>
    "still" in take.body ? [{ id: take.id, name: take.name, on, shot: take.body.still }] : [],
  );
  const chosen = stills.find(({ id }) => id === over);
  const { data: before } = useQuery({
    queryKey: ["film", session, "kept", over],
    queryFn: () => (chosen ? readShot(session, chosen.shot) : Promise.reject(new Error("nothing"))),
    enabled: chosen !== undefined,
    staleTime: Infinity,
  });
  if (stills.length === 0) return null;
  return (
    <section className="card overlay" aria-labelledby="overlay">
      <h2 id="overlay">Over an earlier picture</h2>
      <div className="tabs">
        {stills.map(({ id, name, on }) => (
          <button
            key={id}
            type="button"
            aria-pressed={id === over}
            onClick={() => setOver(id === over ? undefined : id)}
          >
            {name}, {on.toLowerCase()}
          </button>
        ))}
      </div>
      {before && (
        <Sticks
          before={stickOf(before)}
          now={now ? stickOf(now) : undefined}
          cranks={[before.crank_deg, now?.crank_deg]}
        />
      )}
    </section>
  );
}

function Sticks({
  before,
  now,
  cranks,
}: {
  before: Stick;
  now: Stick | undefined;
  cranks: (number | null | undefined)[];
}) {
  const path = (stick: Stick) => {
    const points = LIMBS.flatMap((part) => (stick[part] ? [stick[part]] : []));
    return points.length > 1 ? `M${points.map(([x, y]) => `${x} ${-y}`).join("L")}` : "";
  };
  const apart = Math.abs((((((cranks[0] ?? 0) - (cranks[1] ?? 0) + 180) % 360) + 360) % 360) - 180);
  return (
    <figure>
      <svg
        viewBox="-420 -1180 1060 1420"
        role="img"
        aria-label="Before as a thin line, now as a thick one, about the bottom bracket"
      >
        <path className="axes" d="M-20 0H20M0 -20V20" />
        <path className="was" d={path(before)} />
        {now && <path className="now" d={path(now)} />}
      </svg>
      <figcaption>
        Thin: the earlier picture; thick: this one. The cross is the bottom bracket.
        {now && apart > 8 ? ` The cranks stand ${Math.round(apart)}° apart: hips and knees do not compare.` : ""}
      </figcaption>
    </figure>
  );
}
