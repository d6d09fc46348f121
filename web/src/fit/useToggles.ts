import { useState } from "react";

/** What a key opens and closes: the stroke, the table, before for after, all rows, the keys, the long page, the map, where the
 * right place is, the other moves, the disagreement. */
export type Toggle =
  "turning" | "table" | "flipped" | "all" | "keys" | "page" | "map" | "right" | "others" | "disagree";

export function useToggles() {
  const [on, setOn] = useState<ReadonlySet<Toggle>>(new Set());
  const put = (name: Toggle, to: boolean) =>
    setOn((before) => new Set(to ? [...before, name] : [...before].filter((other) => other !== name)));
  return {
    is: (name: Toggle) => on.has(name),
    toggle: (name: Toggle) => put(name, !on.has(name)),
    open: (name: Toggle) => put(name, true),
    close: (name: Toggle) => put(name, false),
  };
}
