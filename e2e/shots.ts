/** Takes the pictures of the README from the demo studio: `make shots`. */
import { chromium } from "@playwright/test";
import { mkdtempSync, readFileSync, rmSync } from "node:fs";
import { tmpdir } from "node:os";
import { join } from "node:path";
import config from "./playwright.config";
import { field, settled, start, station } from "./wedge";

type Pixel = [number, number];
interface Still {
  bike_px: { rear: Pixel; front: Pixel; bb: Pixel; rear_rim: Pixel[]; front_rim: Pixel[] };
  dots_px: Record<string, Pixel>;
}

const into = join(import.meta.dirname, "../docs/screenshots");
const folder = mkdtempSync(join(tmpdir(), "wedge-shots-"));
const server = await start("demo", join(folder, "demo.sqlite"));
const browser = await chromium.launch(config.use?.launchOptions);
const page = await browser.newPage({
  baseURL: server.url,
  viewport: { width: 1280, height: 800 },
  locale: "en-GB",
  reducedMotion: "reduce",
});
const shot = async (name: string, fullPage = false) => {
  await page.waitForLoadState("networkidle");
  await page.evaluate(() => document.fonts.ready);
  await page.screenshot({ path: join(into, `${name}.png`), fullPage });
};

/** Opens the fit that is going on. */
const goOn = async (name: string) => {
  await page.goto("/");
  await page.getByRole("article").filter({ hasText: name }).getByRole("link", { name: /Go on/ }).first().click();
  await settled(page);
};

