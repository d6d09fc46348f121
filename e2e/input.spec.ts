/** Nonsense is answered beside its field, and nothing is lost. */
import {
  expect,
  FERRY_RUNNER,
  field,
  IDA,
  newBike,
  newRider,
  sessionOf,
  settled,
  tapeAndClose,
  test,
  walkTo,
} from "./wedge";

test("nonsense at the door", async ({ page }) => {
  await page.goto("/");
  await expect(page.getByText("Nobody is on record yet")).toBeVisible();
  await page.getByLabel("Stature, mm, barefoot").fill("thirty");
  await page.getByRole("button", { name: "Write down" }).click();
  // How to type it, what it can be, and what else is wrong, all at once.
  await expect(page.getByText(/“thirty” is not a number: type it like .*; give 1200 to 2300 mm/)).toBeVisible();
  await expect(page.getByText("A name is needed")).toBeVisible();
  await expect(page.getByLabel("Stature, mm, barefoot")).toHaveAttribute("aria-invalid", "true");
  await page.getByLabel("Stature, mm, barefoot").fill("178");
  await page.getByRole("button", { name: "Write down" }).click();
  await expect(page.getByText("give 1200 to 2300 mm")).toBeVisible();
  await page.getByLabel("Stature, mm, barefoot").fill("1900");
  await page.getByLabel("Inseam, mm, barefoot").fill("600");
  await page.getByLabel("Name", { exact: true }).fill("x".repeat(120));
  await page.getByRole("button", { name: "Write down" }).click();
  await expect(page.getByText("look for 634 to 1140 mm")).toBeVisible();
  await page.getByLabel("Inseam, mm, barefoot").fill("");
  await page.getByRole("button", { name: "Write down" }).click();
  await expect(page.getByRole("heading", { name: "x".repeat(120) })).toBeVisible();
  // A name of any length stays on the page.
  const wide = await page.evaluate(() => document.documentElement.scrollWidth > window.innerWidth);
  expect(wide).toBe(false);

  await page.getByRole("button", { name: "Write down and start the fit" }).click();
  await expect(page.getByText("Type a number").first()).toBeVisible();
});

test("nonsense on the board", async ({ page, request }) => {
  await newRider(page, IDA);
  await newBike(page, "Ferry Runner", FERRY_RUNNER);
  await walkTo(page, "Bike as found");
  const height = field(page, "saddle_height_mm");
  for (const [typed, said] of [
    ["seventy", "“seventy” is not a number: type it like 845, 84,5 cm or 33 in; give 350 to 1050 mm"],
    ["71.2", "give 350 to 1050 mm"],
  ] as const) {
    await height.fill(typed);
    await height.press("Enter");
    await expect(page.locator(".board .number-error")).toContainText(said);
    await expect(height).toHaveValue(typed);
  }
  expect((await sessionOf(page, request)).session.readings).toEqual([]);
  await height.press("Escape");
  await height.press("Escape");
  await page.keyboard.press("j");
  await tapeAndClose(page, "712", "188");

  // A bike nobody can reach is an answer: said, drawn, and nothing breaks.
  await height.focus();
  await height.fill("900");
  await height.press("Enter");
  await settled(page);
  await expect(page.getByText(/leg is \d+(\.\d)? mm short of the pedal at crank/).first()).toBeVisible();
  await height.fill("2000");
  await height.press("Enter");
  await expect(page.getByText("give 350 to 1050 mm").first()).toBeVisible();
});

test("a broken file changes nothing and names the path", async ({ page }) => {
  await page.goto("/");
  await page.getByLabel("Take in riders from a file").setInputFiles({
    name: "broken.json",
    mimeType: "application/json",
    buffer: Buffer.from('{"format":"wedge.rider/1","rider":{"id":7}}'),
  });
  await expect(page.getByRole("alert")).toContainText("Nothing was imported. rider.id:");
  await expect(page.getByText("Nobody is on record yet")).toBeVisible();
});
