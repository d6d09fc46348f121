/** Days of the calendar where the studio is, as the API writes them. */

/** A day so many days later. */
export function later(on: string, days: number): string {
  const day = new Date(`${on}T12:00:00Z`);
  day.setUTCDate(day.getUTCDate() + days);
  return day.toISOString().slice(0, 10);
}

/** How many days lie between two. */
export const daysBetween = (from: string, to: string): number =>
  Math.round((Date.parse(to) - Date.parse(from)) / 86_400_000);

/** The day so many days from now. */
export function inDays(days: number): string {
  const now = new Date();
  const today = new Date(Date.UTC(now.getFullYear(), now.getMonth(), now.getDate()));
  return later(today.toISOString().slice(0, 10), days);
}
