import { useQueryClient } from "@tanstack/react-query";
import { useState } from "react";
import { detail } from "../api/client";
import type { Quantity, SessionView, Side } from "../api/types";
import { bothValues } from "./against";
import { setAside, tapeBike, tapeBody } from "./sends";
import type { Write } from "./useSession";

/** What every station writes with: `post` tells what is wrong in the panel, the others beside the field. */
export function useWrites(view: SessionView, write: Write) {
  const queries = useQueryClient();
  const [problem, setProblem] = useState<string>();

  const post: Write = (send, against) =>
    write(send, against).then((error) => {
      setProblem(detail(error));
      return error;
    });
  const told = (...sent: Parameters<Write>) => write(...sent).then(detail);
  /** What is written of the rider is read on the rider's own page too. */
  const ofRider = (...sent: Parameters<Write>) =>
    told(...sent).finally(() => void queries.invalidateQueries({ queryKey: ["rider", view.rider.id] }));

  return {
    problem,
    setProblem,
    write,
    post,
    told,
    bikeReading: (quantity: Quantity, side: Side | null, value: number) => {
      const taped = { quantity, side, value };
      return told(
        tapeBike(taped),
        bothValues((v) => v.session.readings, taped),
      );
    },
    bodyReading: (quantity: Quantity, side: Side | null, value: number) => {
      const taped = { quantity, side, value };
      return ofRider(
        tapeBody(taped),
        bothValues((v) => v.rider.readings, taped),
      );
    },
    aside: (reading: string) => ofRider(setAside(reading), () => "Another window wrote: look at the readings again."),
  };
}

export type Writes = ReturnType<typeof useWrites>;
