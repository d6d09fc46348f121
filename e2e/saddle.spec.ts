/** From what hurts to a kept saddle by keyboard; each protocol reloaded in its middle; the map walked. */
import type { APIRequestContext, Page } from "@playwright/test";
import {
  away,
  expect,
  EXTREMES,
  FERRY_RUNNER,
  field,
  IDA,
  idOf,
  newBike,
  newRider,
  sessionOf,
  settled,
  station,
  tapeAndClose,
  test,
  walkTo,
  keepTrial,
} from "./wedge";

const instruction = (page: Page) => page.getByTestId("instruction");
const current = (page: Page) => page.locator(".run li.now");

/** What is asked and where in the run, read in one go. */
const asked = (page: Page) =>
  page.evaluate(() => [
    document.querySelector(".question")?.getAttribute("aria-label") ?? "over",
    document.querySelector("header")?.textContent,
  ]);

/** Calls with single keys, each once the one before it is on record. */
async function call(page: Page, keys: string[]) {
  for (const key of keys) {
    await expect(page.locator(".question")).toBeVisible();
    const before = await asked(page);
    await page.keyboard.press(key);
    await expect.poll(() => asked(page)).not.toEqual(before);
  }
}

/** Reads a number off with the keyboard. */
async function readOff(page: Page, text: string) {
  const asked = await page.locator(".question input").getAttribute("data-field");
  await expect(page.locator(".question input")).toBeFocused();
  await page.keyboard.type(text);
  await page.keyboard.press("Enter");
  await expect(page.locator(`.question [data-field="${asked ?? ""}"]`)).toHaveCount(0);
}

/** The page anew, and the run where it was. */
async function reload(page: Page) {
  const [said, question] = [await instruction(page).textContent(), await page.locator(".question h2").textContent()];
  await page.reload();
  await expect(instruction(page)).toHaveText(said ?? "");
  await expect(page.locator(".question h2")).toHaveText(question ?? "");
}

/** Keeps what was found as evidence and goes back to the board. */
async function keepAndLeave(page: Page) {
  await page.keyboard.press("Enter");
  await expect(page.getByRole("button", { name: /^Back to the board/ }).first()).not.toContainText("it waits");
  await page.keyboard.press("Escape");
  await expect(page.getByRole("group", { name: "Protocols" })).toBeVisible();
}

async function toSaddle(page: Page, name: string) {
  await newRider(page, IDA);
  await newBike(page, "Ferry Runner", FERRY_RUNNER);
  await tapeAndClose(page, "716", "188");
  await walkTo(page, name);
  await expect(page.getByRole("group", { name: "Protocols" })).toBeVisible();
}

async function saddleOf(page: Page, request: APIRequestContext) {
  const id = idOf(page);
  const answer = await request.get(`/api/sessions/${id}/saddle`);
  return answer.json();
}

test("from a complaint to a kept saddle, by keyboard", async ({ page, request }) => {
  test.slow();
  await newRider(page, IDA);
  await newBike(page, "Ferry Runner", FERRY_RUNNER);
  const knee = page.getByRole("button", { name: "Behind the knee, left" });
  await knee.focus();
  await page.keyboard.press("Enter");
  await expect(page.getByRole("heading", { name: "Behind the knee" })).toBeVisible();
  await away(page);
  // What may cause it, before anything is measured: a table with the test that would settle it.
  await page.keyboard.press("c");
  await expect(page.getByRole("rowheader", { name: /Saddle too high/ })).toBeVisible();
  await expect(page.getByRole("row", { name: /Saddle too high/ })).toContainText("Creep up");
  await page.keyboard.press("c");
  await tapeAndClose(page, "716", "188");
  await walkTo(page, "Saddle height");

  // Every school stands on one scale; the test that would settle it is begun beside its cause.
  const scale = page.getByRole("region", { name: "Saddle height", exact: true });
  await expect(scale.getByRole("listitem")).toHaveCount(7);
  await expect(scale).toContainText("Creep up first");
  await page.keyboard.press("c");
  const cause = page.getByRole("row", { name: /Saddle too high/ });
  await cause.getByRole("button", { name: "Begin: creep up" }).focus();
  await page.keyboard.press("Enter");
  await expect(instruction(page)).toContainText("Saddle to");
  const heights: number[] = [];
  const threshold = 709;
  while ((await page.locator(".question").count()) > 0) {
    const height = Number(await current(page).locator("b").textContent());
    heights.push(height);
    const choppy = height > threshold;
    await call(page, ["Enter", choppy ? "2" : "0", choppy ? "1" : "0", "0"]);
    if (heights.length === 2) await reload(page);
  }
  expect(heights.length).toBeGreaterThan(5);
  await expect(instruction(page)).toContainText("Saddle to 70");
  await expect(page.locator(".found")).toContainText("the left leg alone");
  // Kept as evidence, then straight on the board with what it changes.
  await page.keyboard.press("Enter");
  await expect(page.getByRole("button", { name: /^Foresee: Saddle down/ })).toBeVisible();
  await page.keyboard.press("Enter");
  await settled(page);
  await expect(page.getByTestId("change-title")).toContainText("Saddle down 1");
  await expect(page.getByLabel("Why", { exact: true })).toHaveValue(/^Creep up: Saddle to 70/);
  await away(page);
  await page.keyboard.press("Enter");
  await expect(page.getByRole("heading", { name: /on the bench/ })).toBeVisible();
  await keepTrial(page);
  await expect(page.getByRole("region", { name: "Trials" })).toContainText("kept");
  const session = await sessionOf(page, request);
  const height = session.input.setup.saddle.saddle_height_mm as number;
  expect(Math.abs(height + 4 - threshold)).toBeLessThan(3);
  // One school is open, the leading one until another is picked.
  await expect(scale.getByRole("button", { name: /^Knee angle, moving leads/ })).toHaveAttribute(
    "aria-expanded",
    "true",
  );
  const crept = scale.getByRole("button", { name: /^Creep up/ });
  await crept.focus();
  await page.keyboard.press("Enter");
  await expect(crept).toHaveAttribute("aria-expanded", "true");
  await expect(scale).toContainText("less 3 to 5 mm");
  await expect(page.getByRole("region", { name: "Found in this fit" })).toContainText("Creep up");
});

