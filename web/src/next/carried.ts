import { keepPreviousData, queryOptions } from "@tanstack/react-query";
import { answer, api } from "../api/client";
import type { CarriedView, NextAsked } from "../api/types";

/** A position on another bike, once one is asked for. */
export const carriedQuery = (rider: string, asked: NextAsked) =>
  queryOptions({
    queryKey: ["next carry", rider, asked],
    enabled: asked.onto !== undefined,
    queryFn: () =>
      answer<CarriedView>(
        api.POST("/api/riders/{id}/next/carry", { params: { path: { id: rider } }, body: asked as never }),
      ),
    placeholderData: keepPreviousData,
    retry: false,
  });
