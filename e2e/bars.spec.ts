/** Bars: where the hands belong, the plane they can be in, and the parts that put them there. */
import { readFileSync } from "node:fs";
import {
  AERO,
  expect,
  FERRY_RUNNER,
  field,
  IDA,
  keepTrial,
  newBike,
  newRider,
  sessionOf,
  settled,
  station,
  tapeAndClose,
  test,
  withBar,
} from "./wedge";

test("from the leading school to a front end that is tried and kept, by keyboard", async ({ page, request }) => {
  await newRider(page, IDA);
  await newBike(page, "Ferry Runner", { ...FERRY_RUNNER, "Frame reach": "425", Stem: "130", Spacers: "0" });
  await tapeAndClose(page, "712", "188");
  await station(page, "Bars");
  await expect(page.getByRole("region", { name: "Where the hands belong" })).toContainText("nearer");
  await expect(page.getByText(/Along the arc 10 mm higher goes with/)).toBeVisible();
  await expect(page.getByRole("region", { name: "Every place of the hands" }).getByRole("row")).toHaveCount(4);
  const ends = page.getByRole("region", { name: "Front ends" });
  await expect(ends.locator("li").first()).toContainText(/hands \d+ nearer/);

  // Nothing on hand yet: the stem is to order. The box gets one, and it is on hand.
  await expect(ends).toContainText("To order: Stem");
  await page.locator(".panel").focus();
  await page.keyboard.press("s");
  await settled(page);
  await expect(page.getByTestId("change-title")).toContainText(/Stem|Spacers|Hood|Bar/);
  await page.keyboard.press("Enter");
  await expect(page.getByText("on the bench").first()).toBeVisible();
  await keepTrial(page);
  await expect(page.getByText(": kept.")).toBeVisible();
  const { trials } = await sessionOf(page, request);
  expect(trials).toHaveLength(1);
});

test("the hand plane is walked by arrows, the board follows, a reload keeps the wish", async ({ page }) => {
  await newRider(page, IDA);
  await newBike(page, "Ferry Runner", FERRY_RUNNER);
  await tapeAndClose(page, "712", "188");
  await station(page, "Bars");
  await expect(page.getByRole("region", { name: "Where the hands belong" })).toBeVisible();
  await page.keyboard.press("d");
  const plane = page.getByTestId("hand-plane");
  const start = Number(await plane.getAttribute("data-x"));
  const stem = await field(page, "bb_to_hand_mm").inputValue();
  await page.keyboard.press("ArrowLeft");
  await page.keyboard.press("ArrowLeft");
  await page.keyboard.press("Shift+ArrowRight");
  await expect.poll(async () => Number(await plane.getAttribute("data-x"))).toBeCloseTo(start - 9, 0);
  await expect(page.getByTestId("change-title")).toBeVisible();
  await settled(page);
  await expect(field(page, "bb_to_hand_mm")).not.toHaveValue(stem);
  // Closed and opened again, it stands where it stood.
  await page.keyboard.press("d");
  await expect(plane).toBeHidden();
  await page.keyboard.press("d");
  await expect(plane).toBeVisible();
  await page.reload();
  await expect(page.getByText(/Aimed at/)).toBeVisible();
});

for (const [name, kind, bar, parts] of [
  ["aero", "time_trial", "aero", AERO],
  ["flat", "off_road", "flat", { "Bar width": "760", "Bar rise": "20", Backsweep: "8", Upsweep: "5", "Bar roll": "0" }],
] as const) {
  test(`a ${name} bar has its schools, its plane and its front ends`, async ({ page }) => {
    await newRider(page, IDA);
    await newBike(page, "Towpath", withBar(parts), [kind, bar]);
    await tapeAndClose(page, "712", "188");
    await station(page, bar === "aero" ? "Pad reach" : "Bars");
    await expect(page.getByRole("region", { name: "Where the hands belong" })).toBeVisible();
    await page.keyboard.press("d");
    await page.getByTestId("hand-plane").waitFor();
    await page.keyboard.press("ArrowUp");
    await expect(page.getByRole("region", { name: "Front ends" })).toContainText(/hands|way/);
  });
}

