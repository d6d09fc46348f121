import { defineConfig } from "@playwright/test";
import { existsSync } from "node:fs";

/** Debian's two Chromiums, the quicker one first; see `tools/chromium`. */
const CHROMIUM = ["/usr/bin/chromium-headless-shell", "/usr/bin/chromium"];

export default defineConfig({
  testDir: ".",
  testMatch: /.*\.spec\.ts/,
  outputDir: "results",
  // Each test has a server and a record of its own.
  workers: 2,
  fullyParallel: true,
  timeout: 90_000,
  expect: { timeout: 20_000 },
  // A machine that stalls is no defect; a test that needed its second chance is reported as flaky.
  retries: process.env.CI ? 1 : 0,
  reporter: [["list"]],
  forbidOnly: true,
  use: {
    browserName: "chromium",
    viewport: { width: 1280, height: 800 },
    locale: "en-GB",
    timezoneId: "UTC",
    contextOptions: { reducedMotion: "reduce" },
    launchOptions: {
      executablePath: process.env.WEDGE_CHROMIUM ?? CHROMIUM.find((path) => existsSync(path)),
      args: [
        "--no-sandbox",
        "--disable-gpu",
        "--disable-quic",
        "--no-first-run",
        "--disable-background-networking",
        "--disable-component-update",
        "--disable-sync",
      ],
    },
  },
});
