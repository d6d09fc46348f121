/** Single keys act only outside text fields; Enter and Space leave buttons and links alone. */
import { useLayoutEffect, useRef } from "react";

export type Keys = Record<string, ((event: KeyboardEvent) => void) | undefined>;

const isText = (target: Element) =>
  target.matches("input:not([type=checkbox]), textarea, select, [contenteditable=true]");
const isPressed = (target: Element) => target.matches("button, a[href], summary, input[type=checkbox]");

/** Runs the action of a key. Names are `event.key`, letters in lower case, `Ctrl+z` with the control key, `Alt+l`
 * with the other, which acts in text fields too. */
export function useKeys(keys: Keys): void {
  const latest = useRef(keys);
  // Before the page is shown: a key pressed at once must meet what is seen.
  useLayoutEffect(() => {
    latest.current = keys;
  });
  useLayoutEffect(() => {
    const press = (event: KeyboardEvent) => {
      if (event.metaKey || event.defaultPrevented) return;
      const target = event.target instanceof Element ? event.target : document.body;
      // With Alt a key acts from inside a field too.
      if (isText(target) && !event.altKey) return;
      if ((event.key === "Enter" || event.key === " ") && isPressed(target)) return;
      const name = event.key.length === 1 ? event.key.toLowerCase() : event.key;
      const action = latest.current[`${event.ctrlKey ? "Ctrl+" : ""}${event.altKey ? "Alt+" : ""}${name}`];
      if (!action) return;
      event.preventDefault();
      // A key held down is one stroke; only arrows walk on.
      if (!event.repeat || name.startsWith("Arrow")) action(event);
    };
    window.addEventListener("keydown", press);
    return () => window.removeEventListener("keydown", press);
  }, []);
}
