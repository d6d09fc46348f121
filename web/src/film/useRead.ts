import { useQuery } from "@tanstack/react-query";
import { words } from "../api/client";
import type { Shot } from "../api/types";
import { readShot } from "./sends";

/** What the points so far tell; the last answer stands while the next is on its way. */
export function useRead(session: string, shot: Shot | undefined) {
  const asked = useQuery({
    queryKey: ["film", session, shot],
    queryFn: () => (shot ? readShot(session, shot) : Promise.reject(new Error("nothing"))),
    enabled: shot !== undefined,
    placeholderData: (before) => before,
    retry: false,
    gcTime: 30_000,
  });
  return {
    read: shot ? asked.data : undefined,
    problem: shot && asked.error ? words(asked.error) : undefined,
  };
}
