/** The keys of the film bench, from whichever side the rider is seen. */
export interface Keyed {
  keep: () => Promise<void>;
  find: () => Promise<void>;
  takeBack: () => void;
  setPicked: (key: string | undefined) => void;
  nudge: (dx: number, dy: number) => (event: KeyboardEvent) => void;
  clip: { stop: () => void; frame: number; show: (frame: number) => void; stroke: (way: 1 | -1) => void };
}

export const benchKeys = (bench: Keyed, numbered: string[]) => ({
  Enter: () => void bench.keep(),
  d: () => void bench.find(),
  Escape: () => {
    bench.clip.stop();
    bench.setPicked(undefined);
  },
  "Ctrl+z": bench.takeBack,
  ArrowLeft: bench.nudge(-1, 0),
  ArrowRight: bench.nudge(1, 0),
  ArrowUp: bench.nudge(0, -1),
  ArrowDown: bench.nudge(0, 1),
  ",": () => bench.clip.show(bench.clip.frame - 1),
  ".": () => bench.clip.show(bench.clip.frame + 1),
  PageUp: () => bench.clip.stroke(-1),
  PageDown: () => bench.clip.stroke(1),
  ...Object.fromEntries(numbered.slice(0, 9).map((key, index) => [String(index + 1), () => bench.setPicked(key)])),
});
