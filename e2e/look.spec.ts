/** How the pages stand: for every eye and every size of rider. */
import AxeBuilder from "@axe-core/playwright";
import type { Page } from "@playwright/test";
import {
  boxesApart,
  expect,
  EXTREMES,
  FERRY_RUNNER,
  field,
  IDA,
  newBike,
  newRider,
  settled,
  station,
  tapeAndClose,
  walkTo,
  test,
  keepTrial,
} from "./wedge";

async function nothingSerious(page: Page, where: string) {
  // One frame, and what passes is not described.
  const axe = new AxeBuilder({ page })
    .setLegacyMode()
    .options({ resultTypes: ["violations"], rules: { "target-size": { enabled: true } } });
  const { violations } = await axe.analyze();
  const serious = violations.filter(
    (v) => v.impact === "serious" || v.impact === "critical" || v.id.startsWith("landmark") || v.id === "region",
  );
  expect(
    serious.map((v) => `${where}: ${v.id}: ${v.nodes.map((n) => n.html).join(" ")}`),
    where,
  ).toEqual([]);
}

test("axe finds nothing serious on any page, and the console stays silent", async ({ page }) => {
  test.slow();
  const said: string[] = [];
  page.on("console", (message) => {
    // A refused request is logged by the browser itself.
    if (message.type() === "error" && !message.text().startsWith("Failed to load")) said.push(message.text());
  });
  page.on("pageerror", (error) => said.push(error.message));
  await page.goto("/");
  await expect(page.getByText("Nobody is on record yet")).toBeVisible();
  await nothingSerious(page, "empty room");
  await newRider(page, IDA);
  await nothingSerious(page, "rider");
  await newBike(page, "Ferry Runner", FERRY_RUNNER);
  await nothingSerious(page, "intake");
  await page.getByRole("button", { name: "Front of the knee, left" }).click();
  await expect(page.getByRole("heading", { name: "Front of the knee" })).toBeVisible();
  await page.getByLabel("A swollen joint").click();
  await expect(page.getByText("Stop: do not fit today")).toBeVisible();
  await nothingSerious(page, "red flag");
  await page.getByRole("button", { name: "None of these" }).click();
  await expect(page.getByText("Stop: do not fit today")).toHaveCount(0);
  await walkTo(page, "Body");
  await page.locator('[data-field="inseam_mm"]').focus();
  await nothingSerious(page, "body");
  await page.locator('[data-field="inseam_mm"]').blur();
  await tapeAndClose(page, "712", "188");
  await expect(page.getByRole("region", { name: "Left cleat" })).toBeVisible();
  await nothingSerious(page, "feet");
  await page.keyboard.press("c");
  await expect(page.getByRole("heading", { name: "Measure the feet" })).toBeVisible();
  await nothingSerious(page, "measuring the feet");
  await station(page, "Cranks");
  await page.keyboard.press("c");
  await expect(page.locator(".intents tbody tr")).toHaveCount(5);
  await nothingSerious(page, "cranks");
  await walkTo(page, "Saddle height");
  await expect(page.getByRole("region", { name: "Saddle height", exact: true })).toBeVisible();
  await page.keyboard.press("d");
  await expect(page.getByTestId("saddle-map")).toBeVisible();
  await nothingSerious(page, "saddle height with the map");
  await page.keyboard.press("d");
  await page.keyboard.press("c");
  await expect(page.getByRole("heading", { name: "Post and rails" })).toBeVisible();
  await nothingSerious(page, "the saddle's long page");
  await page.keyboard.press("c");
  await walkTo(page, "Setback & tilt");
  await expect(page.getByRole("region", { name: "Before setback" })).toBeVisible();
  await nothingSerious(page, "setback");
  await page.keyboard.press("3");
  await expect(page.getByTestId("instruction")).toBeVisible();
  await nothingSerious(page, "protocol");
  await page.keyboard.press("Enter");
  await expect(page.locator(".question input")).toBeFocused();
  await nothingSerious(page, "a number read off");
  await page.locator(".question input").blur();
  await page.keyboard.press("e");
  await page.keyboard.press("e");
  await expect(page.getByTestId("instruction")).toHaveText("Ended early");
  await page.keyboard.press("Escape");
  await expect(page.getByRole("group", { name: "Protocols" })).toBeVisible();
  await station(page, "First look");
  await page.locator('[data-field="look.knee_at_full_reach_deg.left"]').fill("36");
  await page.locator('[data-field="look.knee_at_full_reach_deg.left"]').press("Enter");
  await page.getByRole("button", { name: "Fit the model to what was seen" }).click();
  await expect(page.getByRole("heading", { name: "The model, fitted to what was seen" })).toBeVisible();
  await nothingSerious(page, "calibration");
  await page.getByRole("button", { name: "Back to the board" }).click();
  await nothingSerious(page, "first look");
  await station(page, "Saddle height");
  await field(page, "saddle_height_mm").focus();
  await page.keyboard.press("ArrowDown");
  await settled(page);
  await nothingSerious(page, "foreseen");
  await page.keyboard.press("Enter");
  await expect(page.getByRole("heading", { name: /on the bench/ })).toBeVisible();
  await nothingSerious(page, "trial");
  await keepTrial(page);
  await page.keyboard.press("t");
  await expect(page.getByRole("region", { name: "The board as a table" })).toContainText("707 mm");
  await nothingSerious(page, "table");
  await page.keyboard.press("?");
  await expect(page.getByRole("dialog")).toBeVisible();
  await nothingSerious(page, "keys");
  await page.keyboard.press("Escape");
  await page.goto(`${page.url()}/hand-out`);
  await expect(page.getByRole("heading", { name: "For the mechanic" })).toBeVisible();
  await nothingSerious(page, "hand-out");
  await page.getByRole("link", { name: "Plan and referrals" }).click();
  await expect(page.getByRole("heading", { name: "Adaptation plan" })).toBeVisible();
  await nothingSerious(page, "plan and referrals");
  await page.goto("/visits");
  await expect(page.getByRole("heading", { name: "Visits" })).toBeVisible();
  await nothingSerious(page, "visits");
  await page.goto("/studio");
  await expect(page.getByRole("heading", { name: "Frame library" })).toBeVisible();
  await nothingSerious(page, "studio");
  await page.goto("/rules");
  await expect(page.getByRole("heading", { name: "Cranks", exact: true })).toBeVisible();
  await nothingSerious(page, "rules");
  await page.goto("/");
  await page.getByRole("link", { name: IDA.name }).first().click();
  await expect(page.getByRole("img", { name: "As fit 1 left it" })).toBeVisible();
  await nothingSerious(page, "years");
  await page.emulateMedia({ colorScheme: "dark" });
  await page.goto("/");
  await expect(page.getByRole("link", { name: /Go on/ })).toBeVisible();
  await nothingSerious(page, "room at night");
  await page.getByRole("link", { name: /Go on/ }).click();
  await settled(page);
  await nothingSerious(page, "session at night");
  expect(said).toEqual([]);
});

