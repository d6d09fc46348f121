import { chromium } from "@playwright/test";
import { mkdtempSync, rmSync } from "node:fs";
import { tmpdir } from "node:os";
import { join } from "node:path";
import config from "./playwright.config";
import { field, settled, start } from "./wedge";
const folder = mkdtempSync(join(tmpdir(), "wedge-zz-"));
const server = await start("demo", join(folder, "demo.sqlite"));
const browser = await chromium.launch(config.use?.launchOptions);
try {
  const page = await browser.newPage({ baseURL: server.url, viewport: { width: 1280, height: 800 } });
  const riders = await (await page.request.get("/api/riders")).json();
  await page.goto("/sessions/" + riders.find((r: any) => r.name.startsWith("Hedda")).open.session_id); await settled(page);
  await field(page, "saddle_height_mm").focus();
  await page.evaluate(() => {
    const log: any[] = []; (window as any).log = log;
    const f = window.fetch; window.fetch = async (...a: any[]) => { const t = performance.now(); const r = await (f as any)(...a); if (String((a[0] as any).url ?? a[0]).includes("foresee")) { log.push(["fetch", t, performance.now()]); } return r; };
    addEventListener("keydown", () => { log.push(["key", performance.now()]); requestAnimationFrame(() => log.push(["raf1", performance.now()])); }, { capture: true });
    const b = document.querySelector(".board")!;
    new MutationObserver(() => log.push(["mut", b.getAttribute("data-settled"), performance.now()])).observe(b, { subtree: true, attributes: true, childList: true, characterData: true });
    new PerformanceObserver((l) => { for (const e of l.getEntries()) log.push(["long", e.startTime, e.duration]); }).observe({ type: "longtask" });
  });
  for (let i = 0; i < 14; i++) { await page.keyboard.press(i % 4 < 2 ? "ArrowUp" : "ArrowDown"); await page.waitForTimeout(300); }
  const log = await page.evaluate(() => (window as any).log);
  let t0 = 0; const out: string[] = [];
  for (const e of log) { if (e[0] === "key") { t0 = e[1]; out.push("\nkey"); } else if (e[0] === "fetch") out.push(`fetch ${(e[1]-t0).toFixed(1)}-${(e[2]-t0).toFixed(1)}`); else if (e[0] === "mut") out.push(`mut${e[1]} ${(e[2]-t0).toFixed(1)}`); else if (e[0]==="long") out.push(`LONG ${(e[1]-t0).toFixed(0)}+${e[2].toFixed(0)}`); else out.push(`raf ${(e[1]-t0).toFixed(1)}`); }
  console.log(out.join(" "));
} finally { await browser.close(); await server.stop(); rmSync(folder, { recursive: true }); }
