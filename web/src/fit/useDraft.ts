import { useCallback, useEffect, useRef, useState } from "react";
import { AGAIN_MS, answer, api } from "../api/client";
import type { SessionView } from "../api/types";
import { kept } from "../ui/kept";
import { type Draft, draftOf, EMPTY, without } from "./draft";

const PAUSE_MS = 250;
const place = (id: string) => `wedge-draft-${id}`;

function start(view: SessionView): Draft {
  return draftOf(kept(place(view.session.id))) ?? draftOf(view.draft) ?? EMPTY;
}

/** The draft of a session: kept on the server as it goes, and in this browser until the server has it. */
export function useDraft(view: SessionView) {
  const id = view.session.id;
  const [draft, setDraft] = useState(() => start(view));
  const [saved, setSaved] = useState<"saved" | "saving" | "kept">("saved");
  const timer = useRef<ReturnType<typeof setTimeout>>(undefined);
  const latest = useRef(draft);
  const resend = useRef<() => Promise<void>>(() => Promise.resolve());

  const save = useCallback(async (): Promise<void> => {
    const sent = latest.current;
    try {
      await answer<unknown>(api.PUT("/api/sessions/{id}/draft", { params: { path: { id } }, body: sent as never }));
    } catch {
      // It stays in this browser, and is sent again by itself, by the next keystroke or by the next visit.
      setSaved("kept");
      clearTimeout(timer.current);
      timer.current = setTimeout(() => void resend.current(), AGAIN_MS);
      return;
    }
    if (latest.current === sent) {
      localStorage.removeItem(place(id));
      setSaved("saved");
    }
  }, [id]);

  useEffect(() => {
    resend.current = save;
  }, [save]);

  /** Changes the draft, and draws it: at once, or when `later` says so. */
  const edit = useCallback(
    (change: (draft: Draft) => Partial<Draft>, later: (draw: () => void) => void = (draw) => draw()) => {
      latest.current = { ...latest.current, ...change(latest.current) };
      later(() => {
        setDraft(latest.current);
        setSaved("saving");
      });
      localStorage.setItem(place(id), JSON.stringify(latest.current));
      clearTimeout(timer.current);
      timer.current = setTimeout(() => void save(), PAUSE_MS);
    },
    [id, save],
  );

  /** Keeps what is typed in a field; nothing takes it away. */
  const setText = useCallback(
    (key: string, text: string | undefined) =>
      edit(({ texts }) => ({ texts: text === undefined ? without(texts, key) : { ...texts, [key]: text } })),
    [edit],
  );

  // What an earlier page could not send is sent now.
  useEffect(() => {
    if (localStorage.getItem(place(id)) !== null) timer.current = setTimeout(() => void save(), 0);
    return () => clearTimeout(timer.current);
  }, [id, save]);

  /** What is asked for, drawn or not. */
  const wanted = useCallback(() => latest.current.changes, []);

  return { draft, edit, setText, saved, wanted };
}
