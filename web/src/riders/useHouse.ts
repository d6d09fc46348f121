import { useQueryClient } from "@tanstack/react-query";
import { useCallback, useEffect, useRef, useState } from "react";
import { AGAIN_MS, answer, api, ApiError, ifMatch, words } from "../api/client";
import { studioQuery } from "../api/queries";
import type { StudioView } from "../api/types";
import { keptObject } from "../ui/kept";
import type { FullHouse } from "./HouseRules";

/** What of the studio's settings the server does not have yet. */
type Unsent = Partial<FullHouse>;

const PLACE = "wedge-studio";
const WAITS = "Kept in this browser: Wedge does not answer, and gets it once it does.";

const earlier = (): Unsent => keptObject(PLACE) ?? {};

/**
 * The studio's settings, and how they are saved: one that does not reach the server stays in this browser, through a reload
 * too, and is sent until it has arrived.
 */
export function useHouse(studio: StudioView) {
  const queries = useQueryClient();
  const [problem, setProblem] = useState<string>();
  const [said, setSaid] = useState("");
  const [unsent, setUnsent] = useState<Unsent>(earlier);
  const house = { ...(studio.house as FullHouse), ...unsent };
  const at = useRef({ studio, house });
  useEffect(() => {
    at.current = { studio, house };
  });

  const keep = useCallback((change: Unsent) => {
    setUnsent(change);
    if (Object.keys(change).length === 0) localStorage.removeItem(PLACE);
    else localStorage.setItem(PLACE, JSON.stringify(change));
  }, []);

  /** Sends a change; what the server does not answer to is kept. */
  const put = useCallback(
    async (change: Unsent): Promise<StudioView> => {
      const wanted = { ...earlier(), ...change };
      const params = { header: ifMatch(at.current.studio.version) };
      try {
        const view = await answer<StudioView>(
          api.PUT("/api/studio", { params, body: { ...at.current.house, ...wanted } }),
        );
        keep({});
        return view;
      } catch (error) {
        if (error instanceof ApiError && error.status === 0) {
          keep(wanted);
          throw new ApiError({ status: 0, detail: WAITS });
        }
        // Refused, or changed elsewhere: what was kept would be refused again.
        keep({});
        throw error;
      }
    },
    [keep],
  );

  const take = useCallback(
    async (request: Promise<StudioView>, done: string) => {
      setProblem(undefined);
      setSaid("");
      try {
        queries.setQueryData(studioQuery.queryKey, await request);
        setSaid(done);
      } catch (error) {
        if (error instanceof ApiError && error.status === 412) {
          setProblem("Changed in another window: look again, then choose.");
          void queries.invalidateQueries({ queryKey: studioQuery.queryKey });
        } else {
          setProblem(words(error));
        }
      }
    },
    [queries],
  );

  /** The same of a field: what the server does not take is answered, to stand beside it. */
  const takeBeside = useCallback(
    async (request: Promise<StudioView>, done: string) => {
      const refused = await request.then(
        () => undefined,
        (error: unknown) => (error instanceof ApiError && error.status === 422 ? words(error) : undefined),
      );
      if (refused === undefined) await take(request, done);
      return refused;
    },
    [take],
  );

  // What waits is sent again until it has arrived.
  const waits = Object.keys(unsent).length > 0;
  useEffect(() => {
    if (!waits) return;
    const timer = setInterval(() => void take(put({}), "Saved"), AGAIN_MS);
    return () => clearInterval(timer);
  }, [waits, put, take]);

  return { house, problem, said, put, take, takeBeside };
}

/** What a section of the studio's page changes its rules with. */
export type HouseWrites = Pick<ReturnType<typeof useHouse>, "put" | "take" | "takeBeside">;
