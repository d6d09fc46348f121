/** What a session's page asks the server to write: each from the view it was asked from, so that it can be sent again. */
import { answer, api, ifMatch, newId } from "../api/client";
import type {
  BikeView,
  Change,
  Conventions,
  Effort,
  EntryBody,
  Frame,
  FrameLabel,
  HandPlace,
  Intake,
  LookBody,
  RiderView,
  RunPlan,
  RunView,
  SaddleNotes,
  SessionView,
  Shoe,
  Side,
  Station,
  TapedFrame,
} from "../api/types";
import { intakeOf, type Taped } from "./against";
import type { Send } from "./useSession";

export const beginRun = (session: string, plan: RunPlan) =>
  answer<RunView>(
    api.POST("/api/sessions/{id}/runs", { params: { path: { id: session } }, body: { id: newId(), plan } }),
  );

/** Where a session is written, and from which version. */
const from = (at: SessionView) => ({ path: { id: at.session.id }, header: ifMatch(at.version) });

interface SessionChange {
  station?: Station;
  conventions?: Conventions;
  effort?: Effort;
  hands?: HandPlace;
  follow_up?: string | null;
}

export const changeSession =
  (body: SessionChange): Send =>
  (at) =>
    answer<SessionView>(api.PATCH("/api/sessions/{id}", { params: from(at), body }));

export const closeFound: Send = (at) => answer<SessionView>(api.POST("/api/sessions/{id}/found", { params: from(at) }));

export const finish: Send = (at) => answer<SessionView>(api.POST("/api/sessions/{id}/finish", { params: from(at) }));

export const beginTrial =
  (id: string, changes: Change[], why: string, insist: boolean): Send =>
  (at) =>
    answer<SessionView>(
      api.POST("/api/sessions/{id}/trials", { params: from(at), body: { id, changes, why, insist } }),
    );

export const enterInTrial = (trial: string, body: EntryBody): Send => {
  const entry = { id: newId(), body };
  return () =>
    answer<SessionView>(api.POST("/api/trials/{id}/entries", { params: { path: { id: trial } }, body: entry }));
};

export const tapeBike = (taped: Taped): Send => {
  const id = newId();
  return (at) =>
    answer<SessionView>(
      api.POST("/api/sessions/{id}/readings", { params: from(at), body: { ...taped, id, method: "tape" } }),
    );
};

export const tapeBody = (taped: Taped): Send => {
  const id = newId();
  return async (at) => {
    const params = { path: { id: at.rider.id }, header: ifMatch(at.rider.version) };
    await answer<RiderView>(api.POST("/api/riders/{id}/readings", { params, body: { ...taped, id, method: "tape" } }));
    return again(at);
  };
};

/** Sets a reading of the body aside: it stays on record and counts no more. */
export const setAside =
  (reading: string): Send =>
  async (at) => {
    const params = { path: { id: at.rider.id, reading }, header: ifMatch(at.rider.version) };
    await answer<RiderView>(api.POST("/api/riders/{id}/readings/{reading}/aside", { params }));
    return again(at);
  };

/** Writes down one answer of the intake; the others stay as they are. */
export const saveIntake =
  (change: (intake: Intake) => Partial<Intake>): Send =>
  (at) => {
    const now = intakeOf(at);
    const body = { ...now, ...change(now) };
    return answer<SessionView>(api.PUT("/api/sessions/{id}/intake", { params: from(at), body }));
  };

/** Writes down one thing about a shoe; the rest stays as it is. */
export const saveShoe =
  (side: Side, change: Partial<Shoe>): Send =>
  (at) => {
    const blank: Shoe = { width: null, stiffness: null, words: "" };
    const { left = blank, right = blank } = at.session.shoes ?? {};
    const shoes = { left, right };
    const body = { ...shoes, [side]: { ...shoes[side], ...change } };
    return answer<SessionView>(api.PUT("/api/sessions/{id}/shoes", { params: from(at), body }));
  };

const NOTHING_NOTED: SaddleNotes = {
  width_mm: null,
  relief: null,
  nose: null,
  shuffles: null,
  rubs: null,
  aside: null,
  sits_ahead_mm: null,
};

/** Writes down one thing about the saddle; the rest stays as it is. */
export const saveSaddle =
  (change: Partial<SaddleNotes>): Send =>
  (at) =>
    answer<SessionView>(
      api.PUT("/api/sessions/{id}/saddle", {
        params: from(at),
        body: { ...NOTHING_NOTED, ...at.session.saddle, ...change },
      }),
    );

export const labelFrame =
  (label: FrameLabel): Send =>
  async (at) => {
    const params = { path: { id: at.bike.id }, header: ifMatch(at.bike.version) };
    await answer<BikeView>(api.PATCH("/api/bikes/{id}", { params, body: { label } }));
    return again(at);
  };

/** Something seen of the rider. */
export const see = (body: LookBody): Send => {
  const id = newId();
  return (at) =>
    answer<SessionView>(
      api.POST("/api/sessions/{id}/looks", {
        params: { path: { id: at.session.id } },
        body: { id, body, hands: at.now.after.hands },
      }),
    );
};

/** Fits the rider to what was seen, or switches the fit off. */
export const calibrate = (on: boolean): Send => {
  const id = newId();
  return (at) =>
    answer<SessionView>(api.POST("/api/sessions/{id}/calibrations", { params: from(at), body: { id, on } }));
};

export const correctFrame =
  (frame: Frame, taped: TapedFrame | null): Send =>
  async (at) => {
    const params = { path: { id: at.bike.id }, header: ifMatch(at.bike.version) };
    await answer<BikeView>(api.PATCH("/api/bikes/{id}", { params, body: { frame, taped } }));
    return again(at);
  };

/** The session read again, after something beside it was written. */
const again = (at: SessionView) =>
  answer<SessionView>(api.GET("/api/sessions/{id}", { params: { path: { id: at.session.id } } }));
