import { createContext, useContext, useState } from "react";
import { useNavigate } from "react-router";
import { type ApiError, detail, words } from "../api/client";
import type { Catalogue, Change, RunPlan, SessionView, Station } from "../api/types";
import { useQueryClient } from "@tanstack/react-query";
import { number } from "../ui/format";
import { asking, besideTheOther, without } from "./draft";
import { type Field, reads } from "./fields";
import type { IntakeEdit } from "./intakeEdit";
import { beginRun, calibrate, saveIntake } from "./sends";
import { useDraft } from "./useDraft";
import { useForesight } from "./useForesight";
import type { Write } from "./useSession";
import { useToggles } from "./useToggles";
import { INSIST, useTrial } from "./useTrial";
import { useWay } from "./useWay";
import { useWrites } from "./useWrites";

const NONE: Change[] = [];

/** Something that was taken out, and how it comes back. */
interface TakenOut {
  what: string;
  back: IntakeEdit;
}

/** Everything a station needs of the fit that is open. */
export function useFitState(view: SessionView, catalogue: Catalogue, write: Write) {
  const queries = useQueryClient();
  const navigate = useNavigate();
  const writes = useWrites(view, write);
  const { post, setProblem } = writes;
  const shown = useToggles();
  const drafted = useDraft(view);
  const { draft, edit } = drafted;
  const [focus, setFocus] = useState<string>();
  const [looked, setLooked] = useState<string>();
  const [takenOut, setTakenOut] = useState<TakenOut>();
  const { station, stations, go, step } = useWay(view, catalogue, post, () => {
    for (const name of ["page", "right", "others", "disagree"] as const) shown.close(name);
    setFocus(undefined);
    setTakenOut(undefined);
  });

  const closed = view.found != null;
  const finished = view.session.state === "finished";
  const onBench = view.trials.some((t) => t.outcome == null);
  const changes = closed && !onBench ? draft.changes : NONE;
  const foreseen = useForesight(view, changes);
  const trial = useTrial(view, drafted, foreseen, post);

  // What was insisted on was insisted on for other numbers. Asked for before it is drawn; a key that goes on from its own last
  // step, and not from what is drawn, may be drawn with its answer.
  const ask = (wanted: (before: Change[]) => Change[], withAnswer = false) => {
    let next: Change[] = [];
    edit(
      (d) => {
        next = wanted(d.changes);
        return { changes: next, texts: without(d.texts, INSIST) };
      },
      (draw) => {
        const asks = closed && !onBench;
        const later = asks && withAnswer;
        if (!later) draw();
        if (asks) foreseen.soon(next, later ? draw : undefined);
      },
    );
  };
  /** Puts changes on the board as if they had been typed, in the place of others; those of the other side stay. */
  const foresee = (wanted: Change[]) => {
    shown.close("page");
    if (wanted.length > 0) ask((before) => besideTheOther(before, wanted));
  };

  return {
    view,
    catalogue,
    closed,
    finished,
    /** Nothing can be stepped: the fit is finished, or a trial is on the bench. */
    still: finished || onBench,
    /** What the station's answers are kept under. */
    version: `${view.version}.${view.rider.version}.${view.bike.version}`,
    ...writes,
    ...drafted,
    ...foreseen,
    ...trial,
    changes,
    shown,
    station,
    stations,
    step,
    go,
    /** The field the fitter is in, and the last one they were in. */
    focus,
    looked,
    setFocus: (key: string | undefined) => {
      setFocus(key);
      if (key) setLooked(key);
    },
    /** What was taken out of the intake last, until another station is gone to. */
    takenOut,
    takeOut: (what: string, out: IntakeEdit, back: IntakeEdit) => {
      setTakenOut({ what, back });
      return writes.write(saveIntake(out));
    },
    putBackIn: () => {
      if (!takenOut) return;
      setTakenOut(undefined);
      void writes.write(saveIntake(takenOut.back));
    },
    foresee,
    foreseeAt: (there: Station, wanted: Change[]) => {
      go(there);
      foresee(wanted);
    },
    target: (field: Field, value: number) => ask((before) => asking(before, field, value)),
    /** The same for a key that steps. */
    stepTo: (field: Field, value: number) => ask((before) => asking(before, field, value), true),
    leave: () => ask(() => []),
    /** What is being tried of a field, where that is another number than now. */
    tried: (field: Field) => {
      const now = reads(field, view.now.after, view.input.setup, catalogue);
      const after = reads(field, foreseen.foresight.after, foreseen.foresight.setup, catalogue);
      const moves = now !== undefined && after !== undefined && number(now) !== number(after);
      return foreseen.pending && moves ? after : undefined;
    },
    calibrate: (on: boolean) =>
      void post(calibrate(on)).then((error) => {
        if (!error && on) shown.open("page");
      }),
    beginRun: (plan: RunPlan) =>
      void beginRun(view.session.id, plan).then(
        (run) => {
          void queries.invalidateQueries({ queryKey: ["session", view.session.id] });
          void navigate(`/runs/${run.id}`);
        },
        (error: unknown) => setProblem(detail(error as ApiError) ?? words(error)),
      ),
  };
}

export type Fit = ReturnType<typeof useFitState>;

export const FitContext = createContext<Fit | undefined>(undefined);

/** The fit that is open. */
export function useFit(): Fit {
  const fit = useContext(FitContext);
  if (!fit) throw new Error("there is no fit around this");
  return fit;
}
