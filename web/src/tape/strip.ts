/** Where the trials of a fit stand on their strip: runs of the same bolt together, long ones folded. */
import type { TrialView } from "../api/types";

/** Before the first: the bike as found. */
export const LEFT = 40;
/** From one trial to the next, and past what is folded. */
export const STEP = 232;
const FOLD = 128;
/** A run longer than this shows its first and its last; what is between is folded. */
const SHORT_RUN = 3;

export type Stop = { x: number; width: number } & (
  { kind: "trial"; trial: TrialView } | { kind: "fold"; key: string; folded: TrialView[] }
);

/** Several trials of one bolt in a row. */
interface Run {
  key: string;
  count: number;
  from: number;
  to: number;
}

export interface Strip {
  stops: Stop[];
  runs: Run[];
  width: number;
}

/** What a trial turned. */
const bolts = ({ trial }: TrialView): string =>
  trial.changes
    .map((change) => `${change.quantity}${change.side ?? ""}`)
    .sort()
    .join(" ");

/** Lays the trials out; `open` holds the keys of folds that are unfolded. */
export function strip(trials: TrialView[], open: ReadonlySet<string>): Strip {
  const runs: TrialView[][] = [];
  for (const trial of trials) {
    const last = runs.at(-1);
    if (last?.[0] && bolts(last[0]) === bolts(trial)) last.push(trial);
    else runs.push([trial]);
  }
  const laid: Strip = { stops: [], runs: [], width: 0 };
  let x = LEFT + STEP;
  const stand = (width: number) => {
    const at = x;
    x += width;
    return { x: at, width };
  };
  for (const run of runs) {
    const [first, last] = [run[0], run.at(-1)];
    if (!first || !last) continue;
    const key = first.trial.id;
    const from = x;
    const folds = run.length > SHORT_RUN && !open.has(key);
    for (const trial of folds ? [first] : run) laid.stops.push({ kind: "trial", trial, ...stand(STEP) });
    if (folds) {
      laid.stops.push({ kind: "fold", key, folded: run.slice(1, -1), ...stand(FOLD) });
      laid.stops.push({ kind: "trial", trial: last, ...stand(STEP) });
    }
    if (run.length > 1) laid.runs.push({ key, count: run.length, from, to: x - STEP });
  }
  laid.width = x + STEP / 2;
  return laid;
}
