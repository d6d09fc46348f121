/** From the door to a calibrated first look, by keyboard; red flags; nonsense; reloads; one leg shorter. */
import {
  away,
  expect,
  FERRY_RUNNER,
  field,
  IDA,
  newBike,
  newRider,
  sessionOf,
  settled,
  station,
  test,
  walkTo,
} from "./wedge";
import type { Page } from "@playwright/test";

const measure = (page: Page, key: string) => page.locator(`[data-field="${key}"]`);
const saved = (page: Page) => expect(page.getByRole("status").last()).toHaveText("saved");

/** Tapes saddle height and setback and closes the bike as found, at the first look. */
async function closeFound(page: Page) {
  await walkTo(page, "Bike as found");
  await field(page, "saddle_height_mm").focus();
  await page.keyboard.type("712");
  await page.keyboard.press("Enter");
  await field(page, "setback_mm").focus();
  await page.keyboard.type("188");
  await page.keyboard.press("Enter");
  const close = page.getByRole("button", { name: "Close bike as found" });
  await expect(close).toBeEnabled();
  await close.focus();
  await page.keyboard.press("Enter");
  await expect(page.locator(".way [aria-current]")).toHaveText("First look");
}

test("a new rider from the door to a calibrated first look, by keyboard", async ({ page, request }) => {
  await newRider(page, IDA);
  await newBike(page, "Ferry Runner", FERRY_RUNNER);

  // Intake: no red flag, what the fit is for, where it hurts.
  await page.getByRole("button", { name: "None of these" }).focus();
  await page.keyboard.press("Enter");
  await expect(page.getByRole("button", { name: "✓ None of these" })).toBeVisible();
  await measure(page, "goal.power").focus();
  await page.keyboard.press("ArrowUp");
  await expect(page.getByRole("button", { name: "Power, 1", exact: true })).toBeFocused();
  await page.keyboard.press("ArrowDown");
  await page.keyboard.press("ArrowDown");
  await page.keyboard.press("ArrowUp");
  // The front of the body is one stop of Tab; arrows go from place to place.
  await page.getByRole("button", { name: "Head", exact: true }).focus();
  const here = () => page.evaluate(() => document.activeElement?.getAttribute("aria-label"));
  for (let i = 0; i < 12 && !(await here())?.startsWith("Front of the knee"); i++)
    await page.keyboard.press("ArrowDown");
  expect(await here()).toMatch(/^Front of the knee, (left|right)$/);
  await page.keyboard.press("Enter");
  await expect(page.getByRole("heading", { name: "Front of the knee" })).toBeVisible();
  await expect(page.getByLabel("Feels")).toBeFocused();
  await page.getByLabel("Where in the stroke").selectOption({ label: "Over the top" });
  await measure(page, "how_bad.0").focus();
  await page.keyboard.type("4");
  await page.keyboard.press("Enter");
  await expect.poll(async () => (await sessionOf(page, request)).session.intake.complaints[0].how_bad).toBe(4);
  // The list says the same as the picture, and takes it by name.
  await page.getByLabel("Add by name").selectOption({ label: "Low back" });
  await expect(page.getByRole("button", { name: "Low back, complaint 2" })).toBeVisible();
  await saved(page);
  const { intake } = (await sessionOf(page, request)).session;
  expect(intake.complaints.map((c: { place: string }) => c.place)).toEqual(["knee_front", "low_back"]);
  // Alone at the front, level again, alone at the end, and level with the others.
  expect(intake.goals).toEqual([["comfort", "injury", "speed", "power"]]);
  await away(page);

  // Body: units typed freely, three readings, an outlier set aside, a limit.
  await walkTo(page, "Body");
  await measure(page, "inseam_mm").focus();
  for (const text of ["80,4 cm", "31.6 in", "840"]) {
    await page.keyboard.type(text);
    await page.keyboard.press("Enter");
    await expect(measure(page, "inseam_mm")).not.toHaveValue(text);
  }
  const how = page.locator("[data-how=inseam_mm]");
  await expect(how).toContainText("840 mm is far from the others");
  await expect(how).toContainText("of 4");
  await page.keyboard.press("Escape");
  await page.keyboard.press("Control+z");
  await expect(how).toContainText("1 set aside");
  await expect(how).not.toContainText("far from");
  const band = page.locator("table", { hasText: "How sure the angles are" }).locator(".after").first();
  const before = await band.textContent();
  for (const side of ["left", "right"]) {
    await measure(page, `thigh_mm.${side}`).focus();
    await page.keyboard.type("412");
    await page.keyboard.press("Enter");
    await expect(measure(page, `thigh_mm.${side}`)).toHaveValue("412");
  }
  await expect(band).not.toHaveText(before ?? "");
  await measure(page, "hip_limit_deg.left").focus();
  await page.keyboard.type("96");
  await page.keyboard.press("Enter");
  await away(page);

  // Bike as found, then the first look.
  await closeFound(page);
  await settled(page);
  const raw = (await sessionOf(page, request)).now.after.legs.left.knee.smallest_deg;
  for (const [key, value] of [
    ["knee_at_full_reach_deg.left", raw + 5],
    ["knee_at_full_reach_deg.right", raw + 5],
    ["torso_deg", 48],
  ] as const) {
    await measure(page, `look.${key}`).focus();
    await page.keyboard.type(String(Math.round(value)));
    await page.keyboard.press("Enter");
    await expect(page.locator("table", { hasText: "Foreseen against seen" })).toContainText(String(Math.round(value)));
  }
  await page.getByLabel("Knee path, left").selectOption({ label: "In while pushing" });
  await page.getByLabel("Pelvis").selectOption({ label: "Rocks from side to side" });
  await page.getByRole("button", { name: "Fit the model to what was seen" }).focus();
  await page.keyboard.press("Enter");
  await expect(page.getByRole("heading", { name: "The model, fitted to what was seen" })).toBeVisible();
  const shank = page.locator("tr", { hasText: "Shank, left" });
  await expect(shank).toContainText("%");
  await expect(page.locator("tr", { hasText: "Ankle seen larger by" })).toContainText("hardly anything");
  const fitted = (await sessionOf(page, request)).now.after.legs.left.knee.smallest_deg;
  expect(Math.abs(fitted - raw - 5)).toBeLessThan(2.5);
  await page.getByRole("button", { name: "Switch off" }).focus();
  await page.keyboard.press("Enter");
  await expect(page.getByText("Switched off")).toBeVisible();
  expect((await sessionOf(page, request)).now.after.legs.left.knee.smallest_deg).toBeCloseTo(raw, 6);
  await page.getByRole("button", { name: "Fit anew" }).focus();
  await page.keyboard.press("Enter");
  await expect(shank).toBeVisible();
  await away(page);
  await page.keyboard.press("c");
  await settled(page);
  await expect(page.locator(".board")).toBeVisible();
  // The limit stands against the demand of the fitted position.
  await station(page, "Body");
  await expect(page.locator(".limits tr", { hasText: "Hip, left" })).toContainText("96°");
});

