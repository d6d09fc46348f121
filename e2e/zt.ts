import { chromium } from "@playwright/test";
import { mkdtempSync, rmSync } from "node:fs";
import { tmpdir } from "node:os";
import { join } from "node:path";
import config from "./playwright.config";
import { start } from "./wedge";
const folder = mkdtempSync(join(tmpdir(), "wedge-zz-"));
const server = await start("serve", join(folder, "demo.sqlite"));
const browser = await chromium.launch(config.use?.launchOptions);
try {
  const page = await browser.newPage({
    baseURL: server.url,
    viewport: { width: 1280, height: 800 },
    reducedMotion: "reduce",
  });
  await page.goto("/");
  await page.waitForTimeout(900);
  await page.screenshot({ path: "/tmp/b1.png" });
} finally {
  await browser.close();
  await server.stop();
  rmSync(folder, { recursive: true });
}