test("a call is taken back, a run waits, and ending it twice asks", async ({ page }) => {
  test.slow();
  await toSaddle(page, "Saddle height");
  await page.keyboard.press("1");
  await call(page, ["Enter", "3"]);
  await page.keyboard.press("Backspace");
  await expect(page.locator(".question h2")).toContainText("Left leg");
  await expect(page.getByRole("timer")).toContainText(/0:5\d|1:00/);
  await page.keyboard.press("Escape");
  await expect(page.getByRole("heading", { name: "A protocol is going on" })).toBeVisible();
  await expect(page.getByRole("group", { name: "Protocols" })).toHaveCount(0);
  await page.keyboard.press("p");
  await expect(page.locator(".question h2")).toContainText("Left leg");
  await page.keyboard.press("e");
  await expect(page.getByRole("button", { name: "Press again to end it here" })).toBeVisible();
  await page.keyboard.press("e");
  await expect(instruction(page)).toHaveText("Ended early");
  await page.keyboard.press("Enter");
  await expect(page.getByRole("group", { name: "Protocols" })).toBeVisible();
});

test("a rail sweep and a balance test are gone on with after a reload", async ({ page, request }) => {
  test.slow();
  await toSaddle(page, "Setback & tilt");
  await expect(page.getByRole("region", { name: "Before setback" })).toContainText("not settled");
  await page.keyboard.press("1");
  await call(page, ["Enter", "2"]);
  await reload(page);
  await call(page, ["1", "2"]);
  await expect(instruction(page)).toHaveText("Saddle 5 mm back");
  await call(page, ["Enter", "1", "1", "2"]);
  await expect(instruction(page)).toHaveText("In balance 5 mm back");
  await expect(page.getByRole("button", { name: /^Keep it as evidence/ })).toBeVisible();
  await keepAndLeave(page);
  const schools = page.getByRole("region", { name: "Setback", exact: true });
  await expect(schools).toContainText("≥ 193");
  await page.keyboard.press("2");
  await expect(instruction(page)).toContainText("mm back");
  await call(page, ["Enter", "0", "0"]);
  await reload(page);
  await call(page, ["3", "3", "Enter", "0", "1", "2", "3", "Enter", "2", "2", "2", "3", "Enter", "3", "3", "1", "2"]);
  // Light, then heavy twice: swept; both places around it come once more.
  await expect(page.locator("header")).toContainText("Once more");
  await call(page, ["Enter", "2", "2", "2", "3", "Enter", "0", "1", "2", "3"]);
  await expect(page.locator(".found")).toContainText("most forward place before the hands grow heavy");
  await keepAndLeave(page);
  const saddle = await saddleOf(page, request);
  expect(saddle.findings.map((f: { finding: { protocol: string } }) => f.finding.protocol)).toEqual([
    "rail_sweep",
    "balance",
  ]);
});

