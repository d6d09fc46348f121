import { readFileSync } from "node:fs";
import { chromium } from "@playwright/test";
import config from "./playwright.config";
const browser = await chromium.launch(config.use?.launchOptions);
const page = await browser.newPage({ viewport: { width: 1290, height: 1620 } });
await page.setContent(
  `<body style="margin:0;display:block">${process.argv
    .slice(2)
    .map(
      (f) =>
        `<div style="width:1280px;height:800px;overflow:hidden"><img src="data:image/png;base64,${readFileSync(f).toString("base64")}"></div>`,
    )
    .join("")}</body>`,
);
await page.screenshot({ path: "/tmp/n.png" });
await browser.close();
