import { expect, test } from "vitest";
import { daysBetween, inDays, later } from "./days";

test("days go over months, years and the change of the clock", () => {
  expect(later("2026-12-28", 7)).toBe("2027-01-04");
  expect(later("2028-03-01", -1)).toBe("2028-02-29");
  expect(later("2026-03-28", 2)).toBe("2026-03-30");
  expect(daysBetween("2026-10-24", "2026-10-26")).toBe(2);
  expect(daysBetween("2027-01-04", "2026-12-28")).toBe(-7);
  expect(daysBetween(inDays(0), inDays(40))).toBe(40);
});
