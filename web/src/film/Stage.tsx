import { type PointerEvent, type RefObject, useRef, useState } from "react";
import type { Ask, Pixel } from "./points";
import type { Placed } from "./useDraft";

interface StageProps {
  shown: RefObject<HTMLVideoElement | HTMLImageElement | null>;
  url: string;
  isClip: boolean;
  draft: Placed;
  /** The points there may be, and which of them are joined. */
  asked: Ask[];
  limbs: [string, string][];
  alt: string;
  picked: string | undefined;
  rejected: number[][];
  onPick: (key: string | undefined) => void;
  onPlace: (key: string | undefined, at: Pixel) => void;
  onReady: (size: Pixel) => void;
  onBroken: () => void;
}

/** How much larger the loupe shows what is below the pointer. */
const LOUPE = 6;
const LOUPE_PX = 168;

/** The picture, its points over it, and the loupe beside the pointer. A click places, a drag mends. */
export function Stage(props: StageProps) {
  const { shown, url, isClip, draft, asked, limbs, alt, picked, rejected, onPick, onPlace, onReady, onBroken } = props;
  const joints = new Set(limbs.flat());
  const frame = useRef<HTMLDivElement>(null);
  const canvas = useRef<HTMLCanvasElement>(null);
  const dragging = useRef<string | undefined>(undefined);
  const [loupe, setLoupe] = useState<{ left: number; top: number }>();
  const [width, height] = draft.size;

  const at = (event: PointerEvent): Pixel => {
    const box = frame.current?.getBoundingClientRect();
    if (!box) return [0, 0];
    const round = (value: number) => Math.round(value * 10) / 10;
    return [
      round(((event.clientX - box.left) * width) / box.width),
      round(((event.clientY - box.top) * height) / box.height),
    ];
  };
  /** What is near, on the screen. */
  const near = (event: PointerEvent): string | undefined => {
    const box = frame.current?.getBoundingClientRect();
    if (!box) return undefined;
    const scale = box.width / width;
    const [u, v] = at(event);
    const all = asked.flatMap(({ key }) => {
      const point = draft.points[key];
      return point ? [{ key, off: Math.hypot(point[0] - u, point[1] - v) * scale }] : [];
    });
    const nearest = all.sort((a, b) => a.off - b.off)[0];
    return nearest && nearest.off <= 12 ? nearest.key : undefined;
  };
  const look = (event: PointerEvent) => {
    const box = frame.current?.getBoundingClientRect();
    const context = canvas.current?.getContext("2d");
    if (!box || !context || !shown.current) return;
    const [u, v] = at(event);
    const half = LOUPE_PX / LOUPE / 2;
    context.imageSmoothingEnabled = false;
    context.clearRect(0, 0, LOUPE_PX, LOUPE_PX);
    context.drawImage(shown.current, u - half, v - half, 2 * half, 2 * half, 0, 0, LOUPE_PX, LOUPE_PX);
    const [x, y] = [event.clientX - box.left, event.clientY - box.top];
    const left = x + 24 + LOUPE_PX > box.width ? x - 24 - LOUPE_PX : x + 24;
    setLoupe({ left, top: Math.min(Math.max(y - LOUPE_PX / 2, 0), box.height - LOUPE_PX) });
  };

  return (
    <div className="stage-room">
      <div
        ref={frame}
        className="stage"
        data-ratio={width / height}
        // A picture that stands on end is as high as the window and no higher.
        style={{ aspectRatio: `${width} / ${height}`, width: `min(100%, calc((100vh - 180px) * ${width / height}))` }}
        onPointerDown={(event) => {
          if (event.button !== 0) return;
          event.currentTarget.setPointerCapture(event.pointerId);
          const key = near(event);
          dragging.current = key;
          if (key) onPick(key);
          else onPlace(undefined, at(event));
          look(event);
        }}
        onPointerMove={(event) => {
          if (dragging.current) onPlace(dragging.current, at(event));
          look(event);
        }}
        onPointerUp={() => (dragging.current = undefined)}
        onPointerLeave={() => setLoupe(undefined)}
      >
        {isClip ? (
          <video
            ref={shown as RefObject<HTMLVideoElement>}
            src={url}
            muted
            playsInline
            preload="auto"
            aria-label="The clip"
            onLoadedData={(event) => onReady([event.currentTarget.videoWidth, event.currentTarget.videoHeight])}
            onError={onBroken}
          />
        ) : (
          <img
            ref={shown as RefObject<HTMLImageElement>}
            src={url}
            alt={alt}
            draggable={false}
            onLoad={(event) => onReady([event.currentTarget.naturalWidth, event.currentTarget.naturalHeight])}
            onError={onBroken}
          />
        )}
        <svg viewBox={`0 0 ${width} ${height}`} aria-hidden>
          {limbs.map(([from, to]) => {
            const [a, b] = [draft.points[from], draft.points[to]];
            return a && b ? (
              <path key={`${from} ${to}`} className="limb" d={`M${a[0]} ${a[1]}L${b[0]} ${b[1]}`} />
            ) : null;
          })}
          {rejected.map(([u, v]) => (
            <circle key={`${u} ${v}`} className="rejected" cx={u} cy={v} r={width / 110} />
          ))}
          {asked.map(({ key }) => {
            const point = draft.points[key];
            if (!point) return null;
            const r = width / (/^(rear|front)_/.test(key) ? 220 : 150);
            const joint = joints.has(key);
            return (
              <g key={key} className={`point${key === picked ? " picked" : ""}${joint ? " joint" : ""}`}>
                <circle cx={point[0]} cy={point[1]} r={r} />
                <path
                  d={`M${point[0] - r * 1.8} ${point[1]}h${r * 3.6}M${point[0]} ${point[1] - r * 1.8}v${r * 3.6}`}
                />
              </g>
            );
          })}
        </svg>
        <div className="loupe" hidden={!loupe} style={{ left: loupe?.left, top: loupe?.top }}>
          <canvas ref={canvas} width={LOUPE_PX} height={LOUPE_PX} />
        </div>
      </div>
    </div>
  );
}
