/** Entries the server does not have yet, kept in this browser: what a page cannot send, a later one does. */
import { kept } from "../ui/kept";
import type { Order } from "./sends";

export interface Waiting {
  id: string;
  order: Order;
}

const place = (session: string) => `wedge-outbox-${session}`;

/** What waits, in the order it was entered. */
export function waiting(session: string): Waiting[] {
  const all = kept(place(session));
  return Array.isArray(all) ? (all as Waiting[]) : [];
}

function keep(session: string, all: Waiting[]): void {
  if (all.length === 0) localStorage.removeItem(place(session));
  else localStorage.setItem(place(session), JSON.stringify(all));
}

export const put = (session: string, one: Waiting) =>
  keep(session, [...waiting(session).filter((other) => other.id !== one.id), one]);

export const taken = (session: string, id: string) =>
  keep(
    session,
    waiting(session).filter((other) => other.id !== id),
  );
