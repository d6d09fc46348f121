/** Nothing is lost: with the server gone, in two windows, after a reload; and nothing acts before it is meant. */
import { mkdtempSync, rmSync } from "node:fs";
import { tmpdir } from "node:os";
import { join } from "node:path";
import type { SessionView, StudioView } from "../web/src/api/types";
import {
  expect,
  FERRY_RUNNER,
  field,
  IDA,
  idOf,
  newBike,
  newRider,
  sessionOf,
  settled,
  start,
  station,
  tapeAndClose,
  test,
  walkTo,
} from "./wedge";

const saved = /^saved$/;

test("entries made while the server is away arrive once it is back", async ({ page, request }) => {
  const folder = mkdtempSync(join(tmpdir(), "wedge-e2e-"));
  const data = join(folder, "wedge.sqlite");
  const first = await start("serve", data);
  const port = Number(new URL(first.url).port);
  await page.goto(first.url);
  await page.getByLabel("Name", { exact: true }).fill(IDA.name);
  await page.getByLabel("Stature, mm, barefoot").fill("1712");
  await page.getByRole("button", { name: "Write down" }).click();
  await newBike(page, "Ferry Runner", FERRY_RUNNER);
  await page.getByRole("heading", { name: "Where it hurts" }).waitFor();
  await first.stop();

  await page.getByRole("button", { name: "None of these" }).click();
  await page.getByLabel("Kind of riding").fill("levees on Sundays");
  await page.getByLabel("Surface").selectOption({ index: 1 });
  await page.getByLabel("A run follows").click();
  await page.getByLabel("Add by name").selectOption("neck");
  await expect(page.getByRole("status").last()).toHaveText("kept in this browser");
  // What was entered shows, though nobody has it yet.
  await expect(page.getByLabel("A run follows")).toBeChecked();
  await expect(page.getByRole("listitem").filter({ hasText: "Neck" }).first()).toBeVisible();

  const second = await start("serve", data, port);
  await page.reload();
  await expect(page.getByRole("status").last()).toHaveText(saved);
  const id = idOf(page);
  const answer = await request.get(`${second.url}/api/sessions/${id}`);
  const { intake } = ((await answer.json()) as SessionView).session;
  expect(intake).toMatchObject({ flags_asked: true, flags: [], riding: "levees on Sundays", run_follows: true });
  expect(intake?.surface).toBeTruthy();
  expect(intake?.complaints?.map((complaint) => complaint.place)).toEqual(["neck"]);
  await second.stop();
  rmSync(folder, { recursive: true });
});

test("what two windows write of one intake is all there", async ({ page, context, request }) => {
  await newRider(page, IDA);
  await newBike(page, "Ferry Runner", FERRY_RUNNER);
  await page.getByRole("heading", { name: "Where it hurts" }).waitFor();
  const other = await context.newPage();
  await other.goto(page.url());
  await other.getByRole("heading", { name: "Where it hurts" }).waitFor();

  const goal = (window: typeof page, key: string) => window.locator(`[data-field="goal.${key}"]`);
  await page.getByLabel("Add by name").selectOption("neck");
  await other.getByLabel("Add by name").selectOption("low_back");
  await page.getByLabel("A swollen joint").click();
  await other.getByLabel("Work", { exact: true }).fill("sets type");
  await other.getByLabel("Work", { exact: true }).blur();
  await expect(other.getByRole("status").last()).toHaveText(saved);
  const both = async () => (await sessionOf(page, request)).session.intake;
  await expect
    .poll(async () => (await both())?.complaints?.map((c: { place: string }) => c.place).sort())
    .toEqual(["low_back", "neck"]);
  expect(await both()).toMatchObject({ flags: ["swelling"], work: "sets type" });

  // Both wrote an order: both are shown, and neither is lost.
  await goal(page, "comfort").press("ArrowUp");
  await expect(page.getByRole("status").last()).toHaveText(saved);
  await goal(other, "speed").press("ArrowUp");
  await expect(other.getByText(/Another window wrote comfort > .*; you entered speed > /)).toBeVisible();
  await expect(other.getByRole("button", { name: "Comfort, 1", exact: true })).toBeVisible();
  await goal(other, "speed").press("ArrowUp");
  await goal(other, "speed").press("ArrowUp");
  await expect.poll(async () => (await both())?.goals?.[0]).toEqual(["comfort", "speed"]);
});

test("the red flags stay open until none is said", async ({ page, request }) => {
  await newRider(page, IDA);
  await newBike(page, "Ferry Runner", FERRY_RUNNER);
  const asked = async () => (await sessionOf(page, request)).session.intake;
  await page.getByLabel("A swollen joint").click();
  await expect.poll(async () => (await asked())?.flags?.length).toBe(1);
  await page.getByLabel("A swollen joint").click();
  await expect.poll(async () => (await asked())?.flags_asked).toBe(false);
  await expect(page.getByText("Red flags are not asked yet.")).toBeVisible();
  await page.getByRole("button", { name: "None of these" }).click();
  await expect.poll(async () => (await asked())?.flags_asked).toBe(true);
});

