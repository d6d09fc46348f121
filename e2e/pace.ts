/**
 * How fast the pages are, in this build on this machine: `make pace`. First paint, what moved while a page came, a step of
 * a dimension, key by key and without rest, on a fit of a few trials and on one of sixty, and a year of rides plotted,
 * measured in one run.
 */
import { chromium, type Page } from "@playwright/test";
import { randomUUID } from "node:crypto";
import { mkdtempSync, rmSync } from "node:fs";
import { tmpdir } from "node:os";
import { join } from "node:path";
import config from "./playwright.config";
import { field, settled, start } from "./wedge";

const STEPS = 60;
/** A hand that steps a dimension and looks. */
const APART_MS = 100;
const TRIALS = 60;
const RIDES = 200;

const folder = mkdtempSync(join(tmpdir(), "wedge-pace-"));
const server = await start("demo", join(folder, "demo.sqlite"));
const browser = await chromium.launch(config.use?.launchOptions);
const page = await browser.newPage({ baseURL: server.url, viewport: { width: 1280, height: 800 } });

const part = (sorted: number[], share: number) =>
  sorted[Math.min(sorted.length - 1, Math.floor(share * sorted.length))];
const told = (times: number[]) => {
  const sorted = [...times].sort((a, b) => a - b);
  return `median ${part(sorted, 0.5)?.toFixed(1) ?? "?"} ms, p95 ${part(sorted, 0.95)?.toFixed(1) ?? "?"} ms`;
};

/** First paint with nothing kept by the browser, and again with what it keeps. */
async function painted(path: string): Promise<string> {
  const fresh = await browser.newContext({ baseURL: server.url, viewport: { width: 1280, height: 800 } });
  const shown = await fresh.newPage();
  const times: string[] = [];
  for (let i = 0; i < 4; i += 1) {
    await shown.goto(path, { waitUntil: "networkidle" });
    const paint = await shown.evaluate(() => performance.getEntriesByName("first-contentful-paint")[0]?.startTime ?? 0);
    times.push(paint.toFixed(0));
  }
  await fresh.close();
  return `${times[0] ?? "?"} ms at first, then ${times.slice(1).join(", ")} ms`;
}

/** From the key to the frame in which the answer is drawn: a key at a time, or as fast as each is drawn. */
async function stepped(on: Page, apart: number): Promise<number[]> {
  await field(on, "saddle_height_mm").focus();
  await on.evaluate(() => {
    const board = document.querySelector(".board");
    const times: number[] = [];
    let begun: number | undefined;
    Object.assign(window, { stepped: times });
    addEventListener("keydown", () => (begun = performance.now()), { capture: true });
    if (!board) return;
    new MutationObserver(() => {
      if (begun === undefined || board.getAttribute("data-settled") !== "true") return;
      const from = begun;
      begun = undefined;
      requestAnimationFrame(() => {
        times.push(performance.now() - from);
        (window as unknown as { drawn?: () => void }).drawn?.();
      });
    }).observe(board, { subtree: true, attributes: true, childList: true, characterData: true });
  });
  const so = () => on.evaluate(() => (window as unknown as { stepped: number[] }).stepped);
  for (let i = 0; i < STEPS; i += 1) {
    // Told, not asked for every few milliseconds: whoever asks holds up what is timed.
    const drawn = on.evaluate(() => new Promise<void>((resolve) => Object.assign(window, { drawn: resolve })));
    await on.keyboard.press(i % 8 < 4 ? "ArrowUp" : "ArrowDown");
    await drawn;
    if (apart > 0) await on.waitForTimeout(apart);
  }
  await on.keyboard.press("Escape");
  return so();
}

