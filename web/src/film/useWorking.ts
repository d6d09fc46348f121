import { useState } from "react";
import { words } from "../api/client";

/** One thing done at a time, with what is being done, what became of it and what went wrong. */
export function useWorking() {
  const [busy, say] = useState<string>();
  const [wrong, setWrong] = useState<string>();
  const [said, setSaid] = useState<string>();
  const working = async (what: string, work: () => Promise<void>) => {
    if (busy) return;
    say(what);
    setWrong(undefined);
    setSaid(undefined);
    try {
      await work();
    } catch (error) {
      setWrong(words(error));
    } finally {
      say(undefined);
    }
  };
  return { busy, say, wrong, setWrong, said, setSaid, working };
}
