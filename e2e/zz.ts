import { chromium } from "@playwright/test";
import { mkdtempSync, rmSync } from "node:fs";
import { tmpdir } from "node:os";
import { join } from "node:path";
import config from "./playwright.config";
import { field, settled, start } from "./wedge";
const folder = mkdtempSync(join(tmpdir(), "wedge-zz-"));
const server = await start("demo", join(folder, "demo.sqlite"));
const browser = await chromium.launch(config.use?.launchOptions);
const measure = async (path: string, w = 1280, h = 800) => {
  const ctx = await browser.newContext({ baseURL: server.url, viewport: { width: w, height: h }, locale: "en-GB" });
  const page = await ctx.newPage();
  await page.addInitScript(() => {
    (window as any).cls = 0;
    (window as any).moved = [];
    new PerformanceObserver((list) => {
      for (const e of list.getEntries() as any[]) {
        if (!e.hadRecentInput) {
          (window as any).cls += e.value;
          (window as any).moved.push([
            e.value.toFixed(3),
            ...e.sources.map((s: any) => s.node?.className || s.node?.nodeName),
          ]);
        }
      }
    }).observe({ type: "layout-shift", buffered: true });
  });
  const out: number[] = [];
  let cls = 0;
  let moved: any;
  for (let i = 0; i < 3; i++) {
    await page.goto(path);
    await page.waitForTimeout(1800);
    const r = await page.evaluate(() => ({
      cls: (window as any).cls,
      moved: (window as any).moved,
      fcp: performance.getEntriesByName("first-contentful-paint")[0]?.startTime ?? -1,
    }));
    out.push(Math.round(r.fcp));
    cls = Math.max(cls, r.cls);
    if (r.moved.length) moved = r.moved;
  }
  console.log(
    path.slice(0, 30),
    w,
    "cls",
    cls.toFixed(3),
    "fcp",
    out.join(" "),
    JSON.stringify(moved ?? "").slice(0, 400),
  );
  await ctx.close();
};
try {
  const api = await (await browser.newContext({ baseURL: server.url })).request.get(server.url + "/api/riders");
  const riders = await api.json();
  const open = riders.filter((r: any) => r.open);
  await measure("/");
  await measure("/riders/" + riders.find((r: any) => r.name.startsWith("Finn")).id);
  for (const r of open) await measure("/sessions/" + r.open.session_id);
  await measure("/studio");
  await measure("/rules");
  await measure("/", 420, 800);
  await measure("/sessions/" + open[0].open.session_id, 420, 800);
} finally {
  await browser.close();
  await server.stop();
  rmSync(folder, { recursive: true });
}