/** Tries and keeps until the fit has so many trials. */
async function fill(session: string, trials: number) {
  for (let i = 0; i < trials; i += 1) {
    const view = (await (await page.request.get(`/api/sessions/${session}`)).json()) as { version: number };
    const id = randomUUID();
    await page.request.post(`/api/sessions/${session}/trials`, {
      headers: { "If-Match": `"${view.version}"` },
      data: {
        id,
        changes: [{ quantity: i % 5 < 3 ? "saddle_height_mm" : "setback_mm", by: i % 2 ? 1 : -1 }],
        why: "",
        insist: true,
      },
    });
    await page.request.post(`/api/trials/${id}/entries`, { data: { id: randomUUID(), body: { outcome: "kept" } } });
  }
}

/** So many rides of a fit, the last one yesterday. */
async function ride(session: string, rides: number) {
  const day = (ago: number) => new Date(Date.now() - ago * 86_400_000).toISOString().slice(0, 10);
  const rated = (rating: string, n: number) =>
    ["left", "right"].map((side) => ({ rating, side, value: (n * (side === "left" ? 7 : 5)) % 11 }));
  const all = Array.from({ length: rides }, (_, n) => ({
    id: randomUUID(),
    on: day(Math.ceil(((rides - n) * 365) / rides)),
    circuit: n % 9 === 4 ? "Quarry climb" : "Weir loop",
    minutes: 60 + (n % 7),
    effort: 5,
    plan: 1,
    step: n < 80 ? 0 : n < 140 ? 1 : 2,
    moved: [],
    signs: [],
    ratings: [
      ...["hands", "thigh_front", "thigh_back", "knees"].flatMap((one) => rated(one, n)),
      { rating: "saddle", value: n % 4 },
    ],
  }));
  await page.request.post(`/api/sessions/${session}/ledger`, { data: { rides: all } });
}

/** From the answer to the frame in which every plot is drawn. */
async function plotted(session: string): Promise<number[]> {
  const times: number[] = [];
  const shown = await browser.newPage({ baseURL: server.url, viewport: { width: 1280, height: 800 } });
  await shown.addInitScript(() => {
    new MutationObserver((_, observer) => {
      if (!document.querySelector(".plot .dots")) return;
      observer.disconnect();
      requestAnimationFrame(() => setTimeout(() => Object.assign(window, { plotted: performance.now() })));
    }).observe(document, { subtree: true, childList: true });
  });
  for (let i = 0; i < 7; i += 1) {
    await shown.goto(`/sessions/${session}/plan`);
    await shown.getByRole("link", { name: "Card and rides" }).click();
    await shown.waitForFunction(() => "plotted" in window);
    times.push(
      await shown.evaluate(() => {
        const answers = performance.getEntriesByType("resource") as PerformanceResourceTiming[];
        const answer = answers.find((one) => one.name.endsWith("/ledger"));
        return (window as unknown as { plotted: number }).plotted - (answer?.responseEnd ?? 0);
      }),
    );
  }
  await shown.close();
  return times;
}

try {
  const riders = (await (await page.request.get("/api/riders")).json()) as {
    name: string;
    open?: { session_id: string } | null;
  }[];
  const session = riders.find((rider) => rider.name === "Hedda Solum")?.open?.session_id ?? "";
  console.log(`first paint, room     ${await painted("/")}`);
  console.log(`first paint, session  ${await painted(`/sessions/${session}`)}`);
  for (const more of [0, TRIALS]) {
    await fill(session, more);
    await page.goto(`/sessions/${session}`);
    await settled(page);
    const view = (await (await page.request.get(`/api/sessions/${session}`)).json()) as { trials: unknown[] };
    const trials = `${view.trials.length} trials`;
    console.log(`a step, ${trials}`.padEnd(28) + told(await stepped(page, APART_MS)));
    await page.reload();
    await settled(page);
    console.log(`without rest, ${trials}`.padEnd(28) + told(await stepped(page, 0)));
  }
  await ride(session, RIDES);
  const ledger = (await (await page.request.get(`/api/sessions/${session}/ledger`)).json()) as { rides: unknown[] };
  console.log(`${ledger.rides.length} rides plotted`.padEnd(28) + told(await plotted(session)));
} finally {
  await browser.close();
  await server.stop();
  rmSync(folder, { recursive: true });
}
