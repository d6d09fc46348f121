/** The judge in the hands of a fitter: from a complaint to done by Enter and the verdict keys, a disagreement on the way; worse,
 * put back, the other way; where the right place is, walked by keyboard. */
import AxeBuilder from "@axe-core/playwright";
import type { APIRequestContext, Page } from "@playwright/test";
import {
  expect,
  FERRY_RUNNER,
  field,
  IDA,
  idOf,
  newBike,
  newRider,
  settled,
  tapeAndClose,
  test,
  walkTo,
} from "./wedge";

const next = (page: Page) => page.getByTestId("next-move");

/** What is said at intake, past the interface: its own test types it in. */
async function complain(page: Page, request: APIRequestContext, intake: Record<string, unknown>) {
  const at = `/api/sessions/${idOf(page)}`;
  const view = (await (await request.get(at)).json()) as {
    version: number;
    session: { intake: Record<string, unknown> };
  };
  const answer = await request.put(`${at}/intake`, {
    headers: { "If-Match": `"${view.version}"` },
    data: { ...view.session.intake, flags_asked: true, visit: "complaint", ...intake },
  });
  expect(answer.ok()).toBe(true);
  await page.reload();
}

const complaint = (place: string, how_bad: number, more: Record<string, unknown> = {}) => ({
  place,
  how_bad,
  side: null,
  feel: "pain",
  when: null,
  stroke: null,
  effort: null,
  words: "",
  ...more,
});

async function toSaddle(page: Page, request: APIRequestContext, height: string, complaints: unknown[]) {
  await newRider(page, IDA);
  await newBike(page, "Ferry Runner", FERRY_RUNNER);
  await complain(page, request, { complaints });
  await tapeAndClose(page, height, "188");
  await walkTo(page, "Saddle height");
  await expect(next(page)).toBeVisible();
}

/** Tries what is foreseen, and has it found so. */
async function tryIt(page: Page, verdict: "1" | "3", outcome: "k" | "z") {
  await expect(page.getByTestId("change-title")).toBeVisible();
  await settled(page);
  await page.keyboard.press("Enter");
  await expect(page.getByRole("heading", { name: /on the bench/ })).toBeVisible();
  await page.keyboard.press(verdict);
  await expect(page.getByRole("button", { name: verdict === "1" ? /✓ Better/ : /✓ Worse/ })).toBeVisible();
  await page.keyboard.press(outcome);
  await expect(page.getByRole("heading", { name: /on the bench/ })).toHaveCount(0);
  await expect(next(page)).toBeVisible();
}