test("plumb line and tilt read numbers off, nonsense beside the field, typed text surviving a reload", async ({
  page,
}) => {
  test.slow();
  await toSaddle(page, "Setback & tilt");
  await page.keyboard.press("3");
  await call(page, ["Enter"]);
  await page.keyboard.type("far");
  await page.keyboard.press("Enter");
  await expect(page.getByRole("alert")).toBeVisible();
  await page.locator(".question input").fill("");
  await page.keyboard.type("900");
  await page.keyboard.press("Enter");
  await expect(page.getByRole("alert").first()).toContainText("−150 to 150 mm");
  await page.locator(".question input").fill("4");
  await page.reload();
  await expect(page.locator(".question input")).toHaveValue("4");
  await page.locator(".question input").press("Enter");
  await expect(page.locator(".question h2")).toContainText("Drop 2 of 3");
  await readOff(page, "50");
  // A slip: in an empty field the key takes the last call back.
  await expect(page.locator(".question h2")).toContainText("Drop 3 of 3");
  await page.keyboard.press("Backspace");
  await expect(page.locator(".question h2")).toContainText("Drop 2 of 3");
  for (const drop of ["5", "6"]) await readOff(page, drop);
  await call(page, ["Enter"]);
  for (const drop of ["-8", "-7", "-9"]) await readOff(page, drop);
  await expect(instruction(page)).toContainText("1.5 mm behind the axle");
  await expect(page.locator(".found")).toContainText("13 mm apart");
  await keepAndLeave(page);
  // What was measured enters its school, left and right apart.
  const plumb = page.getByRole("region", { name: "Setback", exact: true }).getByRole("button", { name: /^Plumb line/ });
  await plumb.focus();
  await page.keyboard.press("Enter");
  await expect(page.getByText(/as the line measured it; left .*, right .*: it can suit only one/)).toBeVisible();
  // And the model is fitted to it where it stands off.
  const fit = page.getByRole("button", { name: "Fit the model to it" });
  await expect(page.locator(".line-to-fit")).toContainText(/The line hung \d+ mm further/);
  await fit.press("Enter");
  await expect(fit).toBeHidden();
  await page.keyboard.press("4");
  await readOff(page, "1");
  await expect(instruction(page)).toHaveText("Mark the rails");
  await reload(page);
  await call(page, ["Enter"]);
  await readOff(page, "0");
  await readOff(page, "187");
  await readOff(page, "715.5");
  await expect(instruction(page)).toHaveText("Tilt 0°");
});

test("a blind comparison shows its setting only while a key is held", async ({ page }) => {
  test.slow();
  await toSaddle(page, "Saddle height");
  await page.keyboard.press("3");
  await expect(instruction(page)).toHaveText("Ride A: as it stands");
  await call(page, ["Enter", "Enter"]);
  const hold = page.getByRole("button", { name: "Hold to see the setting to make now" });
  for (let round = 1; round <= 8; round++) {
    await expect(page.locator("header")).toContainText(`Round ${round} of 8`);
    expect(await page.content()).not.toMatch(/as it stood|B: saddle/i);
    await page.keyboard.down("h");
    await expect(hold).toContainText(/^[AB]: /);
    const b = ((await hold.textContent()) ?? "").startsWith("B");
    await page.keyboard.up("h");
    await expect(hold).not.toContainText(/^[AB]: /);
    if (round === 3) await reload(page);
    await call(page, ["Enter"]);
    await call(page, [b ? "b" : "a"]);
  }
  await expect(instruction(page)).toHaveText("Feels 5 mm");
  await expect(page.locator(".found")).toContainText("8 of 8 right; guessing does as well in 0.4 of 100");
  await page.keyboard.press("Enter");
  await expect(page.getByText("Feels 5 mm: steps of 5 mm.")).toBeVisible();
});

