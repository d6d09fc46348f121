import { chromium } from "@playwright/test";
const shots = JSON.parse(process.argv[2]!) as { url: string; out: string; keys?: string[]; click?: string[]; w?: number; h?: number; full?: boolean }[];
const browser = await chromium.launch({ executablePath: "/usr/bin/chromium", args: ["--no-sandbox", "--disable-gpu"] });
try {
  for (const s of shots) {
    const page = await browser.newPage({ viewport: { width: s.w ?? 1280, height: s.h ?? 800 } });
    page.setDefaultTimeout(5000);
    page.on("pageerror", (e) => console.log("ERR", e.message.slice(0, 300)));
    await page.goto(s.url);
    await page.waitForTimeout(1200);
    for (const c of s.click ?? []) { await page.locator(c).first().click(); await page.waitForTimeout(500); }
    for (const k of s.keys ?? []) { await page.keyboard.press(k); await page.waitForTimeout(400); }
    await page.screenshot({ path: s.out, fullPage: s.full ?? false });
    await page.close();
  }
} catch (e) { console.log(String(e).slice(0, 500)); }
await browser.close();
process.exit(0);
