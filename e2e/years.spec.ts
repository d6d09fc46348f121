/** Feet and cranks by keyboard from the first look to kept trials; a rider's years; the studio's rules; deleting. */
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
  tapeAndClose,
  test,
  walkTo,
  keepTrial,
} from "./wedge";
import type { APIRequestContext, Page } from "@playwright/test";

const saved = (page: Page) => expect(page.getByRole("status").last()).toHaveText("saved");
const box = (page: Page, key: string) => page.locator(`[data-field="${key}"]`);

/** Types into a field and commits with Enter. */
async function type(page: Page, key: string, text: string) {
  await box(page, key).focus();
  await page.keyboard.type(text);
  await page.keyboard.press("Enter");
  await saved(page);
}

/** Presses a button that has been reached by keyboard. */
async function press(page: Page, name: string | RegExp) {
  const button = page.getByRole("button", { name }).first();
  await button.focus();
  await page.keyboard.press("Enter");
}

test("feet and cranks by keyboard, from the first look to kept trials", async ({ page, request }) => {
  test.slow();
  await newRider(page, IDA);
  await newBike(page, "Ferry Runner", FERRY_RUNNER);
  await tapeAndClose(page, "712", "188");

  // The feet are measured step by step; what is typed is on record at once.
  await page.keyboard.press("c");
  await expect(page.getByRole("heading", { name: "Measure the feet" })).toBeVisible();
  await expect(page.locator(".steps li")).toHaveCount(4);
  await type(page, "feet.cleat_rearmost_mm.left", "24");
  await type(page, "feet.shoe_size_eu.left", "41");
  await type(page, "feet.shoe_size_eu.right", "42");
  await type(page, "feet.foot_length_mm.left", "258");
  await type(page, "feet.foot_length_mm.right", "264");
  await box(page, "feet.foot_length_mm.right").blur();
  await page.keyboard.press("c");
  const left = page.getByRole("region", { name: "Left cleat" });
  await expect(left).toContainText("14.5 mm");
  await expect(left).toContainText("24 mm");
  await expect(page.getByRole("region", { name: "Feet of different size" })).toContainText("6 mm longer");

  // A school's step comes on the board with the saddle that answers it, and is tried with a reason.
  await press(page, /^Foresee: Left cleat back/);
  await settled(page);
  await expect(page.getByTestId("change-title")).toContainText("cleat back");
  await page.getByLabel("Why", { exact: true }).focus();
  await page.keyboard.type("numb toes");
  await page.keyboard.press("Enter");
  await expect(page.getByRole("heading", { name: /on the bench/ })).toBeVisible();
  await expect(page.getByText("Why: numb toes")).toBeVisible();
  await press(page, "Better");
  await expect(page.getByRole("button", { name: "✓ Better" })).toBeVisible();
  await page.getByLabel("Where it is felt").selectOption({ label: "Toes, left" });
  await expect(page.getByRole("button", { name: "Toes, left: take it away" })).toBeVisible();
  await page.getByLabel("How sure").selectOption({ label: "Fairly sure" });
  await saved(page);
  await away(page);
  await page.keyboard.press("k");
  await expect(page.getByRole("region", { name: "Trials" })).toContainText("kept, better at toes, left");

  // The crank: a reload in the middle keeps what was stepped; over 5 mm asks to be insisted on.
  await walkTo(page, "Cranks");
  await expect(page.getByRole("region", { name: "Crank", exact: true })).toBeVisible();
  await field(page, "crank_mm").focus();
  await page.keyboard.type("162.5");
  await page.keyboard.press("Enter");
  await settled(page);
  await saved(page);
  await page.reload();
  await settled(page);
  await expect(page.getByRole("button", { name: /^Try it/ })).toBeDisabled();
  await page.getByLabel(/I insist/).focus();
  await page.keyboard.press("Space");
  await expect(page.getByRole("button", { name: /^Try it/ })).toBeEnabled();
  await field(page, "crank_mm").focus();
  await page.keyboard.press("ArrowDown");
  await settled(page);
  await expect(page.getByRole("button", { name: /^Try it/ })).toBeDisabled();
  await press(page, "Leave it");
  await expect(page.getByTestId("change-title")).toHaveCount(0);

  // By intent: each bolt of the linked trial is listed, and the whole of it is one trial.
  await page.keyboard.press("c");
  await box(page, "plan.crank_mm").focus();
  await page.keyboard.type("167.5");
  await page.keyboard.press("Enter");
  await expect(page.locator(".intents tbody tr")).toHaveCount(5);
  await expect(page.locator(".intents tbody tr").first()).toContainText("Post up 2.5 mm");
  await press(page, "Foresee it: keep the bottom of the stroke");
  await expect(page.getByTestId("change-title")).toContainText("Crank 167.5");
  await settled(page);
  await away(page);
  await page.keyboard.press("Enter");
  await expect(page.getByRole("heading", { name: /on the bench/ })).toBeVisible();
  await box(page, "trial.power_w").focus();
  await page.keyboard.type("210");
  await page.keyboard.press("Enter");
  await saved(page);
  await box(page, "trial.power_w").blur();
  await keepTrial(page);
  await expect(page.getByRole("heading", { name: "Your change" })).toBeVisible();
  const record = await sessionOf(page, request);
  expect(record.input.setup.pedalling.left.crank_mm).toBe(167.5);
  expect(record.trials.map((t: { outcome: string }) => t.outcome)).toEqual(["kept", "kept"]);
  expect(record.trials[1].batch).toBe(true);
  expect(record.trials[1].effort.power_w).toBe(210);
});

