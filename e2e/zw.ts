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
  const ctx = await browser.newContext({
    baseURL: server.url,
    viewport: { width: 420, height: 800 },
    reducedMotion: "reduce",
  });
  const page = await ctx.newPage();
  const riders = await (await ctx.request.get("/api/riders")).json();
  const open = riders.filter((r: any) => r.open);
  const hedda = open.find((r: any) => r.name.startsWith("Hedda")) ?? open[0];
  const wide = async (name: string) => {
    const over = await page.evaluate(() => {
      const w = window.innerWidth;
      return [
        document.documentElement.scrollWidth,
        ...[...document.querySelectorAll("body *")]
          .filter((e) => e.getBoundingClientRect().right > w + 1 && getComputedStyle(e).position !== "absolute")
          .slice(0, 6)
          .map((e) => `${e.tagName}.${String((e as any).className?.baseVal ?? e.className).slice(0, 30)}`),
      ];
    });
    console.log(name, JSON.stringify(over));
  };
  for (const [w, h] of [
    [420, 900],
    [640, 400],
  ] as const) {
    await page.setViewportSize({ width: w, height: h });
    for (const [name, path] of [
      ["room", "/"],
      ["session", `/sessions/${hedda.open.session_id}`],
      ["handout", `/sessions/${hedda.open.session_id}/hand-out`],
      ["rider", `/riders/${riders.find((r: any) => r.name.startsWith("Finn")).id}`],
      ["studio", "/studio"],
    ] as const) {
      await page.goto(path);
      await page.waitForTimeout(1200);
      await wide(`${name} ${w}`);
      if (process.argv.includes(name)) await page.screenshot({ path: `/tmp/${name}-${w}.png`, fullPage: w === 420 });
    }
  }
} finally {
  await browser.close();
  await server.stop();
  rmSync(folder, { recursive: true });
}
