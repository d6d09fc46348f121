/** The studio chooses once: the walk, the conventions, the frames; and two windows on one intake. */
import { expect, FERRY_RUNNER, field, IDA, newBike, newRider, sessionOf, test, walkTo } from "./wedge";

const CSV = [
  "name;kind;frame_reach_mm;frame_stack_mm;head_angle_deg;head_tube_mm;seat_angle_deg;seat_tube_mm;chainstay_mm;bb_drop_mm;front_centre_mm;wheel_radius_mm;lower_stack_mm",
  "Mill Race 54;road;385,5;565;73;150;73,5;520;412;70;592;340;5",
].join("\n");

test("the walk and the conventions are chosen once, and a new bike's fit follows", async ({ page, request }) => {
  await page.goto("/studio");
  await page.getByRole("button", { name: "Setback earlier" }).click();
  await expect(page.getByRole("status")).toHaveText("Saved");
  await page.getByRole("button", { name: "Setback earlier" }).click();
  await expect(page.locator("ol li").first()).toContainText("Setback");
  await page
    .getByLabel("Saddle height", { exact: true })
    .selectOption({ label: "BB to saddle top along the seat tube" });
  await expect(page.getByRole("status")).toHaveText("Saved");

  await newRider(page, IDA);
  await newBike(page, "Ferry Runner", FERRY_RUNNER);
  await walkTo(page, "Bike as found");
  const view = await sessionOf(page, request);
  expect(view.session.conventions.saddle_height).toBe("saddle_height_seat_tube");
  expect(view.walk[0]).toBe("setback_mm");
  await field(page, "setback_mm").focus();
  await page.keyboard.press("Tab");
  await expect(field(page, "saddle_height_mm")).toBeFocused();
});

test("frames come in as CSV, fill a new bike, and a broken file changes nothing", async ({ page }) => {
  await page.goto("/studio");
  const file = page.getByLabel("A CSV of frames");
  const take = (text: string) => file.setInputFiles({ name: "f.csv", mimeType: "text/csv", buffer: Buffer.from(text) });
  await take(CSV.replace("565", "thirty"));
  await expect(page.getByText("line 2, frame_stack_mm: “thirty” is not a number")).toBeVisible();
  await expect(page.getByText("No frame yet", { exact: false })).toBeVisible();
  await take(CSV);
  await expect(page.locator("tr", { hasText: "Mill Race 54" })).toContainText("385.5");
  await take(CSV);
  await expect(page.getByText("“Mill Race 54” is in the library already", { exact: false })).toBeVisible();

  await newRider(page, IDA);
  await page.getByLabel("A frame from the library").selectOption({ label: "Mill Race 54" });
  await expect(page.getByLabel("Frame stack, mm")).toHaveValue("565");

  // On no chart: reach and stack from the tape, marked so.
  await page.getByText("On no chart?", { exact: false }).click();
  await page.getByRole("button", { name: "Compute" }).click();
  await expect(page.getByText("Tape it: vertical", { exact: true })).toBeVisible();
  await page.getByLabel("Ground to BB, mm").fill("27 cm");
  await page.getByLabel("Ground to head tube, mm").fill("835");
  await page.getByLabel("BB to head tube, mm").fill("683,7");
  await page.getByRole("button", { name: "Compute" }).click();
  await expect(page.getByText("Reach 385 ± 5.5, stack 565 ± 2.8", { exact: false })).toBeVisible();
  await expect(page.getByLabel("Frame reach, mm")).toHaveValue("385");
  await expect(page.getByText("computed from the tape")).toHaveCount(2);
  await page.getByLabel("Frame reach, mm").fill("386");
  await expect(page.getByText("computed from the tape")).toHaveCount(0);
});

test("two windows on one intake: other answers are kept, the same one is shown", async ({ page, context, request }) => {
  await newRider(page, IDA);
  await newBike(page, "Ferry Runner", FERRY_RUNNER);
  const other = await context.newPage();
  await other.goto(page.url());
  await expect(other.getByRole("heading", { name: "Where it hurts" })).toBeVisible();
  await page.getByLabel("Kind of riding").fill("Levees");
  await page.getByLabel("Kind of riding").press("Enter");
  await expect.poll(async () => (await sessionOf(page, request)).session.intake.riding).toBe("Levees");
  await other.getByLabel("Work").fill("Baker");
  await other.getByLabel("Work").press("Enter");
  await expect.poll(async () => (await sessionOf(page, request)).session.intake.work).toBe("Baker");
  expect((await sessionOf(page, request)).session.intake.riding).toBe("Levees");
});