test("a list is walked by keys and chosen by Enter; Esc leaves it", async ({ page, request }) => {
  await newRider(page, IDA);
  await newBike(page, "Ferry Runner", FERRY_RUNNER);
  const byName = page.getByLabel("Add by name");
  await byName.focus();
  await page.keyboard.press("ArrowDown");
  await page.keyboard.press("ArrowDown");
  await expect(page.getByText("Enter takes it, Esc leaves it")).toBeVisible();
  await page.keyboard.press("Escape");
  await expect(page.getByText("Enter takes it, Esc leaves it")).toBeHidden();
  expect((await sessionOf(page, request)).session.intake?.complaints ?? []).toHaveLength(0);
  await byName.focus();
  await page.keyboard.press("ArrowDown");
  await page.keyboard.press("Enter");
  await expect.poll(async () => (await sessionOf(page, request)).session.intake?.complaints?.length).toBe(1);
});

test("a bike half typed outlives a reload, and an ordinary one fills only what is empty", async ({ page }) => {
  await newRider(page, IDA);
  await page.getByLabel("Name of the bike").fill("Ferry Runner");
  const stem = page.getByLabel("Stem, mm");
  await stem.fill("95");
  await page.reload();
  await expect(page.getByLabel("Name of the bike")).toHaveValue("Ferry Runner");
  await expect(stem).toHaveValue("95");

  const reach = page.getByLabel("Frame reach, mm");
  await page.getByLabel("Fill in an ordinary bike").selectOption("Weir 54");
  await expect(reach).not.toHaveValue("");
  await expect(stem).toHaveValue("95");
  await expect(page.getByText("usual, not measured").first()).toBeVisible();
  await page.getByRole("button", { name: /usual numbers out again/ }).click();
  await expect(reach).toHaveValue("");
  await expect(stem).toHaveValue("95");
});

test("the bike as found does not close over a number nobody understood", async ({ page, request }) => {
  await newRider(page, IDA);
  await newBike(page, "Ferry Runner", FERRY_RUNNER);
  await walkTo(page, "Bike as found");
  for (const [key, value] of [
    ["saddle_height_mm", "712"],
    ["setback_mm", "188"],
  ] as const) {
    await field(page, key).fill(value);
    await field(page, key).press("Enter");
  }
  await field(page, "stem_mm").fill("abc");
  await field(page, "stem_mm").press("Enter");
  await page.getByRole("button", { name: "Close bike as found" }).click();
  await expect(page.getByText("A number is not understood yet")).toBeVisible();
  await expect(field(page, "stem_mm")).toBeFocused();
  expect((await sessionOf(page, request)).found ?? null).toBeNull();
  await page.keyboard.press("Escape");
  await page.getByRole("button", { name: "Close bike as found" }).click();
  await station(page, "First look");
  await expect.poll(async () => (await sessionOf(page, request)).found ?? null).not.toBeNull();
});

test("keep asks once for a verdict; keep, put back and verdict are each undone by an entry", async ({
  page,
  request,
}) => {
  await newRider(page, IDA);
  await newBike(page, "Ferry Runner", FERRY_RUNNER);
  await tapeAndClose(page, "712", "188");
  await station(page, "Saddle height");
  // F enters the board at the station's dimension.
  await page.keyboard.press("f");
  await expect(field(page, "saddle_height_mm")).toBeFocused();
  await page.keyboard.press("ArrowDown");
  await settled(page);
  await expect(page.getByRole("button", { name: /^Try it/ })).toBeEnabled();
  await page.keyboard.press("Enter");
  await page.getByRole("heading", { name: "Trial 1, on the bench" }).waitFor();
  await expect(page.getByRole("complementary", { name: "What to do" })).toBeFocused();

  const trial = async () => (await sessionOf(page, request)).trials[0];
  await page.keyboard.press("k");
  await expect(page.getByText("Nobody said how the rider finds it")).toBeVisible();
  await page.keyboard.press("1");
  await expect.poll(async () => (await trial())?.verdict).toBe("better");
  await page.keyboard.press("3");
  await expect.poll(async () => (await trial())?.verdict).toBe("worse");
  await page.keyboard.press("Control+z");
  await expect.poll(async () => (await trial())?.verdict).toBe("better");
  await page.keyboard.press("k");
  await expect.poll(async () => (await trial())?.outcome).toBe("kept");
  await expect(page.getByRole("button", { name: /Undo/ })).toBeVisible();
  await page.keyboard.press("Control+z");
  await expect.poll(async () => (await trial())?.outcome ?? null).toBeNull();
  await page.getByRole("heading", { name: "Trial 1, on the bench" }).waitFor();
  await page.keyboard.press("z");
  await expect.poll(async () => (await trial())?.outcome).toBe("put_back");
  await expect(page.getByRole("button", { name: /Undo/ })).toBeVisible();
  await page.keyboard.press("Control+z");
  await expect.poll(async () => (await trial())?.outcome ?? null).toBeNull();
  // All of it stays on record.
  expect((await trial())?.trial.entries.length).toBe(7);
});

