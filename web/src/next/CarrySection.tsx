import { useQuery } from "@tanstack/react-query";
import { useState } from "react";
import { words } from "../api/client";
import type { NextAsked, NextView } from "../api/types";
import { Choice } from "../ui/Choice";
import { Problem } from "../ui/Problem";
import { carriedQuery } from "./carried";
import { KeepAs } from "./KeepAs";
import { Sat } from "../board/Sat";
import { CarriedTold } from "./Told";

interface CarryProps {
  rider: string;
  view: NextView;
  from: NextAsked["from"];
  /** A frame that was chosen elsewhere. */
  frame: string | undefined;
}

type Onto = NextAsked["onto"];

/** "bike.…" or "frame.…" as what is asked. */
function ontoOf(key: string | null): Onto {
  const [kind, id] = (key ?? "").split(".");
  if (!id) return undefined;
  return kind === "bike" ? { bike: id } : { frame: id };
}

/** Carry to another bike: exact parts, misses, what stands in the way. */
export function CarrySection({ rider, view, from, frame }: CarryProps) {
  const [onto, setOnto] = useState<string | null>(frame ? `frame.${frame}` : null);
  const [crank, setCrank] = useState<string | null>(null);
  const asked = { from, onto: ontoOf(onto), crank: crank ?? undefined } as NextAsked;
  const carried = useQuery(carriedQuery(rider, asked));
  const options = [
    ...view.bikes.map((bike) => ({ key: `bike.${bike.id}`, label: `${bike.name} (the rider’s)` })),
    ...view.frames.map((one) => ({ key: `frame.${one.id}`, label: one.name })),
  ];
  const shown = asked.onto && !carried.error ? carried.data : undefined;
  const position = shown?.position ?? view.position;
  return (
    <div className="next-cols">
      <div>
        <Sat
          position={position}
          label={
            shown ? `On ${shown.name}, computed; crosses where saddle and hands were wished` : `As it is: ${view.words}`
          }
          sit={shown?.sit}
          hand={shown?.hand}
        />
      </div>
      <section aria-labelledby="carry">
        <h2 id="carry">Carry to another bike</h2>
        <div className="fields">
          <Choice
            label="Onto"
            none="a bike or a frame …"
            options={options}
            value={onto}
            fieldKey="next.onto"
            onPick={setOnto}
          />
          <Choice
            label="Cranks"
            none="the rider’s own come along"
            options={view.intents.map(({ intent, label }) => ({
              key: intent,
              label: `its own: ${label.toLowerCase()}`,
            }))}
            value={crank}
            fieldKey="next.crank"
            onPick={setCrank}
          />
        </div>
        {options.length === 0 && (
          <p>There is no other bike, and no frame in the studio’s library: take a list in under Choose a frame.</p>
        )}
        <Problem words={carried.error ? words(carried.error) : undefined} />
        {shown && (
          <>
            <CarriedTold view={shown} />
            <KeepAs key={onto} rider={rider} name={`${shown.name}, carried`} asked={asked} />
          </>
        )}
      </section>
    </div>
  );
}