test("a red flag stops the way until a reason is written, and it lands on the hand-out", async ({ page, request }) => {
  await newRider(page, IDA);
  await newBike(page, "Ferry Runner", FERRY_RUNNER);
  await page.getByLabel("Numbness that stays after the ride").focus();
  await page.keyboard.press(" ");
  await expect(page.getByText("Stop: do not fit today")).toBeVisible();
  await expect(page.getByText("A nerve that stays numb is being harmed", { exact: false })).toBeVisible();
  await expect(page.locator(".way").getByRole("button", { name: "Body" })).toBeDisabled();
  await away(page);
  await page.keyboard.press("l");
  await expect(page.getByText("Stopped by a red flag", { exact: false })).toBeVisible();
  expect((await sessionOf(page, request)).session.station).toBe("intake");
  await page.reload();
  await expect(page.getByText("Stop: do not fit today")).toBeVisible();

  const reason = page.getByLabel(/Going on all the same/);
  await reason.focus();
  await page.keyboard.type("Fine");
  await page.getByRole("button", { name: "Go on for this reason" }).click();
  await expect(page.getByText("Write the reason so that the next reader understands it")).toBeVisible();
  await reason.fill("Her clinician wants the saddle seen to first");
  await page.getByRole("button", { name: "Go on for this reason" }).click();
  await expect(page.getByText("The fit goes on for a written reason")).toBeVisible();
  await away(page);
  await closeFound(page);
  await page.goto(`${page.url()}/hand-out`);
  await expect(page.getByText("Her clinician wants the saddle seen to first", { exact: false })).toBeVisible();
});

test("doubtful is questioned, nonsense refused", async ({ page, request }) => {
  await newRider(page, { ...IDA, stature: "1900", inseam: "700" });
  await newBike(page, "Ferry Runner", FERRY_RUNNER);
  await walkTo(page, "Body");
  await expect(page.getByText("700 mm is 202.5 mm under what the rest of the body suggests")).toBeVisible();
  await measure(page, "inseam_mm").fill("70,2 cm");
  await measure(page, "inseam_mm").press("Enter");
  await expect(page.getByText("under what the rest of the body suggests")).toHaveCount(0);
  for (const [typed, said] of [
    ["thirty", "“thirty” is not a number: type it like 845, 84,5 cm or 33 in"],
    ["30 kg", "not in a unit of this field"],
    ["45", "give 300 to 800 mm, or write 45 cm"],
  ] as const) {
    await measure(page, "trunk_mm").fill(typed);
    await measure(page, "trunk_mm").press("Enter");
    await expect(page.locator(".number-error")).toContainText(said);
    await expect(measure(page, "trunk_mm")).toHaveValue(typed);
  }
  expect((await sessionOf(page, request)).input.rider.body.trunk_mm ?? null).toBeNull();
});

