/** A whole fit by keyboard, on a rider and a bike typed in here. */
import {
  expect,
  FERRY_RUNNER,
  field,
  IDA,
  newBike,
  newRider,
  sessionOf,
  settled,
  station,
  tapeAndClose,
  test,
  walkTo,
} from "./wedge";

/** One decimal at most and a real minus sign, as the interface writes. */
const written = (value: number) => String(Math.round(value * 10) / 10).replace("-", "−");

test("a fit from the door to the hand-out, by keyboard", async ({ page, request }) => {
  await newRider(page, IDA);
  await newBike(page, "Ferry Runner", FERRY_RUNNER);
  await tapeAndClose(page, "712", "188");
  for (let i = 0; i < 2; i++) await page.keyboard.press("l");
  await expect(page.locator(".way [aria-current]")).toHaveText("Saddle height");

  // Stepping: the board, the row and the card take what the API answers.
  await field(page, "saddle_height_mm").focus();
  await page.keyboard.press("ArrowDown");
  await page.keyboard.press("Shift+ArrowDown");
  await expect(field(page, "saddle_height_mm")).toHaveValue("706");
  await expect(page.getByText("Saddle down 6", { exact: true })).toBeVisible();
  await settled(page);
  const { input } = await sessionOf(page, request);
  const answer = await request.post("/api/foresee", {
    data: { ...input, changes: [{ quantity: "saddle_height_mm", to: 706 }] },
  });
  const foreseen = await answer.json();
  const knee = written(foreseen.after.legs.right.knee.smallest_deg);
  await expect(page.locator(".board text.value")).toContainText(`→ ${knee}°`);
  await expect(page.locator(".rows tr", { hasText: "Knee at full reach" })).toContainText(`${knee}°`);
  await expect(page.locator(".board .lines.foreseen circle")).toHaveCount(7);

  // Try, see, hear, keep.
  await page.keyboard.press("Enter");
  await expect(page.getByRole("heading", { name: "Trial 1, on the bench" })).toBeVisible();
  await page.getByLabel("Knee at full reach, seen").focus();
  await page.keyboard.type("34,5");
  await page.keyboard.press("Enter");
  await page.getByRole("button", { name: "Better" }).focus();
  await page.keyboard.press("Enter");
  await expect(page.getByRole("button", { name: "✓ Better" })).toHaveAttribute("aria-pressed", "true");
  await page.getByLabel("What the rider said").focus();
  await page.keyboard.type("Calmer on the left");
  await page.getByLabel("What the rider said").blur();
  await page.keyboard.press("k");
  await expect(page.getByRole("heading", { name: "Your change" })).toBeVisible();
  await expect(page.getByLabel("Trials").getByText("1 Saddle down 6")).toBeVisible();

  // A second one is put back: the bench has the bike from before.
  await page.keyboard.press("l");
  await page.keyboard.press("l");
  await expect(page.locator(".way [aria-current]")).toHaveText("Bars");
  await field(page, "stem_mm").focus();
  await page.keyboard.press("ArrowDown");
  await settled(page);
  await page.keyboard.press("Enter");
  await expect(page.getByRole("heading", { name: "Trial 2, on the bench" })).toBeVisible();
  await page.keyboard.press("z");
  await expect(field(page, "stem_mm")).toHaveValue("90");
  await expect(page.getByLabel("Trials").getByText("put back")).toBeVisible();

  // Reloaded, everything is there.
  await page.reload();
  await expect(page.getByLabel("Trials").getByText("1 Saddle down 6")).toBeVisible();
  await expect(field(page, "saddle_height_mm")).toHaveValue("706");
  const record = await sessionOf(page, request);
  expect(record.trials.map((t: { outcome: string }) => t.outcome)).toEqual(["kept", "put_back"]);
  expect(record.trials[0].words).toBe("Calmer on the left");
  expect(record.trials[0].seen[0].value).toBe(34.5);

  // The hand-out shows it, and the finished fit is closed.
  await station(page, "Hand-out");
  await page.getByRole("link", { name: "Look at the sheet" }).click();
  const rider = page.getByRole("region", { name: "For the rider" });
  await expect(rider).toContainText("The saddle is 6 mm lower");
  await expect(rider.getByRole("img", { name: /saddle height, was 712: 706 mm/ })).toBeVisible();
  const height = page.getByRole("region", { name: "For the mechanic" }).getByRole("row", { name: /^Saddle height/ });
  await expect(height.first()).toContainText("706 mm");
  await expect(height.first()).toContainText("712 mm");
  const paper = await (
    await page.request.get(
      `${page.url().replace("/sessions", "/api/sessions").replace("hand-out", "handout.pdf")}?paper=letter`,
    )
  ).body();
  expect(paper.subarray(0, 5).toString()).toBe("%PDF-");
  await expect(rider).toContainText("Calmer on the left");
  await expect(page.getByText("seen 34.5°, foreseen")).toBeVisible();
  await expect(page.getByText("not medical advice")).toBeVisible();
  await page.goBack();
  await page.getByRole("button", { name: "Finish the fit" }).click();
  await expect(page.getByRole("heading", { name: "Finished" })).toBeVisible();
  await expect(field(page, "saddle_height_mm")).toHaveAttribute("readonly", "");
});

