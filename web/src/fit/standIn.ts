/** What is asked of riders and devices that are not there. */
import { answer, api, newId } from "../api/client";
import type { Given, LookBody, ScalesShow, SessionView, Spoken, StandMoves, WeighedView } from "../api/types";

/** What takes ten seconds. */
export type DeviceTaking = "camera" | "trainer";

export const takeTenSeconds = (session: string, body: { id: string; of: DeviceTaking; keep: boolean }) =>
  answer<Given>(api.POST("/api/sessions/{id}/takes/simulated", { params: { path: { id: session } }, body }));

export const hear = (session: string) =>
  answer<Spoken>(api.GET("/api/sessions/{id}/said", { params: { path: { id: session } } }));

export const readScales = (session: string) =>
  answer<ScalesShow>(api.POST("/api/sessions/{id}/scales", { params: { path: { id: session } } }));

export const sendStand = (session: string) =>
  answer<StandMoves>(api.POST("/api/sessions/{id}/stand", { params: { path: { id: session } } }));

/** Takes the signs that are seen of him down, all of them or none. */
export const takeSignsDown = (session: string, said: Spoken) =>
  answer<SessionView>(
    api.POST("/api/sessions/{id}/looks/many", {
      params: { path: { id: session } },
      body: { looks: said.signs.map(({ body }) => ({ id: newId(), body })) },
    }),
  );

/** What scales read, as it is written down at a look. */
export const frontShare = (weighed: WeighedView["weighed"]): LookBody => ({
  seen: {
    output: "front_share_percent",
    side: null,
    value: weighed.front_percent,
    method: "scales",
    spread: Math.max(0.01, weighed.spread),
  },
});

/** A picture of him from the side, for the film bench. */
export async function filmHim(session: string): Promise<File> {
  const asked = api.GET("/api/sessions/{id}/film/simulated", { params: { path: { id: session } }, parseAs: "blob" });
  const picture = await answer<Blob>(asked);
  return new File([picture], "simulated.png", { type: "image/png" });
}
