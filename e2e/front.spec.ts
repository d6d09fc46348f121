/** The front from a complaint to a kept trial that was checked again; every protocol of the hands, on every bar. */
import {
  away,
  AERO,
  expect,
  FERRY_RUNNER,
  IDA,
  keepTrial,
  newBike,
  newRider,
  sessionOf,
  settled,
  station,
  tapeAndClose,
  test,
  walkTo,
  withBar,
} from "./wedge";
import type { Page } from "@playwright/test";

const FLAT = { "Bar width": "760", "Bar rise": "20", Backsweep: "8", Upsweep: "5", "Bar roll": "0" };

const instruction = (page: Page) => page.locator(".protocol .instruction");
const over = (page: Page) => page.locator(".found");

/** Answers what a protocol asks, until it is over; reloads once on the way. */
async function answered(page: Page, answer: (asks: string, offered: string) => string) {
  const question = page.locator(".question");
  await expect(question).toBeVisible();
  /** Where the run stands, without its clock. */
  const stands = async () =>
    (await page.locator(".protocol :is(header, .instruction, .question, .run, .found)").allTextContents()).join(" ");
  for (let call = 0; call < 120; call += 1) {
    if (call === 4) await page.reload();
    await expect(question.or(over(page)).first()).toBeVisible();
    if ((await over(page).count()) > 0) return;
    const offered = (await page.locator("button.call").allTextContents()).join(" ");
    const asks = `${await instruction(page).textContent()} ${await question.textContent()}`;
    const key = answer(asks, offered);
    const before = await stands();
    const field = page.locator(".protocol input");
    if ((await field.count()) > 0) {
      await field.fill(key);
      await field.press("Enter");
    } else await page.keyboard.press(key);
    await expect.poll(stands).not.toBe(before);
  }
}

/** A hand's place on the way: "12 mm farther than they were". */
function off(asks: string, more: string): number {
  const at = /(\d+(?:\.\d)?) mm (\w+)/.exec(asks);
  return at ? Number(at[1]) * (at[2] === more ? 1 : -1) : 0;
}

/** A bracket of a rider who is right between two places. */
const bracket = (more: string, low: number, high: number) => (asks: string, offered: string) => {
  const at = off(asks, more);
  const much = /too (far|high)/i.test(offered);
  const again = /good again/i.test(offered);
  const second = again ? (much ? at <= high : at >= low) : much ? at > high : at < low;
  return second ? "2" : "1";
};