test("what is being typed survives a reload at every station", async ({ page }) => {
  await newRider(page, IDA);
  await newBike(page, "Ferry Runner", FERRY_RUNNER);
  await page.getByLabel("Kind of riding").fill("Levees on Sun");
  await saved(page);
  await page.reload();
  await expect(page.getByLabel("Kind of riding")).toHaveValue("Levees on Sun");
  await page.getByLabel("Kind of riding").press("Enter");
  await away(page);

  await walkTo(page, "Body");
  await measure(page, "trunk_mm").fill("49");
  await saved(page);
  await page.reload();
  await expect(measure(page, "trunk_mm")).toHaveValue("49");
  await measure(page, "trunk_mm").press("Escape");
  await away(page);

  await walkTo(page, "Bike as found");
  await field(page, "saddle_height_mm").fill("71");
  await saved(page);
  await page.reload();
  await expect(field(page, "saddle_height_mm")).toHaveValue("71");
  await field(page, "saddle_height_mm").press("Escape");
  await away(page);

  await closeFound(page);
  await measure(page, "look.torso_deg").fill("4");
  await saved(page);
  await page.reload();
  await expect(measure(page, "look.torso_deg")).toHaveValue("4");
});

test("a rider with one leg 12 mm shorter has two legs from the body to the first look", async ({ page, request }) => {
  await newRider(page, IDA);
  await newBike(page, "Ferry Runner", FERRY_RUNNER);
  await walkTo(page, "Body");
  await measure(page, "shank_shorter_mm.left").fill("12");
  await measure(page, "shank_shorter_mm.left").press("Enter");
  await expect
    .poll(async () => {
      const { left, right } = (await sessionOf(page, request)).now.lengths.legs;
      return Math.round(right.shank.value_mm - left.shank.value_mm);
    })
    .toBe(12);
  await away(page);
  await closeFound(page);
  const row = page.locator(".look tr", { hasText: "Knee at full reach" });
  await expect(row.locator(".foreseen-cell > span")).toHaveCount(2);
  const { left, right } = (await sessionOf(page, request)).now.after.legs;
  expect(right.knee.smallest_deg).toBeGreaterThan(left.knee.smallest_deg + 3);
});

test("a gross error asks to be taken first", async ({ page }) => {
  await newRider(page, IDA);
  await newBike(page, "Ferry Runner", FERRY_RUNNER);
  await walkTo(page, "Bike as found");
  await field(page, "saddle_height_mm").fill("640");
  await field(page, "saddle_height_mm").press("Enter");
  await field(page, "setback_mm").fill("165");
  await field(page, "setback_mm").press("Enter");
  await page.getByRole("button", { name: "Close bike as found" }).click();
  const card = page.getByRole("region", { name: "Gross error" }).first();
  await expect(card).toContainText("mm too low");
  await expect(page.locator(".way")).toContainText("take first");
  await card.getByRole("button", { name: "Take it first" }).click();
  await expect(page.locator(".way [aria-current]")).toContainText("Saddle height");
  await expect(page.getByTestId("change-title")).toContainText("Saddle up");
});

test("readings of one angle add up, one far off is asked about, what fights is not fitted", async ({
  page,
  request,
}) => {
  await newRider(page, IDA);
  await newBike(page, "Ferry Runner", FERRY_RUNNER);
  await closeFound(page);
  await expect(page.getByRole("region", { name: "Worth reading next" })).toContainText("Knee at full reach");
  const left = measure(page, "look.knee_at_full_reach_deg.left");
  const read = async (value: string, mean: string) => {
    await left.fill(value);
    await left.press("Enter");
    await expect(left).toHaveValue(mean);
    await saved(page);
  };
  await read("30", "30");
  await read("32", "31");
  await read("34", "32");
  await away(page);
  const list = page.getByRole("table", { name: "Foreseen against seen, as it stood then" });
  await expect(list).toContainText("of 3");

  // One far off is asked about, and taken back.
  await read("72", "42");
  await expect(list).toContainText("72° stands far from the others");
  await list.getByRole("button", { name: "Take the last reading back: knee at full reach, left" }).click();
  await expect(left).toHaveValue("32");
  await expect(list).not.toContainText("stands far");

  // A knee that this body cannot have bent so is not fitted: which reading, and what would have to be otherwise.
  const right = measure(page, "look.knee_at_full_reach_deg.right");
  await right.focus();
  await page.keyboard.type("98");
  await page.keyboard.press("Enter");
  await saved(page);
  await away(page);
  await page.getByRole("button", { name: "Fit the model to what was seen" }).click();
  await expect(page.getByRole("alert")).toContainText("do not go together");
  expect((await sessionOf(page, request)).calibration ?? null).toBeNull();
});

test("of a leg that does not reach the board tells no angle", async ({ page, request }) => {
  await newRider(page, IDA);
  await newBike(page, "Ferry Runner", FERRY_RUNNER);
  await closeFound(page);
  await walkTo(page, "Saddle height");
  await field(page, "saddle_height_mm").fill("830");
  await field(page, "saddle_height_mm").press("Enter");
  await settled(page);
  await expect(page.locator(".board .gap").first()).toContainText("short");
  await expect(page.locator(".board .sector")).toHaveCount(0);
  await expect(page.locator(".rows th", { hasText: "Knee at full reach" })).toHaveCount(0);
  const { now } = await sessionOf(page, request);
  expect(now.rows.some((row: { output: string }) => row.output === "knee_at_full_reach_deg")).toBe(true);
});
