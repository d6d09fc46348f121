import { useCallback, useEffect, useRef, useState } from "react";
import { answer, api } from "../api/client";
import type { SessionView } from "../api/types";

/** What is being typed: kept on the server as it goes, and in this browser until the server has it. */
export interface Draft {
  /** Dimensions stepped or typed away from now, by field. */
  targets: Record<string, number>;
  /** Texts not committed yet, by field. */
  texts: Record<string, string>;
  /** The rider's words on the trial on the bench. */
  words: string;
}

const EMPTY: Draft = { targets: {}, texts: {}, words: "" };
const PAUSE_MS = 250;

const isDraft = (value: unknown): value is Draft =>
  typeof value === "object" && value !== null && "targets" in value && "texts" in value && "words" in value;

const place = (id: string) => `wedge-draft-${id}`;

function start(view: SessionView): Draft {
  try {
    const kept: unknown = JSON.parse(localStorage.getItem(place(view.session.id)) ?? "null");
    if (isDraft(kept)) return kept;
  } catch {
    // What does not read is nobody's words.
  }
  return isDraft(view.draft) ? view.draft : EMPTY;
}

export function useDraft(view: SessionView) {
  const id = view.session.id;
  const [draft, setDraft] = useState(() => start(view));
  const [saved, setSaved] = useState<"saved" | "saving" | "kept">("saved");
  const timer = useRef<ReturnType<typeof setTimeout>>(undefined);
  const latest = useRef(draft);

  const save = useCallback(async (): Promise<void> => {
    const sent = latest.current;
    try {
      await answer<unknown>(api.PUT("/api/sessions/{id}/draft", { params: { path: { id } }, body: sent as never }));
    } catch {
      // It stays in this browser until the next keystroke or the next visit sends it.
      setSaved("kept");
      return;
    }
    if (latest.current === sent) {
      localStorage.removeItem(place(id));
      setSaved("saved");
    }
  }, [id]);

  const change = useCallback(
    (edit: (draft: Draft) => Draft) => {
      latest.current = edit(latest.current);
      setDraft(latest.current);
      setSaved("saving");
      localStorage.setItem(place(id), JSON.stringify(latest.current));
      clearTimeout(timer.current);
      timer.current = setTimeout(() => void save(), PAUSE_MS);
    },
    [id, save],
  );

  // What an earlier page could not send is sent now.
  useEffect(() => {
    if (localStorage.getItem(place(id)) !== null) timer.current = setTimeout(() => void save(), 0);
    return () => clearTimeout(timer.current);
  }, [id, save]);

  return { draft, change, saved };
}