test("from a sore neck to a front that is kept and checked, by keyboard", async ({ page, request }) => {
  test.slow();
  await newRider(page, IDA);
  await newBike(page, "Ferry Runner", { ...FERRY_RUNNER, "Frame reach": "398", Stem: "110", Spacers: "25" });
  await page.getByRole("button", { name: /^Neck/ }).first().focus();
  await page.keyboard.press("Enter");
  await expect(page.getByRole("heading", { name: /^Neck/ })).toBeVisible();
  await away(page);
  await tapeAndClose(page, "712", "188");
  await station(page, "First look");
  await page.getByLabel("A sign that is there").selectOption("neck_tired|");
  await expect(page.getByRole("button", { name: /^Neck tires from looking up: there/ })).toBeVisible();
  await page.locator('[data-field="weight.left"]').fill("7");
  await page.keyboard.press("Enter");
  await expect(page.locator('[data-field="weight.left"]')).toHaveValue("7");

  // The cause, with the sign that speaks for it, and the protocol that settles it.
  await away(page);
  await walkTo(page, "Bars");
  await page.keyboard.press("c");
  const low = page.getByRole("row", { name: /Bars too low/ });
  await expect(low).toContainText("neck tires from looking up");
  const far = page.getByRole("row", { name: /Bars too far/ });
  await far.getByRole("button", { name: "Begin: bracket" }).focus();
  await page.keyboard.press("Enter");
  await expect(instruction(page)).toHaveText("Hands 5 mm farther than they were");
  await answered(page, bracket("farther", -30, 0));
  await expect(over(page)).toContainText("nearer than they were");
  await page.keyboard.press("Enter");
  await page.keyboard.press("Escape");
  await station(page, "Bars");

  // The finding leads; the parts that put the hands there; tried, worked off the card, kept.
  await expect(page.getByRole("region", { name: "Where the hands belong" })).toContainText("The rider’s bracket leads");
  await page.locator(".panel").focus();
  await page.keyboard.press("s");
  await settled(page);
  await expect(page.locator(".card.foreseen")).toContainText(/Hands \d+ nearer/);
  await page.keyboard.press("Enter");
  await expect(page.getByRole("heading", { name: /on the bench/ })).toBeVisible();
  await page.getByText(/^Front-end work: 0 of 10/).click();
  await page.getByLabel("Gap of 2 to 3 mm under the cap").check();
  await expect(page.getByText(/^Front-end work: 1 of 10/)).toBeVisible();
  await keepTrial(page);

  // What it made due again is on the way, with the amounts; X closes one after the other.
  const due = page.getByRole("region", { name: "Due again" });
  await expect(due).toContainText("Every place of the hands");
  await expect(page.getByRole("navigation", { name: "The way of the fit" })).toContainText("due again");
  await away(page);
  await page.keyboard.press("x");
  await expect(due).toContainText("checked, stays");
  await station(page, "Saddle height");
  await expect(due).toContainText(/further ahead, knee [+−]?\d/);
  await page.reload();
  await expect(due).toContainText(/further ahead/);
  for (let left = 4; left > 0; left -= 1) {
    await expect.poll(async () => (await sessionOf(page, request)).due_again?.due.length ?? 0).toBe(left);
    await page.keyboard.press("x");
  }
  await expect(page.getByRole("navigation", { name: "The way of the fit" })).not.toContainText("due again");
  const { trials } = await sessionOf(page, request);
  expect(trials[0]?.front_work.filter((step: { done: boolean }) => step.done)).toHaveLength(1);

  // The mechanic reads the work and the torque.
  await walkTo(page, "Bars");
  await page.keyboard.press("c");
  await page.getByLabel("Stem on the steerer").fill("5");
  await page.keyboard.press("Enter");
  await expect(page.getByLabel("Stem on the steerer")).toHaveValue("5");
  await expect(page.locator("header .state")).toHaveText("saved");
  await page.goto(page.url().replace(/\/?$/, "/hand-out"));
  const work = page.getByRole("region", { name: "Front-end work" });
  await expect(work).toContainText("Rebuild as drawn");
  await expect(work).not.toContainText("Gap of 2 to 3 mm");
  await expect(page.getByText("Stem on the steerer: 5 N·m, as printed on it")).toBeVisible();
});

