import { useCallback, useState } from "react";
import { keptObject } from "./kept";

/** What an earlier page kept in this browser, laid over what it would begin with; what does not read is nobody's. */
function read<State extends object>(key: string, begin: State): State {
  return { ...begin, ...keptObject(key) };
}

/** State of a form that a reload, Back or a closed window does not take away: kept in this browser until it is sent. */
export function useKept<State extends object>(key: string, begin: State) {
  const [state, setState] = useState(() => read(key, begin));
  const edit = useCallback(
    (some: Partial<State>) =>
      setState((was) => {
        const is = { ...was, ...some };
        localStorage.setItem(key, JSON.stringify(is));
        return is;
      }),
    [key],
  );
  const sent = useCallback(() => localStorage.removeItem(key), [key]);
  return { state, edit, sent };
}