/** A fit of a bike over the API: taped, one saddle trial kept, finished. */
async function fit(request: APIRequestContext, bike: string, day: string, height: number, complaint: string) {
  const id = () => crypto.randomUUID();
  const opened = await request.post(`/api/bikes/${bike}/sessions`, { data: { id: id(), day } });
  let view = await opened.json();
  const at = `/api/sessions/${view.session.id}`;
  const send = async (method: "post" | "put" | "patch", path: string, data: unknown) => {
    const answer = await request[method](path, { data, headers: { "If-Match": `"${view.version}"` } });
    expect(answer.ok(), await answer.text()).toBe(true);
    view = await answer.json();
  };
  const complaints = complaint === "" ? [] : [{ place: complaint, side: "left", feel: "pain", how_bad: 4 }];
  await send("put", `${at}/intake`, { ...view.session.intake, work: "clerk", complaints });
  for (const [quantity, value] of [
    ["saddle_height_mm", height],
    ["setback_mm", 188],
  ]) {
    await send("post", `${at}/readings`, { id: id(), quantity, value });
  }
  await send("post", `${at}/found`, {});
  await send("post", `${at}/trials`, { id: id(), changes: [{ quantity: "saddle_height_mm", by: 6 }] });
  const trial = view.trials[0].trial.id;
  await send("post", `/api/trials/${trial}/entries`, { id: id(), body: { outcome: "kept" } });
  await send("patch", at, { follow_up: "2020-02-02" });
  await send("post", `${at}/finish`, {});
}