test("the parts box goes out and comes in as a file, bad rows are named, nothing is half read", async ({ page }) => {
  await page.goto("/studio");
  await page.getByText("Add a part").click();
  await page.getByLabel("Stem, mm").fill("9000");
  await page.getByLabel("Stem angle, °").fill("-6");
  await page.getByRole("button", { name: "Put it in the box" }).click();
  await expect(page.getByText(/outside what can be right: give 0 to 180 mm/)).toBeVisible();
  await page.getByLabel("Stem, mm").fill("90");
  await page.getByRole("button", { name: "Put it in the box" }).click();
  await expect(page.getByRole("row").filter({ hasText: "stem 90 mm" })).toHaveCount(1);

  const saved = page.waitForEvent("download");
  await page.getByRole("region", { name: "Parts box" }).getByRole("link", { name: "Save as CSV" }).click();
  const file = await (await saved).path();
  const text = readFileSync(file, "utf8");
  expect(text.split("\n")[0]).toMatch(/^kind,name,on_hand,flips,torque_nm,/);
  const box = page.getByLabel("A CSV of parts");
  const csv = (body: string) => ({ name: "parts.csv", mimeType: "text/csv", buffer: Buffer.from(body) });
  await box.setInputFiles(csv("kind,on_hand,stem_mm,stem_angle_deg\nstem,2,80,-6\nsteem,1,70,-6\nstem,x,70,-6\n"));
  await expect(page.getByRole("alert")).toContainText("line 3, kind");
  await expect(page.getByRole("alert")).toContainText("line 4, on_hand");
  await expect(page.getByRole("row").filter({ hasText: "stem 90 mm" })).toHaveCount(1);
  await box.setInputFiles(csv("kind,on_hand,stem_mm,stem_angle_deg\nstem,2,80,-6\n"));
  await expect(page.getByRole("row").filter({ hasText: "stem 80 mm" })).toHaveCount(1);
  await expect(page.getByRole("row").filter({ hasText: "stem 90 mm" })).toHaveCount(0);
});

test("a bracket is called by keys, outlives a reload, and leads the schools", async ({ page }) => {
  await newRider(page, IDA);
  await newBike(page, "Ferry Runner", FERRY_RUNNER);
  await tapeAndClose(page, "712", "188");
  await station(page, "Bars");
  await expect(page.getByRole("button", { name: /^Bracket of reach/ })).toBeVisible();
  await page.keyboard.press("2");
  const instruction = page.locator(".protocol .instruction");
  await expect(instruction).toHaveText("Hands 5 mm farther than they were");
  // Good as far as 10 mm farther and 15 mm nearer than they were; good again a step inside.
  const calls = page.locator("button.call");
  for (let call = 0; call < 80; call += 1) {
    if (call === 5) await page.reload();
    await expect(instruction.or(page.getByText(/The middle is/)).first()).toBeVisible();
    const asks = (await instruction.textContent()) ?? "";
    if (!asks.startsWith("Hands")) break;
    const at = /(\d+) mm (farther|nearer)/.exec(asks);
    const off = at ? Number(at[1]) * (at[2] === "farther" ? 1 : -1) : 0;
    const offered = (await calls.allTextContents()).join(" ").toLowerCase();
    const far = offered.includes("too far");
    const second = offered.includes("good again") ? (far ? off <= 5 : off >= -10) : far ? off > 10 : off < -15;
    await page.keyboard.press(second ? "2" : "1");
    await expect(page.getByText(asks, { exact: true })).toHaveCount(0);
  }
  await expect(page.getByText(/The middle is .* nearer than they were: 3 passes/)).toBeVisible();
  await page.keyboard.press("Enter");
  await expect(page.locator("button.call")).toContainText("Back to the board");
  await page.keyboard.press("Enter");
  await expect(page.getByRole("region", { name: "Where the hands belong" })).toContainText("The rider’s bracket leads");
});