for (const [name, kind, bar, parts, taken] of [
  ["drop bar", "race", "drop", FERRY_RUNNER, "Drops"],
  [
    "flat bar",
    "off_road",
    "flat",
    withBar(FLAT, { "Frame reach": "415", "Frame stack": "600", "Head angle": "66", "Front centre": "735" }),
    "Ends or crouched",
  ],
  ["pads", "time_trial", "aero", withBar(AERO, { "Seat tube angle": "78", "Frame stack": "500" }), "Base bar"],
] as const) {
  test(`every protocol of the hands is ridden on a ${name}, through a reload`, async ({ page, request }) => {
    test.slow();
    await newRider(page, IDA);
    await newBike(page, "Towpath", parts, [kind, bar]);
    await tapeAndClose(page, "705", kind === "time_trial" ? "120" : "170");
    await station(page, bar === "aero" ? "Pad reach" : "Bars");
    const titles: string[] = [];
    const run = async (key: string, answer: (asks: string, offered: string) => string) => {
      await expect(page.getByRole("group", { name: "Protocols" })).toBeVisible();
      await away(page);
      await page.keyboard.press(key);
      await answered(page, answer);
      titles.push((await instruction(page).textContent()) ?? "");
      await page.keyboard.press("Enter");
      await expect(page.locator("button.call").first()).toContainText(/Back to the board|Foresee/);
      await page.keyboard.press("Escape");
      await station(page, bar === "aero" ? "Pad reach" : "Bars");
    };
    await run("1", (asks) => (Math.abs(off(asks, "higher") - 15) < 3 ? "2" : off(asks, "higher") > 15 ? "1" : "3"));
    await run("4", (asks, offered) => {
      if (/better/i.test(offered)) return "2";
      return /quiet/i.test(offered) ? "1" : String(7 + Math.round(off(asks, "higher") / 10));
    });
    await run("5", (_, offered) => (offered.includes(taken) ? "3" : "2"));
    await run("6", () => "1");
    await run("7", (_, offered) => (/bent up/i.test(offered) ? "2" : "1"));
    expect(titles).toEqual([
      "Hands 15 mm higher",
      expect.stringMatching(/^Lightest|^No height is free/),
      `Mostly: ${taken.toLowerCase()}`,
      "Light at every effort",
      "Not in line yet",
    ]);
    const found = page.getByRole("region", { name: "Found in this fit" });
    await expect(found.getByRole("listitem")).toHaveCount(5);
    // The height standing still is where the bracket of height begins, once the reach is known.
    const { session } = await sessionOf(page, request);
    expect(session.state).toBe("open");
  });
}

test("a steerer too short and an empty box say what stands in the way", async ({ page }) => {
  await newRider(page, { ...IDA, stature: "1850", inseam: "880" });
  await newBike(page, "Ferry Runner", { ...FERRY_RUNNER, Spacers: "0" });
  await station(page, "Bike as found");
  await page.locator("summary", { hasText: "Frame" }).click();
  await page.getByLabel("Steerer length").fill("192");
  await page.keyboard.press("Enter");
  await tapeAndClose(page, "790", "215");
  await station(page, "Bars");
  const ends = page.getByRole("region", { name: "Front ends" });
  await expect(ends).toBeVisible();
  await page.keyboard.press("d");
  await page.getByTestId("hand-plane").waitFor();
  for (let up = 0; up < 11; up += 1) {
    await page.keyboard.press("ArrowUp");
    await page.keyboard.press("ArrowLeft");
  }
  await expect(ends).toContainText(/steerer|head tube|stem/i);
  await expect(ends.locator(".apart").first()).toBeVisible();
});

test("a crank comparison hides its lengths, heels stay level, both through a reload", async ({ page }) => {
  test.slow();
  await newRider(page, IDA);
  await newBike(page, "Ferry Runner", FERRY_RUNNER);
  await tapeAndClose(page, "716", "188");
  await station(page, "Cranks");
  await page.getByRole("button", { name: /^Crank comparison/ }).focus();
  await page.keyboard.press("Enter");
  await expect(page.locator(".question")).toContainText("Hold H to see the length");
  expect(await page.locator("main").textContent()).not.toContain("165");
  let rides = 0;
  await answered(page, (_, offered) => {
    if (/ride/i.test(offered) && !/easy|quiet|sits|free/i.test(offered)) {
      rides += 1;
      return "Enter";
    }
    return rides === 1 && /free/i.test(offered) ? "2" : "1";
  });
  await expect(over(page)).toContainText("foot");
  await page.keyboard.press("Enter");
  await page.keyboard.press("Escape");
  await station(page, "Saddle height");
  await page.getByRole("button", { name: /^Heel test/ }).focus();
  await page.keyboard.press("Enter");
  await answered(page, (asks) => (off(asks, "higher") > 4 ? "2" : "1"));
  await expect(over(page)).toContainText("straight leg on its heel");
});
