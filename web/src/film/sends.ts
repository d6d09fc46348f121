/** What the film bench asks the server: a picture goes there to be read, and is not kept. */
import { answer, api, newId, raw } from "../api/client";
import type {
  AcrossClip,
  AcrossFollowed,
  AcrossFound,
  AcrossShot,
  Clip,
  ClipFollowed,
  Dot,
  FilmRead,
  FilmValue,
  Forgotten,
  Learnt,
  LookBody,
  SaidBy,
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

export const findAcross = (shot: AcrossShot, picture: Blob) =>
  answer<AcrossFound>(
    api.POST("/api/film/across", { params: { query: { shot: JSON.stringify(shot) } }, ...raw(picture, BYTES) }),
  );

export const followAcross = (session: string, shot: AcrossShot, times: number[], start: number, blobs: Dot[][]) =>
  answer<AcrossFollowed>(
    api.POST("/api/sessions/{id}/film/across", {
      params: { path: { id: session } },
      body: { shot, times, start, blobs },
    }),
  );

export const keepAcross = (session: string, id: string, name: string, clip: AcrossClip) =>
  answer<TakesView>(
    api.POST("/api/sessions/{id}/takes/across", { params: { path: { id: session } }, body: { id, name, clip } }),
  );

/** One frame of a take, with the rider's consent alone. */
export const keepPicture = (take: string, picture: Blob) =>
  answer<undefined>(api.PUT("/api/takes/{id}/picture", { params: { path: { id: take } }, ...raw(picture, BYTES) }));

export const deletePicture = (take: string) =>
  answer<Forgotten>(api.DELETE("/api/takes/{id}/picture", { params: { path: { id: take } } }));

export const sayOfPictures = (rider: string, pictures: boolean, by: SaidBy, name: string) =>
  answer<Forgotten | null>(
    api.POST("/api/riders/{id}/consents", {
      params: { path: { id: rider } },
      body: { id: newId(), pictures, by, name },
    }),
  );

export const keepStill = (session: string, id: string, name: string, still: Shot) =>
  answer<TakesView>(
    api.POST("/api/sessions/{id}/takes/stills", {
      params: { path: { id: session } },
      body: { id, name, still },
    }),
  );

export const keepClip = (session: string, id: string, name: string, clip: Clip) =>
  answer<TakesView>(
    api.POST("/api/sessions/{id}/takes/clips", {
      params: { path: { id: session } },
      body: { id, name, clip },
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
