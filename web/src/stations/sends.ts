/** What a session's page asks the server to write: each from the view it was asked from, so that it can be sent again. */
import { answer, api, ifMatch, newId } from "../api/client";
import type {
  BikeView,
  Change,
  Conventions,
  Effort,
  EntryBody,
  Frame,
  HandPlace,
  RiderView,
  SessionView,
  Station,
} from "../api/types";
import { conventionOf } from "./fields";
import type { Taped } from "./against";
import type { Send } from "./useSession";

/** Where a session is written, and from which version. */
const from = (at: SessionView) => ({ path: { id: at.session.id }, header: ifMatch(at.version) });

interface SessionChange {
  station?: Station;
  conventions?: Conventions;
  effort?: Effort;
  hands?: HandPlace;
}

export const changeSession =
  (body: SessionChange): Send =>
  (at) =>
    answer<SessionView>(api.PATCH("/api/sessions/{id}", { params: from(at), body }));

export const closeFound: Send = (at) => answer<SessionView>(api.POST("/api/sessions/{id}/found", { params: from(at) }));

export const finish: Send = (at) => answer<SessionView>(api.POST("/api/sessions/{id}/finish", { params: from(at) }));

export const beginTrial =
  (id: string, changes: Change[]): Send =>
  (at) =>
    answer<SessionView>(api.POST("/api/sessions/{id}/trials", { params: from(at), body: { id, changes } }));

export const enterInTrial = (trial: string, body: EntryBody): Send => {
  const entry = { id: newId(), body };
  return () =>
    answer<SessionView>(api.POST("/api/trials/{id}/entries", { params: { path: { id: trial } }, body: entry }));
};

export const tapeBike = (taped: Taped): Send => {
  const id = newId();
  return (at) => {
    const convention = conventionOf(taped.quantity, at.now.after.conventions) ?? null;
    return answer<SessionView>(
      api.POST("/api/sessions/{id}/readings", { params: from(at), body: { ...taped, id, convention, method: "tape" } }),
    );
  };
};

export const tapeBody = (taped: Taped): Send => {
  const id = newId();
  return async (at) => {
    const params = { path: { id: at.rider.id }, header: ifMatch(at.rider.version) };
    await answer<RiderView>(api.POST("/api/riders/{id}/readings", { params, body: { ...taped, id, method: "tape" } }));
    return again(at);
  };
};

export const correctFrame =
  (frame: Frame): Send =>
  async (at) => {
    const params = { path: { id: at.bike.id }, header: ifMatch(at.bike.version) };
    await answer<BikeView>(api.PATCH("/api/bikes/{id}", { params, body: { frame } }));
    return again(at);
  };

/** The session read again, after something beside it was written. */
const again = (at: SessionView) =>
  answer<SessionView>(api.GET("/api/sessions/{id}", { params: { path: { id: at.session.id } } }));
