import { useSyncExternalStore } from "react";

/** Whether something was asked for that is not drawn yet: told to whoever shows that alone, before anything else is drawn anew. */
export class Settling {
  private asked = false;
  private readonly tell = new Set<() => void>();

  readonly listen = (to: () => void) => {
    this.tell.add(to);
    return () => this.tell.delete(to);
  };

  readonly waits = () => this.asked;

  set(asked: boolean) {
    if (this.asked === asked) return;
    this.asked = asked;
    for (const to of this.tell) to();
  }
}

/** Whether an answer is waited for, followed without drawing what is around. */
export const useWaits = (settling: Settling) => useSyncExternalStore(settling.listen, settling.waits);
