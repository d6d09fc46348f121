/** On a telephone, at twice the size, and while a page comes: nothing moves, nothing is cut. */
import type { Page } from "@playwright/test";
import { expect, settled, test } from "./wedge";

test.use({ demo: true });

/** The address of every main view, on the demo's record. */
async function views(page: Page): Promise<[name: string, path: string][]> {
  const riders = (await (await page.request.get("/api/riders")).json()) as {
    id: string;
    name: string;
    open?: { session_id: string } | null;
  }[];
  const open = riders.flatMap((rider) => (rider.open ? [[rider.name, `/sessions/${rider.open.session_id}`]] : []));
  const finn = riders.find((rider) => rider.name === "Finn Hatherly")?.id ?? "";
  const first = open[0]?.[1] ?? "";
  return [
    ["room", "/"],
    ["rider", `/riders/${finn}`],
    ["hand-out", `${first}/hand-out`],
    ["studio", "/studio"],
    ["rules", "/rules"],
    ...(open as [string, string][]),
  ];
}

/** A view is there once nothing is asked for any more. */
const there = (page: Page, path: string) => page.goto(path, { waitUntil: "networkidle" });

test("no page moves sideways at 420 px, nor at twice the size", async ({ page }) => {
  for (const [width, height] of [
    [420, 800],
    [640, 400],
  ] as const) {
    await page.setViewportSize({ width, height });
    for (const [name, path] of await views(page)) {
      await there(page, path);
      const wide = await page.evaluate(() => document.documentElement.scrollWidth);
      expect(wide, `${name} at ${width}`).toBeLessThanOrEqual(width);
    }
  }
});

test("the way is one row on a narrow window, with the station one is at in sight", async ({ page }) => {
  await page.setViewportSize({ width: 420, height: 800 });
  const [, path] = (await views(page)).find(([name]) => name === "Hedda Solum") ?? ["", "/"];
  await there(page, path);
  await settled(page);
  const tops = await page.locator(".way button").evaluateAll((all) => all.map((b) => b.getBoundingClientRect().top));
  expect(new Set(tops).size).toBe(1);
  const here = await page.locator(".way [aria-current]").boundingBox();
  expect(here && here.x >= 0 && here.x + here.width <= 420).toBe(true);
});

test("the hand-out is whole in the hand", async ({ page }) => {
  await page.setViewportSize({ width: 420, height: 800 });
  const [, path] = (await views(page)).find(([name]) => name === "hand-out") ?? ["", "/"];
  await there(page, path);
  const cut = await page.locator(".sheet :is(th, td)").evaluateAll((cells) =>
    cells
      .filter((cell) => cell.getClientRects().length > 0)
      .filter((cell) => cell.getBoundingClientRect().right > 420 || cell.scrollWidth > cell.clientWidth + 1)
      .map((cell) => cell.textContent),
  );
  expect(cut).toEqual([]);
});

test("nothing moves once it is seen", async ({ page }) => {
  await page.addInitScript(() => {
    const seen = { shift: 0 };
    Object.assign(window, { seen });
    new PerformanceObserver((list) => {
      for (const entry of list.getEntries() as (PerformanceEntry & { value: number })[]) seen.shift += entry.value;
    }).observe({ type: "layout-shift", buffered: true });
  });
  for (const [name, path] of await views(page)) {
    await there(page, path);
    await page.evaluate(() => document.fonts.ready);
    const shift = await page.evaluate(() => (window as unknown as { seen: { shift: number } }).seen.shift);
    expect(shift, name).toBeLessThan(0.05);
  }
});
