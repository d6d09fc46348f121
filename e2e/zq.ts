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
  const cdp = await page.context().newCDPSession(page);
  await cdp.send("Profiler.enable"); await cdp.send("Profiler.setSamplingInterval", { interval: 200 });
  for (let i = 0; i < 10; i++) { await page.keyboard.press(i % 4 < 2 ? "ArrowUp" : "ArrowDown"); await page.waitForTimeout(100); }
  await cdp.send("Profiler.start");
  for (let i = 0; i < 40; i++) { await page.keyboard.press(i % 4 < 2 ? "ArrowUp" : "ArrowDown"); await page.waitForTimeout(120); }
  const { profile } = await cdp.send("Profiler.stop") as any;
  const self = new Map<string, number>(); const total = new Map<string, number>();
  const byId = new Map<number, any>(profile.nodes.map((n: any) => [n.id, n])); const parent = new Map<number, number>();
  for (const n of profile.nodes) for (const c of n.children ?? []) parent.set(c, n.id);
  const dt = profile.timeDeltas; profile.samples.forEach((id: number, i: number) => {
    const name = (n: any) => `${n.callFrame.functionName || "(anon)"}@${n.callFrame.url.split("/").pop()}:${n.callFrame.lineNumber}:${n.callFrame.columnNumber}`;
    const n = byId.get(id); self.set(name(n), (self.get(name(n)) ?? 0) + dt[i]);
    const seen = new Set<string>(); let k: number | undefined = id; while (k !== undefined) { const nm = name(byId.get(k)); if (!seen.has(nm)) { seen.add(nm); total.set(nm, (total.get(nm) ?? 0) + dt[i]); } k = parent.get(k); }
  });
  const top = (m: Map<string, number>, n: number) => [...m].sort((a, b) => b[1] - a[1]).slice(0, n).map(([k, v]) => `${(v / 40000).toFixed(2)} ms/step ${k}`).join("\n");
  console.log("SELF\n" + top(self, 25)); console.log("TOTAL\n" + top(total, 60));
} finally { await browser.close(); await server.stop(); rmSync(folder, { recursive: true }); }