test("a form that is refused leads to its first wrong field", async ({ page }) => {
  await page.goto("/");
  await page.getByLabel("Name", { exact: true }).fill(IDA.name);
  await page.getByLabel("Stature, mm, barefoot").fill("1.72");
  await page.getByRole("button", { name: "Write down" }).click();
  // As it was typed, not as it is written elsewhere; and what was probably meant.
  await expect(page.getByText(/Stature of 1\.72 mm is outside .* or write 1\.72 m$/)).toBeVisible();
  await expect(page.getByLabel("Stature, mm, barefoot")).toBeFocused();
});

test("what is taken out of the intake comes back by one key, and the focus stays with the list", async ({
  page,
  request,
}) => {
  await newRider(page, IDA);
  await newBike(page, "Ferry Runner", FERRY_RUNNER);
  const places = async () =>
    (await sessionOf(page, request)).session.intake.complaints.map((c: { place: string }) => c.place);
  for (const place of ["neck", "low_back"]) await page.getByLabel("Add by name").selectOption(place);
  await expect.poll(places).toEqual(["neck", "low_back"]);
  await page.getByLabel("Take complaint 1 out").focus();
  await page.keyboard.press("Enter");
  await expect.poll(places).toEqual(["low_back"]);
  await expect(page.getByText("Neck: taken out.")).toBeVisible();
  await expect(page.getByLabel("Feels")).toBeFocused();
  await page.keyboard.press("Escape");
  await page.locator(".way [aria-current]").focus();
  await page.keyboard.press("Control+z");
  await expect.poll(places).toEqual(["low_back", "neck"]);
  await expect(page.getByText("Neck: taken out.")).toBeHidden();

  await page.getByRole("button", { name: "Write one down" }).click();
  await page.getByLabel("What, where and when").fill("left knee, 2019");
  await page.getByLabel("What, where and when").press("Enter");
  await page.getByRole("button", { name: "take out", exact: true }).last().click();
  await expect(page.getByText("left knee, 2019: taken out.")).toBeVisible();
  await page.keyboard.press("Control+z");
  await expect(page.getByLabel("What, where and when")).toHaveValue("left knee, 2019");
});

test("letters after Esc go on in the search, and act only once it is left", async ({ page }) => {
  await page.goto("/");
  await page.getByText("Nobody is on record yet").waitFor();
  await page.keyboard.press("/");
  await page.keyboard.type("Mar");
  await page.keyboard.press("Escape");
  await page.keyboard.type("n");
  await expect(page.locator("#find")).toHaveValue("n");
  await expect(page.locator("#find")).toBeFocused();
  await page.keyboard.press("Escape");
  await page.keyboard.press("Escape");
  await page.keyboard.press("n");
  await expect(page.getByLabel("Name", { exact: true })).toBeFocused();
});

test("a studio's settings chosen while the server is away arrive once it is back", async ({ page, request }) => {
  const folder = mkdtempSync(join(tmpdir(), "wedge-e2e-"));
  const data = join(folder, "wedge.sqlite");
  const first = await start("serve", data);
  const port = Number(new URL(first.url).port);
  await page.goto(`${first.url}/studio`);
  await page.getByLabel("Saddle height by").waitFor();
  await first.stop();
  await page.getByLabel("Saddle height by").selectOption({ label: "Creep up" });
  await expect(page.getByText("Kept in this browser")).toBeVisible();
  await page.getByLabel("Masses in").selectOption("lb");
  await page.getByLabel("The studio’s name").fill("Lock Street");
  await page.getByLabel("The studio’s name").blur();
  const second = await start("serve", data, port);
  await page.reload();
  const house = async () => ((await (await request.get(`${second.url}/api/studio`)).json()) as StudioView).house;
  await expect.poll(async () => (await house()).name).toBe("Lock Street");
  expect(await house()).toMatchObject({ leads: { saddle_height: "creep_up" }, units: { mass: "lb" } });
  await expect(page.getByLabel("Saddle height by")).toHaveValue("creep_up");
  await expect.poll(() => page.evaluate(() => localStorage.getItem("wedge-studio"))).toBeNull();
  await second.stop();
  rmSync(folder, { recursive: true });
});
