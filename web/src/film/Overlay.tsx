import { useQuery } from "@tanstack/react-query";
import { useState } from "react";
import { takesQuery } from "../api/queries";
import type { BodyPoint, FilmRead, Shot } from "../api/types";
import { readShot } from "./sends";

type Stick = Partial<Record<BodyPoint, [number, number]>>;

const stickOf = (read: FilmRead): Stick => Object.fromEntries(read.places.map(({ part, at }) => [part, at]));

const LIMBS: BodyPoint[] = ["toe", "ankle", "knee", "hip", "shoulder", "elbow", "wrist"];

/** A picture to be laid under the figure. */
interface Picture {
  url: string;
  shot: Shot;
}

interface OverlayProps {
  session: string;
  now: FilmRead | undefined;
  picture: Picture | undefined;
}

/** The rider as in the picture over an earlier still, BB on BB, both squared and to one scale; its picture where one is kept. */
export function Overlay({ session, now, picture }: OverlayProps) {
  const takes = useQuery(takesQuery(session));
  const [over, setOver] = useState<string>();
  const stills = (takes.data?.takes ?? []).flatMap(({ take, on, pictured }) =>
    "still" in take.body ? [{ id: take.id, name: take.name, on, shot: take.body.still, pictured }] : [],
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
          under={chosen?.pictured ? { url: `/api/takes/${chosen.id}/picture`, shot: chosen.shot } : undefined}
          over={picture}
          scales={[before.px_per_mm, now?.px_per_mm]}
          before={stickOf(before)}
          now={now ? stickOf(now) : undefined}
          cranks={[before.crank_deg, now?.crank_deg]}
        />
      )}
    </section>
  );
}

/** Where a picture lies on the figure: BB on BB, its axles level, to the figure's scale, the rider facing right. */
function laid({ shot }: Picture, pxPerMm: number): string | undefined {
  const [bb, rear, front] = [shot.bb, shot.view.rear.axle, shot.view.front.axle];
  if (!bb) return undefined;
  const mirror = shot.view.faces_left ? -1 : 1;
  const [dx, dy] = [mirror * ((front[0] ?? 0) - (rear[0] ?? 0)), (front[1] ?? 0) - (rear[1] ?? 0)];
  const turned = (-Math.atan2(dy, dx) * 180) / Math.PI;
  return `rotate(${turned}) scale(${mirror / pxPerMm} ${1 / pxPerMm}) translate(${-(bb[0] ?? 0)} ${-(bb[1] ?? 0)})`;
}

interface SticksProps {
  under: Picture | undefined;
  over: Picture | undefined;
  scales: [number, number | undefined];
  before: Stick;
  now: Stick | undefined;
  cranks: (number | null | undefined)[];
}

function Sticks({ under, over, scales, before, now, cranks }: SticksProps) {
  const [share, setShare] = useState(50);
  const lower = under && laid(under, scales[0]);
  const upper = under && over && scales[1] ? laid(over, scales[1]) : undefined;
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
        {under && lower && (
          <image href={under.url} width={under.shot.view.size[0]} height={under.shot.view.size[1]} transform={lower} />
        )}
        {over && upper && (
          <image
            href={over.url}
            width={over.shot.view.size[0]}
            height={over.shot.view.size[1]}
            transform={upper}
            opacity={share / 100}
          />
        )}
        <path className="axes" d="M-20 0H20M0 -20V20" />
        <path className="was" d={path(before)} />
        {now && <path className="now" d={path(now)} />}
      </svg>
      {upper && (
        <label className="share">
          Earlier picture
          <input
            type="range"
            min={0}
            max={100}
            step={10}
            value={share}
            aria-label="How much of this picture is seen over the earlier one, per cent"
            onChange={(event) => setShare(Number(event.target.value))}
          />
          this one
        </label>
      )}
      <figcaption>
        Thin: the earlier picture; thick: this one. The cross is the bottom bracket.
        {now && apart > 8 ? ` The cranks stand ${Math.round(apart)}° apart: hips and knees do not compare.` : ""}
      </figcaption>
    </figure>
  );
}
