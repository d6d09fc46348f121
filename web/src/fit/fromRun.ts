import type { Step } from "../api/types";

/** With what a session is gone on with from a protocol: what it found, and why. */
export interface FromRun {
  foresee: Step;
  why: string;
}