test("the map is walked by arrows and the board follows; parts and notes answer", async ({ page, request }) => {
  test.slow();
  await toSaddle(page, "Setback & tilt");
  await page.keyboard.press("d");
  const map = page.getByTestId("saddle-map");
  await expect(map).toBeVisible();
  const place = async () => [
    Number(await map.getAttribute("data-setback")),
    Number(await map.getAttribute("data-height")),
  ];
  const [setback = 0, height = 0] = await place();
  expect([setback, height]).toEqual([188, 716]);
  // Fast, one after the other: none is lost. Post up 10 along 74°, rails back 5.
  for (const key of ["ArrowUp", "ArrowUp", "ArrowLeft"]) await page.keyboard.press(key);
  const turns = page.getByRole("region", { name: "Your change" });
  await expect(turns).toContainText("Post up 10 mm");
  await expect(turns).toContainText("Saddle on its rails back 5 mm");
  await settled(page);
  const [there = 0, high = 0] = await place();
  // Back by 10 cos 74° = 2.8 and 5.
  expect(Math.abs(there - setback - 7.8)).toBeLessThan(0.2);
  expect(high).toBeGreaterThan(height + 9);
  await expect(field(page, "saddle_height_mm")).toHaveValue(String(Math.round(high * 10) / 10));
  await page.keyboard.press("Shift+ArrowDown");
  await expect(turns).toContainText("Post up 9 mm");
  await page.keyboard.press("Escape");
  await expect(turns).not.toContainText("Post up");

  // Post and rails: what is missing is asked for; typed on the long page they answer.
  await page.keyboard.press("d");
  await page.keyboard.press("c");
  await expect(page.getByRole("heading", { name: "Post and rails" })).toBeVisible();
  await expect(page.getByText("type the post's setback")).toBeVisible();
  await page.getByLabel("Setback wished for").focus();
  await page.keyboard.type("230");
  await page.keyboard.press("Enter");
  await expect(page.getByTestId("parts-words")).toContainText("42 mm back on the rails");
  await page.getByLabel("Really sits ahead of the sit reference").focus();
  await page.keyboard.type("25");
  await page.keyboard.press("Enter");
  await expect(page.getByText("Sits 25 mm ahead of")).toBeVisible();
  const session = await sessionOf(page, request);
  expect(session.input.rider.pelvis.sits_forward_mm).toBe(25);
  // Another saddle, 7 mm higher: one linked trial with the post down.
  await page.getByRole("region", { name: "Another saddle" }).getByLabel("Saddle stack").focus();
  await page.keyboard.type("52");
  await page.keyboard.press("Enter");
  await page.getByRole("button", { name: "Foresee the swap" }).focus();
  await page.keyboard.press("Enter");
  await settled(page);
  await expect(page.getByTestId("change-title")).toContainText("Saddle stack 52");
  await expect(turns).toContainText("Post down 7");
});

/** What of a part of the page stands out of it to the side (or at all), by its text. */
const outOf = (page: Page, selector: string, atAll = false) =>
  page.locator(selector).evaluate((part, atAll) => {
    const { left, right, top, bottom } = part.getBoundingClientRect();
    return Array.from(part.querySelectorAll("*"))
      .filter((element) => {
        const box = element.getBoundingClientRect();
        const aside = box.left < left - 1 || box.right > right + 1;
        return box.width > 0 && (aside || (atAll && (box.top < top - 1 || box.bottom > bottom + 1)));
      })
      .map((element) => element.textContent?.slice(0, 60));
  }, atAll);

for (const [who, stature, inseam, bike, height, setback] of EXTREMES) {
  test(`schools, map and protocols of a ${who} rider with a long name`, async ({ page, request }) => {
    test.slow();
    const name = "Wilhelmina Featherstone-Lockwood of the Upper Ferry Landing by the Old Weir";
    await newRider(page, { ...IDA, name, stature, inseam });
    await newBike(page, "The long grey one that came from the landing's shed", { ...FERRY_RUNNER, ...bike });
    await tapeAndClose(page, height, setback);
    for (const at of ["Saddle height", "Setback & tilt"]) {
      await station(page, at);
      await expect(page.getByRole("group", { name: "Protocols" })).toBeVisible();
      const saddle = await saddleOf(page, request);
      const scale = at === "Saddle height" ? saddle.height : saddle.setback;
      // Everything a school asks for lies on the scale; an end that is met already needs no room.
      expect(scale.schools.length).toBeGreaterThan(3);
      for (const school of scale.schools) {
        if (school.bound && !school.trial) continue;
        for (const value of [school.value, school.low, school.high]) {
          if (value == null) continue;
          expect(value, school.label).toBeGreaterThanOrEqual(scale.low);
          expect(value, school.label).toBeLessThanOrEqual(scale.high);
        }
      }
      await page.keyboard.press("d");
      await expect(page.getByRole("region", { name: "Map of the saddle" })).toBeVisible();
      expect(await outOf(page, ".panel"), at).toEqual([]);
      await page.keyboard.press("d");
      await page.keyboard.press("1");
      await expect(page.locator(".question")).toBeVisible();
      for (const [width, depth] of [
        [1280, 800],
        [1024, 768],
      ] as const) {
        await page.setViewportSize({ width, height: depth });
        expect(await outOf(page, "#root"), `${at} at ${width}`).toEqual([]);
        expect(await outOf(page, "header", true), `${at} at ${width}`).toEqual([]);
      }
      await page.setViewportSize({ width: 1280, height: 800 });
      await page.keyboard.press("e");
      await page.keyboard.press("e");
      await expect(page.getByText("Ended early")).toBeVisible();
      await page.keyboard.press("Escape");
    }
  });
}
