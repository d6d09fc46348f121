import { chromium } from "@playwright/test";
import { mkdtempSync, rmSync } from "node:fs";
import { tmpdir } from "node:os";
import { join } from "node:path";
import config from "./playwright.config";
import { start } from "./wedge";
const folder = mkdtempSync(join(tmpdir(), "wedge-zz-"));
const server = await start("demo", join(folder, "demo.sqlite"));
const browser = await chromium.launch(config.use?.launchOptions);
try {
  const ctx = await browser.newContext({ baseURL: server.url, viewport: { width: 1280, height: 800 } });
  const page = await ctx.newPage();
  const riders = await (await ctx.request.get("/api/riders")).json();
  const open = riders.filter((r: any) => r.open);
  for (let i = 0; i < 3; i++) {
    await page.goto("/sessions/" + open[2].open.session_id);
    await page.waitForTimeout(1500);
    console.log(
      await page.evaluate(() =>
        [
          performance.getEntriesByName("first-contentful-paint")[0]?.startTime,
          ...performance
            .getEntriesByType("resource")
            .map(
              (e: any) =>
                `${e.name.replace(location.origin, "").slice(0, 50)} ${Math.round(e.startTime)}-${Math.round(e.responseStart)}-${Math.round(e.responseEnd)} ${e.transferSize}`,
            ),
        ].join("\n"),
      ),
    );
  }
} finally {
  await browser.close();
  await server.stop();
  rmSync(folder, { recursive: true });
}
