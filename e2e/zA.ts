import { chromium } from "@playwright/test";
import { mkdtempSync } from "node:fs";
import { tmpdir } from "node:os";
import { join } from "node:path";
import config from "./playwright.config";
import { settled, start, station } from "./wedge";
const folder = mkdtempSync(join(tmpdir(), "wedge-z-"));
const server = await start("demo", join(folder, "demo.sqlite"));
const browser = await chromium.launch(config.use?.launchOptions);
const page = await browser.newPage({
  baseURL: server.url,
  viewport: { width: 1280, height: 800 },
  locale: "en-GB",
  reducedMotion: "reduce",
});
const shot = async (name: string, fullPage = false) => {
  await page.evaluate(() => document.fonts.ready);
  await page.screenshot({ path: `/tmp/z/${name}.png`, fullPage });
};
page.on("console", (m) => m.type() === "error" && console.log(m.text()));
try {
  await page.goto("/");
  await page
    .getByRole("article")
    .filter({ hasText: "Maren Ostby" })
    .getByRole("link", { name: /Go on/ })
    .first()
    .click();
  await settled(page);
  await station(page, "First look");
  await page.getByLabel("A sign that is there").selectOption("neck_tired|");
  await page.keyboard.press("Enter");
  await page.waitForTimeout(500);
  await page.locator('[data-field="weight.left"]').fill("6");
  await page.keyboard.press("Enter");
  await page.waitForTimeout(500);
  await page.getByRole("group", { name: "Signs" }).scrollIntoViewIfNeeded();
  await shot("look");
  await station(page, "Bars");
  await settled(page);
  await shot("bars");
  await page.getByRole("button", { name: /Causes, protocols/ }).click();
  await page.waitForTimeout(500);
  await shot("bars-page");
  await page.getByRole("region", { name: "Protocols with their settings" }).scrollIntoViewIfNeeded();
  await shot("bars-page2");
  await page.keyboard.press("c");
  await page.locator('[data-field="spacers_below_mm"]').first().focus();
  for (let i = 0; i < 3; i++) await page.keyboard.press("ArrowDown");
  await settled(page);
  await shot("bars-change", true);
  await page.keyboard.press("Escape");
  await page.keyboard.press("Enter");
  await page.waitForTimeout(300);
  await page.keyboard.press("Enter");
  await page.waitForTimeout(1200);
  await shot("bars-trial");
  await page.keyboard.press("1");
  await page.waitForTimeout(600);
  await page.keyboard.press("k");
  await page.waitForTimeout(1200);
  await shot("bars-due");
  await page.keyboard.press("x");
  await page.waitForTimeout(800);
  await station(page, "Setback");
  await settled(page);
  await shot("setback-due");
} catch (e) {
  console.log(String(e).slice(0, 800));
  await shot("fail");
}
await browser.close();
server.stop?.();
process.exit(0);
