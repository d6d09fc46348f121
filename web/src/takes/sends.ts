/** What the takes' page asks the server to write. */
import { answer, api, newId, raw } from "../api/client";
import type { BodyPoint, Keepable, MarkerUnit, Sending, SessionView, Side, TakesView } from "../api/types";

/** What was answered about a file of markers. */
export interface Answers {
  names: Record<string, { part: BodyPoint; side: Side }>;
  nothing: string[];
  unit?: MarkerUnit;
  swap?: boolean;
}

/** A file of markers on its way in, with what is said beside it. */
export interface Coming {
  id: string;
  file: File;
  power_w: number | undefined;
  placing: number;
  /** Whether the rider stands still in it. */
  stands: boolean;
}

export const sendMarkers = (session: string, coming: Coming, answers?: Answers) =>
  answer<Sending>(
    api.POST("/api/sessions/{id}/takes/markers", {
      params: {
        path: { id: session },
        query: {
          id: coming.id,
          name: coming.file.name,
          placing: coming.placing,
          standing: coming.stands,
          ...(coming.power_w === undefined ? {} : { power_w: coming.power_w }),
          ...(answers ? { answers: JSON.stringify(answers) } : {}),
        },
      },
      ...raw(coming.file, "application/octet-stream"),
    }),
  );

export const sendTorque = (session: string, id: string, file: File) =>
  answer<TakesView>(
    api.POST("/api/sessions/{id}/takes/torque", {
      params: { path: { id: session }, query: { id, name: file.name } },
      ...raw(file, "text/csv"),
    }),
  );

/** Keeps what a take or a picture shows as entries of the look. */
export const keep = (session: string, all: Keepable[]) =>
  answer<SessionView>(
    api.POST("/api/sessions/{id}/looks/many", {
      params: { path: { id: session } },
      body: { looks: all.map(({ body, doubtful }) => ({ id: newId(), body, doubtful })) },
    }),
  );