test("what is being typed and stepped survives a reload", async ({ page }) => {
  await newRider(page, IDA);
  await newBike(page, "Ferry Runner", FERRY_RUNNER);
  await walkTo(page, "Bike as found");
  await field(page, "saddle_height_mm").focus();
  await page.keyboard.type("71");
  await expect(page.getByRole("status")).toHaveText("saved");
  await page.reload();
  await expect(field(page, "saddle_height_mm")).toHaveValue("71");
  await field(page, "saddle_height_mm").press("Escape");
  await field(page, "saddle_height_mm").press("Escape");
  await page.keyboard.press("j");
  await tapeAndClose(page, "712", "188");

  await field(page, "crank_mm").focus();
  await page.keyboard.press("ArrowDown");
  await expect(page.getByText("Crank 167.5", { exact: true })).toBeVisible();
  // The compensating move is offered as one linked trial that lists each bolt.
  await page.getByRole("button", { name: /and saddle up 2/ }).click();
  await expect(page.getByText(/^Post up 2/)).toBeVisible();
  await expect(page.getByText("Crank 170 → 167.5 mm")).toBeVisible();
  await expect(page.getByRole("status")).toHaveText("saved");
  await page.reload();
  await expect(page.getByText("Crank 170 → 167.5 mm")).toBeVisible();
  await expect(page.getByText(/^Post up 2/)).toBeVisible();
  await page.keyboard.press("Escape");
  await expect(field(page, "crank_mm")).toHaveValue("170");
});

test("two windows on one fit: what does not touch is written again, what does is shown", async ({ page, context }) => {
  await newRider(page, IDA);
  await newBike(page, "Ferry Runner", FERRY_RUNNER);
  await station(page, "Bike as found");
  const other = await context.newPage();
  await other.goto(page.url());
  await field(other, "setback_mm").fill("188");
  await field(other, "setback_mm").press("Enter");
  await expect(other.getByText("Setback is not taped yet")).toHaveCount(0);

  await field(page, "saddle_height_mm").fill("712");
  await field(page, "saddle_height_mm").press("Enter");
  await expect(page.getByRole("button", { name: "Close bike as found" })).toBeEnabled();
  await expect(field(page, "setback_mm")).toHaveValue("188");

  await field(other, "saddle_height_mm").fill("720");
  await field(other, "saddle_height_mm").press("Enter");
  await expect(other.getByText("Another window wrote 712; you typed 720")).toBeVisible();
  await expect(field(other, "saddle_height_mm")).toHaveValue("720");
});
