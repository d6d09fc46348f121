/** What a session's page asks the server to write: each from the view it was asked from, so that it can be sent again. */
import { answer, api, ifMatch, newId } from "../api/client";
import type {
  BikeView,
  Change,
  Conventions,
  Disputed,
  Effort,
  EntryBody,
  Frame,
  FrameLabel,
  HandPlace,
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
import { editAgainst, type IntakeEdit, withEdit } from "./intakeEdit";
import type { Against, Send } from "./useSession";

export const beginRun = (session: string, plan: RunPlan) =>
  answer<RunView>(
    api.POST("/api/sessions/{id}/runs", { params: { path: { id: session } }, body: { id: newId(), plan } }),
  );

/** An entry, as data: kept in this browser until the server has it, and sent again as often as that takes. */
export type Order =
  | { kind: "intake"; edit: IntakeEdit }
  | { kind: "session"; body: SessionChange }
  | { kind: "shoe"; side: Side; change: Partial<Shoe> }
  | { kind: "saddle"; change: Partial<SaddleNotes> }
  | { kind: "bike reading"; id: string; taped: Taped }
  | { kind: "body reading"; id: string; taped: Taped }
  | { kind: "look"; id: string; body: LookBody }
  | { kind: "entry"; id: string; trial: string; body: EntryBody }
  | { kind: "dispute"; id: string; about: Disputed; told: string; reason: string };

/** How an entry is sent. */
function sent(order: Order, at: SessionView): Promise<SessionView> {
  switch (order.kind) {
    case "intake": {
      const body = withEdit(intakeOf(at), order.edit);
      return answer<SessionView>(api.PUT("/api/sessions/{id}/intake", { params: from(at), body }));
    }
    case "session":
      return answer<SessionView>(api.PATCH("/api/sessions/{id}", { params: from(at), body: order.body }));
    case "shoe":
      return answer<SessionView>(
        api.PUT("/api/sessions/{id}/shoes", { params: from(at), body: withShoe(at, order.side, order.change) }),
      );
    case "saddle":
      return answer<SessionView>(
        api.PUT("/api/sessions/{id}/saddle", { params: from(at), body: withNotes(at, order.change) }),
      );
    case "bike reading":
      return answer<SessionView>(
        api.POST("/api/sessions/{id}/readings", {
          params: from(at),
          body: { ...order.taped, id: order.id, method: "tape" },
        }),
      );
    case "body reading": {
      const params = { path: { id: at.rider.id }, header: ifMatch(at.rider.version) };
      const body = { ...order.taped, id: order.id, method: "tape" as const };
      return answer<RiderView>(api.POST("/api/riders/{id}/readings", { params, body })).then(() => again(at));
    }
    case "look":
      return answer<SessionView>(
        api.POST("/api/sessions/{id}/looks", {
          params: { path: { id: at.session.id } },
          body: { id: order.id, body: order.body, hands: at.now.after.hands },
        }),
      );
    case "entry":
      return answer<SessionView>(
        api.POST("/api/trials/{id}/entries", {
          params: { path: { id: order.trial } },
          body: { id: order.id, body: order.body },
        }),
      );
    case "dispute": {
      const { id, about, told, reason } = order;
      return answer<SessionView>(
        api.POST("/api/sessions/{id}/disputes", {
          params: { path: { id: at.session.id } },
          body: { id, about, told, reason },
        }),
      );
    }
  }
}

/** Sends an entry. */
export const ordered = (order: Order): Send => Object.assign((at: SessionView) => sent(order, at), { order });

/** What stands against sending an entry again that an earlier page could not send. */
export const orderAgainst = (order: Order): Against | undefined =>
  order.kind === "intake" ? (mine, fresh) => editAgainst(order.edit, intakeOf(mine), intakeOf(fresh)) : undefined;

/** A session as it will be once its entries have arrived. */
export const shownWith = (view: SessionView, orders: Order[]): SessionView =>
  orders.reduce((at, order) => {
    const session = (some: Partial<SessionView["session"]>) => ({ ...at, session: { ...at.session, ...some } });
    if (order.kind === "intake") return session({ intake: withEdit(intakeOf(at), order.edit) });
    if (order.kind === "shoe") return session({ shoes: withShoe(at, order.side, order.change) });
    if (order.kind === "saddle") return session({ saddle: withNotes(at, order.change) });
    if (order.kind === "entry") return withEntry(at, order.trial, order.body);
    return at;
  }, view);

/** A session with what was ticked off or checked of a trial. */
function withEntry(at: SessionView, trial: string, body: EntryBody): SessionView {
  if ("done" in body) {
    const { step, done } = body.done;
    const ticked = (work: SessionView["trials"][number]["front_work"]) =>
      work.map((of) => (of.step === step ? { ...of, done } : of));
    const trials = at.trials.map((t) => (t.trial.id === trial ? { ...t, front_work: ticked(t.front_work) } : t));
    return { ...at, trials };
  }
  if ("checked" in body && body.checked.stays && at.due_again?.trial === trial) {
    const due = at.due_again.due.filter((item) => item.due !== body.checked.due);
    return { ...at, due_again: due.length > 0 ? { ...at.due_again, due } : null };
  }
  return at;
}

/** Where a session is written, and from which version. */
const from = (at: SessionView) => ({ path: { id: at.session.id }, header: ifMatch(at.version) });

interface SessionChange {
  station?: Station;
  conventions?: Conventions;
  effort?: Effort;
  hands?: HandPlace;
  follow_up?: string | null;
}

export const changeSession = (body: SessionChange): Send => ordered({ kind: "session", body });

export const closeFound: Send = (at) => answer<SessionView>(api.POST("/api/sessions/{id}/found", { params: from(at) }));

export const finish: Send = (at) => answer<SessionView>(api.POST("/api/sessions/{id}/finish", { params: from(at) }));

export const beginTrial =
  (id: string, changes: Change[], why: string, insist: boolean): Send =>
  (at) =>
    answer<SessionView>(
      api.POST("/api/sessions/{id}/trials", { params: from(at), body: { id, changes, why, insist } }),
    );

export const enterInTrial = (trial: string, body: EntryBody): Send =>
  ordered({ kind: "entry", id: newId(), trial, body });

export const tapeBike = (taped: Taped): Send => ordered({ kind: "bike reading", id: newId(), taped });

export const tapeBody = (taped: Taped): Send => ordered({ kind: "body reading", id: newId(), taped });

/** Sets a reading of the body aside: it stays on record and counts no more. */
export const setAside =
  (reading: string): Send =>
  async (at) => {
    const params = { path: { id: at.rider.id, reading }, header: ifMatch(at.rider.version) };
    await answer<RiderView>(api.POST("/api/riders/{id}/readings/{reading}/aside", { params }));
    return again(at);
  };

/** Writes down one entry of the intake; the others stay as they are. */
export const saveIntake = (edit: IntakeEdit): Send => ordered({ kind: "intake", edit });

/** Both shoes, with one thing about one of them; the rest stays as it is. */
function withShoe(at: SessionView, side: Side, change: Partial<Shoe>) {
  const blank: Shoe = { width: null, stiffness: null, words: "" };
  const { left = blank, right = blank } = at.session.shoes ?? {};
  const shoes = { left, right };
  return { ...shoes, [side]: { ...shoes[side], ...change } };
}

/** Writes down one thing about a shoe; the rest stays as it is. */
export const saveShoe = (side: Side, change: Partial<Shoe>): Send => ordered({ kind: "shoe", side, change });

const NOTHING_NOTED: SaddleNotes = {
  relief: null,
  nose: null,
  shuffles: null,
  rubs: null,
  aside: null,
  sits_ahead_mm: null,
};

const withNotes = (at: SessionView, change: Partial<SaddleNotes>): SaddleNotes => ({
  ...NOTHING_NOTED,
  ...at.session.saddle,
  ...change,
});

/** Writes down one thing about the saddle; the rest stays as it is. */
export const saveSaddle = (change: Partial<SaddleNotes>): Send => ordered({ kind: "saddle", change });

export const labelFrame =
  (label: FrameLabel): Send =>
  async (at) => {
    const params = { path: { id: at.bike.id }, header: ifMatch(at.bike.version) };
    await answer<BikeView>(api.PATCH("/api/bikes/{id}", { params, body: { label } }));
    return again(at);
  };

/** Something seen of the rider. */
export const see = (body: LookBody): Send => ordered({ kind: "look", id: newId(), body });

/** Where the fitter disagrees with the judge, and why. */
export const disagree = (about: Disputed, told: string, reason: string): Send =>
  ordered({ kind: "dispute", id: newId(), about, told, reason });

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
