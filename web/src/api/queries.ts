/** What is read from the API, by key. */
import { queryOptions } from "@tanstack/react-query";
import { answer, api } from "./client";
import type { Catalogue, Handout, RiderLine, RiderView, SessionView, StudioView } from "./types";

export const catalogueQuery = queryOptions({
  queryKey: ["catalogue"],
  queryFn: () => answer<Catalogue>(api.GET("/api/catalogue")),
  staleTime: Infinity,
});

export const ridersQuery = (find: string) =>
  queryOptions({
    queryKey: ["riders", find],
    queryFn: () => answer<RiderLine[]>(api.GET("/api/riders", { params: { query: { find } } })),
    placeholderData: (previous) => previous,
  });

export const riderQuery = (id: string) =>
  queryOptions({
    queryKey: ["rider", id],
    queryFn: () => answer<RiderView>(api.GET("/api/riders/{id}", { params: { path: { id } } })),
  });

export const sessionQuery = (id: string) =>
  queryOptions({
    queryKey: ["session", id],
    queryFn: () => answer<SessionView>(api.GET("/api/sessions/{id}", { params: { path: { id } } })),
    refetchOnWindowFocus: true,
  });

export const handoutQuery = (id: string) =>
  queryOptions({
    queryKey: ["handout", id],
    queryFn: () => answer<Handout>(api.GET("/api/sessions/{id}/handout", { params: { path: { id } } })),
  });

export const studioQuery = queryOptions({
  queryKey: ["studio"],
  queryFn: () => answer<StudioView>(api.GET("/api/studio")),
});
