import { useRef, useState } from "react";
import { type ApiError, newId } from "../api/client";
import type { EntryBody, SessionView } from "../api/types";
import { EMPTY } from "./draft";
import { beginTrial, enterInTrial } from "./sends";
import type { useDraft } from "./useDraft";
import type { useForesight } from "./useForesight";
import type { Writes } from "./useWrites";

/** Fields of the trial to begin, among the texts being typed. */
export const WHY = "trial.why";
export const INSIST = "trial.insist";

/** A trial, from what is asked for to what became of it. */
export function useTrial(
  view: SessionView,
  { draft, edit, setText, wanted }: ReturnType<typeof useDraft>,
  { foresight, refused, pending }: ReturnType<typeof useForesight>,
  post: Writes["post"],
) {
  const [trying, setTrying] = useState(false);
  const [asked, setAsked] = useState<string>();
  const id = useRef(newId());
  /** The trial whose verdict is on its way, or arrived. */
  const judged = useRef<string>(undefined);
  const bench = view.trials.find((t) => t.outcome == null);
  const why = draft.texts[WHY] ?? "";
  const insisted = draft.texts[INSIST] !== undefined;
  const ready =
    pending && !trying && !refused && !bench && foresight.title !== "" && (!foresight.insist?.length || insisted);

  const begin = () => {
    if (!ready) return;
    setTrying(true);
    const started = view.session.now;
    void post(beginTrial(id.current, wanted(), why, insisted), (_, fresh) =>
      fresh.session.now === started ? undefined : "The bike was changed in another window: look at the board again.",
    ).then((error) => {
      setTrying(false);
      if (error) return;
      id.current = newId();
      edit(() => EMPTY);
      if (document.activeElement instanceof HTMLElement) document.activeElement.blur();
    });
  };

  const enter = async (body: EntryBody): Promise<ApiError | undefined> => {
    if (bench && "verdict" in body) judged.current = bench.trial.id;
    return bench && post(enterInTrial(bench.trial.id, body));
  };

  const settle = async (outcome: "kept" | "put_back") => {
    if (!bench) return;
    // Kept for no reason anybody gave: asked once.
    const said = bench.verdict != null || judged.current === bench.trial.id;
    if (outcome === "kept" && !said && asked !== bench.trial.id) {
      setAsked(bench.trial.id);
      return;
    }
    const words = draft.words.trim();
    if (words !== "" && words !== bench.words && (await enter({ words }))) return;
    if (!(await enter({ outcome }))) edit(() => ({ words: "" }));
  };

  const last = view.trials.at(-1);
  const undoable = last?.outcome != null && view.session.state !== "finished" ? last : undefined;
  /** Takes the last verdict back, or what became of the last trial while nothing was tried since. */
  const undo = () => {
    if (bench?.verdict != null) void post(enterInTrial(bench.trial.id, { undone: "verdict" }));
    else if (!bench && undoable && !pending) void post(enterInTrial(undoable.trial.id, { undone: "outcome" }));
  };

  return {
    undo,
    /** The last trial, settled, while that can be undone. */
    undoable: bench ? undefined : undoable,
    /** A verdict was asked for before keeping. */
    asked: bench !== undefined && bench.verdict == null && asked === bench.trial.id,
    /** The trial on the bench. */
    bench,
    ready,
    why,
    setWhy: (text: string) => setText(WHY, text === "" ? undefined : text),
    insisted,
    insist: (on: boolean) => setText(INSIST, on ? "yes" : undefined),
    begin,
    enter,
    settle,
  };
}