test("from a complaint to done by Enter and the verdict keys, with one disagreement", async ({ page, request }) => {
  test.slow();
  await toSaddle(page, request, "730", [complaint("knee_behind", 6, { side: "left", stroke: "bottom" })]);
  await expect(next(page)).toHaveText("Creep up");
  const card = page.getByRole("region", { name: "Next move" });
  await expect(card).toContainText("Behind the knee, left");
  await expect(card).toContainText("too high");

  // One witness is not believed; the reason is asked for beside it, kept, and shown.
  await page.keyboard.press("i");
  const form = page.getByRole("form", { name: "I disagree" });
  await form.getByLabel(/^Strike out: Behind the knee/).check();
  await form.getByLabel("Why").press("Enter");
  await expect(form.getByRole("alert")).toContainText("Say why");
  await form.getByLabel("Why").fill("It hurt before this bike, too");
  await form.getByLabel("Why").press("Enter");
  const standing = page.getByRole("region", { name: "Where you disagree" });
  await expect(standing).toContainText("It hurt before this bike, too");
  await page.reload();
  await expect(standing).toContainText("struck out");
  await expect(card).not.toContainText("Behind the knee, left");
  await standing.getByRole("button", { name: /^Take back/ }).press("Enter");
  await expect(standing).toHaveCount(0);
  await expect(card).toContainText("Behind the knee, left");

  // Where the judge leads: bolts by O and Enter, what is asked answered, until nothing is left to turn.
  const titles: string[] = [];
  for (let round = 0; round < 8; round++) {
    const title = (await next(page).textContent()) ?? "";
    titles.push(title);
    if (title === "Nothing: done") break;
    await page.locator("main").focus();
    await page.keyboard.press("o");
    const others = page.getByRole("region", { name: "Other moves" });
    const bolt = others.getByRole("button", { name: /^Saddle (down|up)/ });
    const asks = page.getByRole("group", { name: "Worth asking" });
    if ((await bolt.count()) > 0) {
      await bolt.first().press("Enter");
      await tryIt(page, "1", "k");
    } else {
      const answered = await asks.getByRole("button", { name: /no$/ }).count();
      expect(answered, titles.join(", ")).toBeGreaterThan(0);
      const said = await asks.textContent();
      await asks.getByRole("button", { name: /no$/ }).first().press("Enter");
      await expect.poll(async () => ((await asks.count()) > 0 ? asks.textContent() : "")).not.toBe(said);
      await page.keyboard.press("o");
    }
  }
  expect(titles.at(-1), titles.join(", ")).toBe("Nothing: done");
  await page.locator("main").focus();
  await page.keyboard.press("Enter");
  await expect(page.locator(".way [aria-current]")).toHaveText("Hand-out");

  // The sheet says why in three sentences.
  await page.getByRole("link", { name: "Look at the sheet" }).press("Enter");
  const why = page.locator(".why-kept").first();
  await expect(why).toContainText("Before it, saddle height was");
  await expect(why).toContainText("Tried: kept, better");
});

test("where it hurts is asked again in a trial, kept over a reload, and told on the sheet", async ({
  page,
  request,
}) => {
  await toSaddle(page, request, "730", [complaint("knee_behind", 6, { side: "left", stroke: "bottom" })]);
  await page.keyboard.press("o");
  const others = page.getByRole("region", { name: "Other moves" });
  await others
    .getByRole("button", { name: /^Saddle down/ })
    .first()
    .press("Enter");
  await expect(page.getByTestId("change-title")).toBeVisible();
  await settled(page);
  await page.keyboard.press("Enter");
  const now = page.getByRole("group", { name: "Where it hurts now" });
  const knee = now.getByLabel("Behind the knee, left");
  await expect(now).toContainText("6 of 10 as found");
  await knee.fill("11");
  await knee.press("Enter");
  await expect(now.getByRole("alert")).toHaveText("How bad it hurts is 0 to 10");
  await knee.fill("0");
  await knee.press("Enter");
  await expect(now.getByRole("alert")).toHaveCount(0);
  await now.getByLabel("It hurts somewhere new").selectOption({ label: "Neck" });
  await now.getByLabel("Neck").fill("3");
  await now.getByLabel("Neck").press("Enter");
  await expect(page.getByText("saved")).toBeVisible();
  await page.reload();
  await expect(knee).toHaveValue("0");
  await expect(now.getByLabel("Neck", { exact: false }).first()).toHaveValue("3");
  expect((await new AxeBuilder({ page }).include(".hurts").analyze()).violations).toEqual([]);
  await page.locator("main").focus();
  await page.keyboard.press("1");
  await expect(page.getByRole("button", { name: /✓ Better/ })).toBeVisible();
  await page.keyboard.press("k");
  await expect(page.getByRole("heading", { name: /on the bench/ })).toHaveCount(0);
  await page.goto(`${page.url()}/hand-out`);
  const sheet = page.getByRole("region", { name: "For the next fitter" });
  await expect(sheet).toContainText("Behind the knee, left: 6 of 10 as found, gone in trial 1");
  await expect(sheet).toContainText("Neck: 3 of 10 in trial 1");
  await expect(page.locator("main")).toContainText("gone in trial 1. Tell us if it comes back.");
});

