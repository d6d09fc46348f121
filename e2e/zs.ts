import { chromium } from "@playwright/test";
import { mkdtempSync, rmSync } from "node:fs";
import { tmpdir } from "node:os";
import { join } from "node:path";
import config from "./playwright.config";
import { start, station, settled } from "./wedge";
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
  await page.getByRole("button", { name: /Look around/ }).click();
  await page.getByText("Maren Ostby").waitFor();
  const riders = await (await page.request.get("/api/riders")).json();
  const of = (n: string) => riders.find((r: any) => r.name.startsWith(n));
  await page.goto(`/riders/${of("Finn").id}`);
  await page.waitForTimeout(900);
  await page.screenshot({ path: "/tmp/b2.png" });
  await page.goto(`/sessions/${of("Maren").open.session_id}`);
  await settled(page);
  await station(page, "Saddle height");
  await settled(page);
  await page.waitForTimeout(600);
  await page.screenshot({ path: "/tmp/b3.png" });
  await station(page, "Intake");
  await page.waitForTimeout(600);
  await page.screenshot({ path: "/tmp/b4.png" });
} finally {
  await browser.close();
  await server.stop();
  rmSync(folder, { recursive: true });
}
