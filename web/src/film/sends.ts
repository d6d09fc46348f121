/** What the film bench asks the server: a picture goes there to be read, and is not kept. */
import { answer, api, newId, raw } from "../api/client";
import type {
  Clip,
  ClipFollowed,
  Dot,
  FilmRead,
  FilmValue,
  Learnt,
  LookBody,
  SessionView,
  Shot,
  Side,
  TakesView,
} from "../api/types";

const BYTES = "application/octet-stream";

export const readShot = (session: string, shot: Shot) =>
  answer<FilmRead>(api.POST("/api/sessions/{id}/film/read", { params: { path: { id: session } }, body: shot }));

export const findDots = (session: string, shot: Shot, picture: Blob) =>
  answer<FilmRead>(
    api.POST("/api/sessions/{id}/film/find", {
      params: { path: { id: session }, query: { shot: JSON.stringify(shot) } },
      ...raw(picture, BYTES),
    }),
  );

export const dotsOf = (learnt: Learnt, picture: Blob) =>
  answer<Dot[]>(
    api.POST("/api/film/dots", { params: { query: { learnt: JSON.stringify(learnt) } }, ...raw(picture, BYTES) }),
  );

export const followClip = (session: string, shot: Shot, times: number[], start: number, blobs: Dot[][]) =>
  answer<ClipFollowed>(
    api.POST("/api/sessions/{id}/film/clip", {
      params: { path: { id: session } },
      body: { shot, times, start, blobs },
    }),
  );

export const keepStill = (session: string, name: string, still: Shot) =>
  answer<TakesView>(
    api.POST("/api/sessions/{id}/takes/stills", {
      params: { path: { id: session } },
      body: { id: newId(), name, still },
    }),
  );

export const keepClip = (session: string, name: string, clip: Clip) =>
  answer<TakesView>(
    api.POST("/api/sessions/{id}/takes/clips", {
      params: { path: { id: session } },
      body: { id: newId(), name, clip },
    }),
  );

/** Sightings of the look out of what film tells: what has no output is a figure of the picture alone. */
export const keepValues = (
  session: string,
  values: FilmValue[],
  side: Side,
  perSide: (value: FilmValue) => boolean,
) => {
  const bodies: LookBody[] = values.flatMap((value) =>
    value.output == null
      ? []
      : [
          {
            seen: {
              output: value.output,
              side: perSide(value) ? side : null,
              value: Math.round(value.value * 10) / 10,
              method: "film",
              spread: Math.round(value.spread * 100) / 100,
            },
          },
        ],
  );
  return answer<SessionView>(
    api.POST("/api/sessions/{id}/looks/many", {
      params: { path: { id: session } },
      body: { looks: bodies.map((body) => ({ id: newId(), body })) },
    }),
  );
};