test("worse is put back where the judge says so, and the other way stands beside it", async ({ page, request }) => {
  await toSaddle(page, request, "712", [complaint("knee_front", 5, { stroke: "bottom" })]);
  await field(page, "saddle_height_mm").focus();
  await page.keyboard.type("703");
  await page.keyboard.press("Enter");
  await page.keyboard.press("Escape");
  await tryIt(page, "3", "k");
  await expect(next(page)).toHaveText("Put it back");
  await page.locator("main").focus();
  await page.keyboard.press("o");
  const others = page.getByRole("region", { name: "Other moves" });
  await expect(others.getByRole("button", { name: /^Saddle up/ })).toBeVisible();
  await expect(others.getByRole("button", { name: /^Saddle down/ })).toHaveCount(0);
  await page.keyboard.press("o");
  await page.locator("main").focus();
  await page.keyboard.press("Enter");
  await expect(page.getByTestId("change-title")).toHaveText("Saddle up 9");
  await tryIt(page, "1", "k");
  await expect(next(page)).not.toHaveText(/down/);
});

test("where the right place is: walked by key, said in words, nothing to complain of", async ({ page, request }) => {
  await toSaddle(page, request, "730", [complaint("knee_behind", 6, { stroke: "bottom" })]);
  await page.keyboard.press("g");
  const right = page.getByRole("region", { name: "Saddle height: where it is right" });
  await expect(right).toContainText("BB straight to the sit reference");
  const readout = page.getByTestId("readout");
  await expect(readout).toContainText("730 mm");
  await page.keyboard.press("ArrowLeft");
  await expect(readout).toContainText("729 mm");
  await page.keyboard.press("Shift+ArrowLeft");
  await expect(readout).toContainText("724 mm");
  const { violations } = await new AxeBuilder({ page }).analyze();
  expect(violations.map((v) => [v.id, v.nodes.map((node) => node.html)])).toEqual([]);
  await right.getByText("In words").click();
  await expect(right.getByRole("table")).toContainText("Behind the knee");
  await page.locator("main").focus();
  await page.keyboard.press("ArrowDown");
  await expect(page.getByRole("region", { name: "Setback: where it is right" })).toBeVisible();
  // What is tried is drawn on it, and the board comes back by the same key.
  await page.keyboard.press("g");
  await expect(field(page, "saddle_height_mm")).toBeVisible();
});

test("a studio's own strength, and the house's again", async ({ page }) => {
  await page.goto("/judging");
  await expect(page.getByRole("heading", { name: "How right it was" })).toBeVisible();
  await expect(page.getByText("there is nothing to count")).toBeVisible();
  await page.getByLabel("Find a complaint, a sign or a cause").fill("hips rock");
  const strength = page.getByRole("region", { name: "Hips rock" }).getByRole("textbox", { name: /^Saddle too high/ });
  await strength.fill("20");
  await strength.press("Enter");
  await expect(page.getByText("One number is the studio’s own.")).toBeVisible();
  await page.reload();
  await expect(strength).toHaveValue("20");
  await page.getByRole("button", { name: /back to the house's 65/ }).click();
  await expect(page.getByText("One number is the studio’s own.")).toHaveCount(0);
  const half = page.getByLabel(/^Setback/);
  await half.fill("90");
  await half.press("Enter");
  await expect(page.getByRole("alert").first()).toBeVisible();
});

test("how good Wedge is, against riders whose truth is hidden", async ({ page }) => {
  await page.goto("/judging");
  await page.getByRole("link", { name: "How good is Wedge?" }).click();
  await expect(page.getByRole("heading", { name: "How good is Wedge?", level: 1 })).toBeVisible();
  const ways = page.getByRole("region", { name: "Ways of fitting" });
  await expect(ways.getByRole("row")).toHaveCount(5);
  await expect(page.getByText("A proof against these riders, not against people.", { exact: false })).toBeVisible();
  await expect(page.getByText("make hundred")).toBeVisible();
  for (const name of ["Foresight", "The worst", "What is assumed"])
    await expect(page.getByRole("region", { name, exact: true })).toBeVisible();
  const found = await new AxeBuilder({ page }).analyze();
  expect(found.violations).toEqual([]);
});
