import { type KeyboardEvent, useRef, useState } from "react";
import type { BodyPlace, Complaint, Side } from "../../api/types";
import { BodyFigure } from "../../figure/BodyFigure";
import { type Face, SPOTS } from "../../figure/bodyShape";

interface BodyPictureProps {
  places: BodyPlace[];
  complaints: Complaint[];
  readOnly: boolean;
  onPick: (place: BodyPlace["key"], side: Side | null) => void;
}

interface Spot {
  place: BodyPlace;
  side: Side | null;
  x: number;
  y: number;
}

/** The rider faces us in front, so their right is on our left; from behind and from their right side it is not. */
function spotsOf(face: Face, places: BodyPlace[], seen: Side): Spot[] {
  return places
    .flatMap((place): Spot[] => {
      const at = SPOTS[face][place.key];
      if (!at) return [];
      const [x, y] = at;
      if (!place.per_side) return [{ place, side: null, x, y }];
      if (face === "side") return [{ place, side: seen, x, y }];
      const near: Side = face === "front" ? "left" : "right";
      const far: Side = near === "left" ? "right" : "left";
      return [
        { place, side: far, x: 100 - x, y },
        { place, side: near, x, y },
      ];
    })
    .sort((a, b) => a.y - b.y || a.x - b.x);
}

/** Whether a complaint is shown at a spot: one of both sides at both. */
const isAt = (complaint: Complaint, spot: Spot) =>
  complaint.place === spot.place.key && (complaint.side == null || spot.side === null || complaint.side === spot.side);

/** As bad as a complaint is drawn that nobody put a number to. */
const UNSAID = 4;

const titles: Record<Face, string> = { front: "Front", back: "Back", side: "Side" };

/** Where it hurts: three views, each one stop of Tab; arrows go from place to place, Enter marks one. */
export function BodyPicture(props: BodyPictureProps) {
  const [seen, setSeen] = useState<Side>("right");
  return (
    <div className="body-picture" role="group" aria-label="Where it hurts, on the body">
      {(["front", "back", "side"] as const).map((face) => (
        <figure key={face}>
          <View {...props} face={face} seen={seen} />
          <figcaption>
            {titles[face]}
            {face === "side" && (
              <button type="button" className="more" onClick={() => setSeen(seen === "right" ? "left" : "right")}>
                {seen} side: turn round
              </button>
            )}
          </figcaption>
        </figure>
      ))}
    </div>
  );
}

function View({ places, complaints, readOnly, onPick, face, seen }: BodyPictureProps & { face: Face; seen: Side }) {
  const spots = spotsOf(face, places, seen);
  const [here, setHere] = useState(0);
  const frame = useRef<HTMLDivElement>(null);

  const walk = (event: KeyboardEvent) => {
    const from = spots[here];
    const way = { ArrowUp: [0, -1], ArrowDown: [0, 1], ArrowLeft: [-1, 0], ArrowRight: [1, 0] }[event.key];
    if (!from || !way) return;
    event.preventDefault();
    const [dx = 0, dy = 0] = way;
    let best: number | undefined;
    let least = Infinity;
    spots.forEach((spot, index) => {
      const along = (spot.x - from.x) * dx + (spot.y - from.y) * dy;
      const across = Math.abs((spot.x - from.x) * dy) + Math.abs((spot.y - from.y) * dx);
      const cost = along + 2 * across;
      if (along > 0 && cost < least) [best, least] = [index, cost];
    });
    if (best === undefined) return;
    setHere(best);
    frame.current?.querySelectorAll<HTMLButtonElement>("button")[best]?.focus();
  };

  return (
    <div ref={frame} className="body-view">
      <svg viewBox="0 0 100 236" aria-hidden transform={face === "side" && seen === "left" ? "scale(-1 1)" : undefined}>
        <BodyFigure face={face} />
        {spots.flatMap((spot) =>
          complaints
            .filter((complaint) => isAt(complaint, spot))
            .map((complaint) => {
              const bad = complaint.how_bad ?? UNSAID;
              return (
                <ellipse
                  key={`${spot.place.key}${spot.side ?? ""}`}
                  className="ache"
                  cx={spot.x}
                  cy={spot.y}
                  rx={5 + 0.5 * bad}
                  ry={7 + 0.7 * bad}
                  style={{ fillOpacity: 0.3 + 0.06 * bad, strokeWidth: 0.6 + 0.12 * bad }}
                />
              );
            }),
        )}
      </svg>
      {spots.map((spot, index) => {
        const number = complaints.findIndex((c) => isAt(c, spot)) + 1;
        const x = face === "side" && seen === "left" ? 100 - spot.x : spot.x;
        const name = spot.side ? `${spot.place.label}, ${spot.side}` : spot.place.label;
        return (
          <button
            key={`${spot.place.key}${spot.side ?? ""}`}
            type="button"
            className={number > 0 ? "spot marked" : "spot"}
            style={{ left: `${x}%`, top: `${(spot.y / 236) * 100}%` }}
            tabIndex={index === here ? 0 : -1}
            aria-label={number > 0 ? `${name}, complaint ${number}` : name}
            title={name}
            disabled={readOnly}
            onFocus={() => setHere(index)}
            onKeyDown={walk}
            onClick={() => onPick(spot.place.key, spot.side)}
          />
        );
      })}
    </div>
  );
}
