/** A clip's frames: when they are, and each as a picture. */

/** When each frame of a clip is, by playing it slowly once; phones vary. */
export async function frameTimes(
  video: HTMLVideoElement,
  progress: (share: number) => void,
  stop: AbortSignal,
): Promise<number[]> {
  const seen: number[] = [];
  let watching = true;
  const watch = () =>
    video.requestVideoFrameCallback((_, frame) => {
      // The last one may come after the end, once another frame is shown.
      if (!watching) return;
      seen.push(frame.mediaTime);
      progress(Math.min(1, frame.mediaTime / (video.duration || 1)));
      watch();
    });
  video.muted = true;
  await seek(video, 0);
  video.playbackRate = 0.25;
  watch();
  await video.play();
  await new Promise<void>((resolve) => {
    video.addEventListener("ended", () => resolve(), { once: true });
    stop.addEventListener("abort", () => resolve(), { once: true });
  });
  watching = false;
  video.pause();
  return filled([...new Set(seen)].sort((a, b) => a - b));
}

/** Frames that were not shown in time, where a gap hides them. */
export function filled(times: number[]): number[] {
  const steps = times.slice(1).map((time, at) => time - (times[at] ?? 0));
  const median = [...steps].sort((a, b) => a - b)[Math.floor(steps.length / 2)] ?? 0;
  if (!(median > 0)) return times;
  // The first frames may be on before anybody watches.
  const first = times[0] ?? 0;
  const missed = Math.floor(first / median + 0.25);
  const before = Array.from({ length: missed }, (_, index) => Math.max(0, first - (missed - index) * median));
  return [...before, ...times].flatMap((time, at, all) => {
    const next = all[at + 1];
    if (next === undefined || next - time <= 1.5 * median) return [time];
    const hidden = Math.round((next - time) / median);
    return Array.from({ length: hidden }, (_, index) => time + ((next - time) * index) / hidden);
  });
}

/** Shows the frame that is on at a time. */
export async function seek(video: HTMLVideoElement, time: number): Promise<void> {
  if (Math.abs(video.currentTime - time) < 1e-6 && video.readyState >= 2) return;
  await new Promise<void>((resolve) => {
    video.addEventListener("seeked", () => resolve(), { once: true });
    video.currentTime = time;
  });
}

/** The middle of a frame's time: between it and the next one. */
export const middleOf = (times: number[], frame: number): number => {
  const at = times[frame] ?? 0;
  const next = times[frame + 1] ?? at + (at - (times[frame - 1] ?? at));
  return (at + next) / 2;
};

/** What is shown, as a JPEG. */
export async function pictureOf(shown: HTMLVideoElement | HTMLImageElement, size: [number, number]): Promise<Blob> {
  const canvas = document.createElement("canvas");
  [canvas.width, canvas.height] = size;
  canvas.getContext("2d")?.drawImage(shown, 0, 0, size[0], size[1]);
  return new Promise((resolve, reject) => {
    canvas.toBlob(
      (blob) => (blob ? resolve(blob) : reject(new Error("The picture cannot be read."))),
      "image/jpeg",
      0.92,
    );
  });
}