for (const [who, stature, inseam, bike, height, setback] of EXTREMES) {
  test(`a ${who} rider fills the board well`, async ({ page }) => {
    await newRider(page, { ...IDA, stature, inseam });
    await newBike(page, "Ferry Runner", { ...FERRY_RUNNER, ...bike });
    await tapeAndClose(page, height, setback);
    for (const size of [
      { width: 1280, height: 800 },
      { width: 1440, height: 900 },
    ]) {
      await page.setViewportSize(size);
      await settled(page);
      await expect
        .poll(async () => {
          const board = await page.locator(".board").boundingBox();
          const figure = await page.locator(".board .figure").boundingBox();
          if (!board || !figure) return "not drawn";
          const inside =
            figure.x >= board.x &&
            figure.y >= board.y &&
            figure.x + figure.width <= board.x + board.width &&
            figure.y + figure.height <= board.y + board.height;
          return inside && figure.height > 0.75 * board.height ? "fills" : JSON.stringify({ board, figure });
        })
        .toBe("fills");
      // No page scroll, and no box of the board over another.
      const scrolls = await page.evaluate(
        () => document.documentElement.scrollHeight > innerHeight || document.documentElement.scrollWidth > innerWidth,
      );
      expect(scrolls).toBe(false);
      await boxesApart(page, `at ${size.width}`);
    }
  });
}

test("the crank turns while the stroke is watched", async ({ page }) => {
  await page.emulateMedia({ reducedMotion: "no-preference" });
  await newRider(page, IDA);
  await newBike(page, "Ferry Runner", FERRY_RUNNER);
  await walkTo(page, "Bike as found");
  const arm = () => page.locator(".board .crank.near .arm").getAttribute("d");
  const still = await arm();
  await page.keyboard.press(" ");
  await expect.poll(arm).not.toBe(still);
  await page.keyboard.press(" ");
  await expect.poll(arm).toBe(still);
});

test("on paper it is black on white, in the night palette too", async ({ page }) => {
  await newRider(page, IDA);
  await newBike(page, "Ferry Runner", FERRY_RUNNER);
  await tapeAndClose(page, "712", "188");
  await page.goto(`${page.url()}/hand-out`);
  const colours = () =>
    page.evaluate(() => {
      const sheet = document.querySelector(".sheet") ?? document.body;
      const line = document.querySelector(".sheet p") ?? sheet;
      return [getComputedStyle(line).color, getComputedStyle(document.body).backgroundColor];
    });
  await page.emulateMedia({ colorScheme: "dark" });
  await page.locator(".sheet").waitFor();
  expect((await colours())[0]).not.toBe("rgb(0, 0, 0)");
  await page.emulateMedia({ colorScheme: "dark", media: "print" });
  expect(await colours()).toEqual(["rgb(0, 0, 0)", "rgb(255, 255, 255)"]);
});