test("three years on one ruler, growth, put away, and deleted for good", async ({ page, request }) => {
  test.slow();
  await newRider(page, IDA);
  await newBike(page, "Ferry Runner", FERRY_RUNNER);
  const view = await sessionOf(page, request);
  const [rider, bike, open] = [view.rider.id, view.bike.id, view.session.id];
  await request.post(`/api/sessions/${open}/readings`, {
    data: { id: crypto.randomUUID(), quantity: "saddle_height_mm", value: 700 },
    headers: { "If-Match": `"${view.version}"` },
  });
  await tapeAndClose(page, "700", "188");
  await walkTo(page, "Hand-out");
  await page.getByLabel("The rider comes back on").fill("2020-01-01");
  await saved(page);
  await page.getByRole("button", { name: "Finish the fit" }).click();
  await expect(page.getByRole("heading", { name: "Finished" })).toBeVisible();
  await fit(request, bike, "2027-11-20", 706, "knee_front");
  await fit(request, bike, "2028-11-18", 712, "");

  await page.goto("/");
  await expect(page.getByText(/Due to come back:/)).toContainText("overdue");
  await page.goto(`/riders/${rider}`);
  await expect(page.getByRole("img", { name: "As fit 3 left it" })).toBeVisible();
  const table = page.getByRole("table", { name: "Measures by fit, as left" });
  await expect(table.getByRole("row")).toHaveCount(4);
  await expect(page.getByRole("list", { name: "Complaints" })).toContainText("Front of the knee, left");
  await page.keyboard.press("ArrowLeft");
  await expect(page.getByRole("img", { name: "As fit 2 left it" })).toBeVisible();
  await expect(page.locator(".timeline")).toContainText("712 mm");

  // Grown: said as soon as it is measured.
  const now = await (await request.get(`/api/riders/${rider}`)).json();
  const grown = await request.post(`/api/riders/${rider}/readings`, {
    data: { id: crypto.randomUUID(), quantity: "inseam_mm", value: 862 },
    headers: { "If-Match": `"${now.version}"` },
  });
  expect(grown.ok()).toBe(true);
  await page.reload();
  await expect(page.getByText(/The leg is 30 mm longer/)).toBeVisible();

  await page.getByRole("button", { name: "Put away" }).click();
  await expect(page.getByText(/^Put away: found in the room/)).toBeVisible();
  await page.goto("/");
  await expect(page.getByText(IDA.name)).toHaveCount(0);
  await page.getByLabel("Show those put away").click();
  await page.getByRole("link", { name: new RegExp(IDA.name) }).click();

  await page.getByRole("button", { name: "Delete for good…" }).click();
  await page.getByLabel("Type the name to delete").fill("Ida");
  await page.getByRole("button", { name: "Delete for good", exact: true }).click();
  await expect(page.getByText(`Type “${IDA.name}” exactly to delete`)).toBeVisible();
  await page.getByLabel("Type the name to delete").fill(IDA.name);
  await page.keyboard.press("Enter");
  await expect(page.getByText("Nobody is on record yet")).toBeVisible();
  expect((await request.get(`/api/riders/${rider}`)).status()).toBe(404);
});

test("the studio's ranges, schools and units are seen where they count", async ({ page }) => {
  test.slow();
  await newRider(page, IDA);
  await newBike(page, "Ferry Runner", FERRY_RUNNER);
  await tapeAndClose(page, "712", "188");
  const session = page.url();
  const marked = page.locator(".board .words.out");

  await page.goto("/studio");
  const to = page.getByLabel("Knee at full reach, to", { exact: true });
  await to.fill("20");
  await to.press("Enter");
  await expect(page.getByText("The range ends above where it begins")).toBeVisible();
  await to.press("Escape");
  for (const [end, value] of [
    ["outer to", "80"],
    ["to", "79"],
    ["from", "78"],
    ["outer from", "77"],
  ]) {
    const box = page.getByLabel(`Knee at full reach, ${end}`, { exact: true });
    await box.fill(value ?? "");
    await box.press("Enter");
    await expect(box).toHaveValue(value ?? "");
    await expect(page.getByRole("status")).toHaveText("Saved");
  }
  await expect(page.getByText("this studio’s own").first()).toBeVisible();
  await page.goto(session);
  await settled(page);
  await expect(page.locator(".board")).toContainText("short of 78–79°");
  await expect(marked.first()).toBeVisible();

  await page.goto("/studio");
  await page.getByRole("button", { name: "Put them all back" }).click();
  await expect(page.getByLabel("Knee at full reach, from", { exact: true })).toHaveValue("35");
  await page.getByLabel("Cleat", { exact: true }).selectOption("By shoe size");
  await expect(page.getByRole("status")).toHaveText("Saved");
  await page.getByLabel("Lengths are shown and typed in").selectOption("in");
  await expect(page.getByLabel("Lengths are shown and typed in")).toHaveValue("in");
  await page.goto(session);
  await settled(page);
  await expect(field(page, "stem_mm")).toHaveValue("3.54");
  await expect(page.getByRole("region", { name: "Left cleat" }).locator("li").first()).toContainText(
    "By shoe size leads",
  );
  // A bare number is read in the unit shown, another unit can be typed behind one.
  await field(page, "stem_mm").fill("4");
  await field(page, "stem_mm").press("Enter");
  await settled(page);
  await expect(page.getByTestId("change-title")).toHaveText("Stem 101.6");
  await field(page, "stem_mm").fill("80 mm");
  await field(page, "stem_mm").press("Enter");
  await expect(page.getByTestId("change-title")).toHaveText("Stem 80");

  await page.goto("/rules");
  await page.getByLabel("Find a rule").fill("crank changes");
  await expect(page.getByRole("row")).toHaveCount(1);
  await expect(page.getByRole("row")).toContainText("5 mm");
  await expect(page.getByRole("row")).toContainText("workshop rule");
});
