import { chromium } from "@playwright/test";
import { mkdtempSync, rmSync } from "node:fs";
import { tmpdir } from "node:os";
import { join } from "node:path";
import config from "./playwright.config";
import { settled, start, station, field } from "./wedge";
const folder = mkdtempSync(join(tmpdir(), "wedge-zz-"));
const server = await start("demo", join(folder, "demo.sqlite"));
const browser = await chromium.launch(config.use?.launchOptions);
try {
  const ctx = await browser.newContext({
    baseURL: server.url,
    viewport: { width: 1024, height: 768 },
    reducedMotion: "reduce",
  });
  const page = await ctx.newPage();
  const riders = await (await ctx.request.get("/api/riders")).json();
  const of = (n: string) => riders.find((r: any) => r.name.startsWith(n));
  await page.goto(`/sessions/${of("Hedda").open.session_id}`);
  await settled(page);
  await page.screenshot({ path: "/tmp/a1.png" });
  await page.keyboard.press("d");
  await page.getByTestId("saddle-map").waitFor();
  await page.waitForTimeout(500);
  await page.setViewportSize({ width: 1280, height: 800 });
  await page.screenshot({ path: "/tmp/a2.png" });
  await page.goto(`/sessions/${of("Maren").open.session_id}`);
  await settled(page);
  await station(page, "Bars");
  await settled(page);
  await page.waitForTimeout(600);
  await page.screenshot({ path: "/tmp/a3.png" });
} finally {
  await browser.close();
  await server.stop();
  rmSync(folder, { recursive: true });
}