try {
  await page.goto("/");
  await page.getByRole("heading", { name: "New rider" }).waitFor();
  await page.getByText("Maren Ostby").waitFor();
  await shot("room");

  await page.getByRole("link", { name: /^Studio/ }).click();
  await page.getByRole("heading", { name: "Frame library" }).waitFor();
  await page.goto("/");

  await page
    .getByRole("link", { name: /Finn Hatherly/ })
    .first()
    .click();
  await page.getByRole("heading", { name: /^Fits on/ }).waitFor();
  await shot("rider");

  await page.goto("/");
  await page
    .getByRole("link", { name: /Tobin Arkle/ })
    .first()
    .click();
  await page.getByRole("link", { name: "hand-out" }).click();
  await page.getByRole("heading", { name: "For the mechanic" }).waitFor();
  await page.locator("img.drawing").evaluate((drawn: HTMLImageElement) => drawn.decode());
  await shot("hand-out", true);

  const riders = (await (await page.request.get("/api/riders")).json()) as { id: string; name: string }[];
  const tobin = riders.find((rider) => rider.name === "Tobin Arkle")?.id ?? "";
  const fits = (await (await page.request.get(`/api/riders/${tobin}`)).json()) as {
    rider: { bikes: { sessions: { id: string }[] }[] };
  };
  await page.goto(`/sessions/${fits.rider.bikes[0]?.sessions[0]?.id ?? ""}/rides`);
  await page.getByRole("heading", { name: "With these rides, the next move" }).waitFor();
  await shot("rides");
  const corwin = riders.find((rider) => rider.name === "Corwin Ashe")?.id ?? "";
  await page.goto(`/riders/${corwin}/next?to=made`);
  await page.getByRole("row", { name: /Head angle/ }).waitFor();
  await page.locator("img.frame-drawing").evaluate((drawn: HTMLImageElement) => drawn.decode());
  await shot("next-bike");
  await page.goto("/");

  await goOn("Ilse Marrow");
  await page.keyboard.press("c");
  await page.getByRole("heading", { name: "Limit against demand" }).waitFor();
  await shot("cranks");

  await goOn("Della Quay");
  await page.getByRole("region", { name: "Turn the position" }).waitFor();
  await page.keyboard.press("]");
  await page.locator(".board .lines.foreseen").waitFor();
  await settled(page);
  await shot("pads");

  await goOn("Wren Tallis");
  await page.keyboard.press("c");
  await page.getByRole("region", { name: "Fork" }).waitFor();
  await shot("springs");

  await goOn("Hedda Solum");
  await page.getByText("The schools are").waitFor();
  await page.getByTestId("next-move").waitFor();
  await shot("session");
  await page.keyboard.press("g");
  await page.getByTestId("readout").waitFor();
  await shot("right-place");
  await page.keyboard.press("g");
  await page.keyboard.press("c");
  await page.getByRole("heading", { name: "What hurts" }).waitFor();
  await page.getByRole("rowheader", { name: "Saddle too high" }).first().waitFor();
  await page.keyboard.press("c");
  await page.keyboard.press("1");
  const calls = ["Enter", "0", "0", "0", "Enter", "1", "0", "0", "Enter", "2", "1", "0", "Enter", "1"];
  for (const key of calls) {
    const answered = page.waitForResponse((response) => response.url().endsWith("/calls"));
    await page.getByTestId("instruction").waitFor();
    await page.keyboard.press(key);
    await answered;
    await page.waitForTimeout(150);
  }
  await page.getByText("Right leg").waitFor();
  await shot("protocol");

  await goOn("Maren Ostby");
  await station(page, "Saddle height");
  await field(page, "saddle_height_mm").focus();
  await page.keyboard.press("ArrowDown");
  await settled(page);
  await page.getByText("Saddle down 5").first().waitFor();
  await shot("foreseen");
  await page.getByRole("button", { name: "Leave it" }).click();
  await station(page, "Intake");
  await page.getByRole("heading", { name: "Where it hurts" }).waitFor();
  await shot("intake");

  await station(page, "First look");
  await page.getByText("Foreseen against seen").waitFor();
  await shot("first-look");

  await station(page, "Body");
  const inseam = page.locator('[data-field="inseam_mm"]');
  for (const text of ["81,9 cm", "32.2 in", "860"]) {
    await inseam.fill(text);
    await inseam.press("Enter");
    await page.waitForFunction((was) => (document.activeElement as HTMLInputElement | null)?.value !== was, text);
  }
  await page.getByText("far off").waitFor();
  await shot("body");
  await inseam.blur();
  await station(page, "Bars");
  await page.getByText("Where the hands belong").waitFor();
  await page.keyboard.press("d");
  await page.getByTestId("hand-plane").waitFor();
  for (const key of ["ArrowLeft", "ArrowLeft", "ArrowUp"]) await page.keyboard.press(key);
  await page.getByTestId("change-title").waitFor();
  await settled(page);
  await shot("bars");
  await page.keyboard.press("Escape");
  await page.getByTestId("change-title").waitFor({ state: "detached" });
  await page.keyboard.press("d");
  await field(page, "spacers_below_mm").focus();
  for (let step = 0; step < 3; step += 1) await page.keyboard.press("ArrowDown");
  await settled(page);
  await page.getByRole("button", { name: /^Try it/ }).click();
  await page.getByText(/^Front-end work/).click();
  for (const done of ["Photograph the spacers", "Slacken the stem", "Rebuild as drawn"]) {
    await page.getByLabel(done).check();
  }
  await page.getByRole("button", { name: "Better" }).click();
  await page.getByRole("button", { name: "✓ Better" }).waitFor();
  await page.getByRole("button", { name: /^Keep/ }).click();

  // Maren's takes, and a picture on the film bench with its points as a browser keeps them.
  await page.goto("/");
  await page
    .getByRole("article")
    .filter({ hasText: "Maren Ostby" })
    .getByRole("link", { name: /Go on/ })
    .first()
    .click();
  await settled(page);
  const fit = page.url();
  await page.goto(`${fit}/takes`);
  await page.getByRole("heading", { name: "The stroke, take by take" }).waitFor();
  await shot("takes");
  const looking = join(import.meta.dirname, "../samples/looking");
  const seen = (JSON.parse(readFileSync(join(looking, "truth.json"), "utf8")) as { files: Record<string, Still> })
    .files;
  const { bike_px: px, dots_px: dots } = seen["os2_oblique.jpg"] as Still;
  const points = {
    ...{ rear: px.rear, front: px.front, bb: px.bb, knee: dots.knee },
    ...Object.fromEntries(
      ["above", "behind", "below", "ahead"].flatMap((at, n) => [
        [`rear_${at}`, px.rear_rim[n]],
        [`front_${at}`, px.front_rim[n]],
      ]),
    ),
  };
  await page.evaluate(
    ([key, draft]) => localStorage.setItem(key as string, draft as string),
    [
      `film.${fit.split("/").pop() ?? ""}`,
      JSON.stringify({
        name: "os2_oblique.jpg",
        size: [1280, 720],
        points,
        dots: ["knee"],
        facesLeft: false,
        wheel: 678,
      }),
    ],
  );
  await page.goto(`${fit}/film`);
  await page.getByLabel("A photo or a clip from the side").setInputFiles(join(looking, "os2_oblique.jpg"));
  await page.getByText("Click: Pedal axle").waitFor();
  await page.keyboard.press("d");
  await page.getByRole("rowheader", { name: "Elbow" }).waitFor();
  await shot("film");

  // Somebody who is not there, taken, asked, and his truth at the end: always the same one.
  const practised = await page.request.post("/api/practice", {
    data: {
      id: "01a22653-64b2-70ba-8233-1aafb5a4a8f3",
      apprentice: "Orla Finch",
      level: "masking",
      judge: true,
      seed: 7,
    },
  });
  const { session } = (await practised.json()) as { session: string };
  await page.goto(`/sessions/${session}`);
  await settled(page);
  await page.getByRole("button", { name: "Take ten seconds" }).click();
  await page.getByText("Kept, simulated").waitFor();
  await station(page, "Saddle height");
  await field(page, "saddle_height_mm").focus();
  await page.keyboard.press("ArrowDown");
  await settled(page);
  await page.getByTestId("change-title").waitFor();
  await page.keyboard.press("Escape");
  await page.locator("body").press("Enter");
  await page.getByRole("button", { name: "Ask him" }).click();
  await page.getByRole("button", { name: /^Take down/ }).click();
  await page.getByText("Taken down").waitFor();
  await page.locator("body").press("k");
  await page.getByRole("link", { name: "End it" }).click();
  await page.getByRole("button", { name: "End it and see the truth" }).click();
  await page.getByRole("heading", { name: "Where the windows were" }).waitFor();
  await shot("practice");
} finally {
  await browser.close();
  await server.stop();
  rmSync(folder, { recursive: true });
}
