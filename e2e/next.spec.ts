/** The next bike: from the wrong frame to a chosen one and its sheet, and from a stand to a frame made to measure; by keyboard. */
import AxeBuilder from "@axe-core/playwright";
import type { APIRequestContext, Page } from "@playwright/test";
import { randomUUID } from "node:crypto";
import { expect, IDA, idOf, newRider, station, test } from "./wedge";

interface View {
  version: number;
  session: { id: string };
}
interface Ordinary {
  name: string;
  kind: string;
  frame: Record<string, number>;
  cockpit: Record<string, number>;
  bar: unknown;
  pedalling: unknown;
}

async function send<T>(request: APIRequestContext, path: string, data: object, version?: number): Promise<T> {
  const headers = version === undefined ? undefined : { "If-Match": `"${version}"` };
  const answer = await request.post(path, { data, headers });
  expect(answer.ok(), `${path}: ${await answer.text()}`).toBe(true);
  return (await answer.json()) as T;
}

/** A rider on a frame that is too long: the shortest stem, the saddle at the front of its rails, and off balance. */
async function onTheWrongFrame(request: APIRequestContext): Promise<{ rider: string; fit: string }> {
  const [rider, bike] = [randomUUID(), randomUUID()];
  await send(request, "/api/riders", { id: rider, name: IDA.name, stature_mm: 1712, inseam_mm: 802, mass_kg: 61.5 });
  const catalogue = (await (await request.get("/api/catalogue")).json()) as { ordinary_bikes: Ordinary[] };
  const like = catalogue.ordinary_bikes.find(({ name }) => name === "Weir 54");
  expect(like).toBeDefined();
  const { kind, frame, cockpit, bar, pedalling } = like as Ordinary;
  await send(request, `/api/riders/${rider}/bikes`, {
    id: bike,
    name: "Long Reach",
    kind,
    frame: { ...frame, frame_reach_mm: 410 },
    cockpit: { ...cockpit, stem_mm: 50 },
    bar,
    saddle: { tilt_deg: 0, saddle_length_mm: 272, nose_to_sit_mm: 150, rail_mm: 60, rail_middle_mm: 10 },
    post: { post_setback_mm: 20, post_length_mm: 350, post_insertion_mm: 100 },
    pedalling: { left: pedalling, right: pedalling },
  });
  let view = await send<View>(request, `/api/bikes/${bike}/sessions`, { id: randomUUID(), day: "2026-11-23" });
  const at = `/api/sessions/${view.session.id}`;
  for (const [quantity, value] of [
    ["saddle_height_mm", 712],
    ["setback_mm", 181],
  ]) {
    view = await send<View>(request, `${at}/readings`, { id: randomUUID(), quantity, value }, view.version);
  }
  await send(request, `${at}/found`, {}, view.version);
  await send(request, `${at}/looks`, {
    id: randomUUID(),
    body: { sign: { sign: "balance_fails", side: null, there: true } },
  });
  return { rider, fit: view.session.id };
}

/** Frames as somebody else's table has them. */
const TABLE = `Model,Reach (cm),Stack,HTA,HT,STA,ST,CS,BB drop,FC
Weir 50,37.2,528,71.5,120,74.5,465,410,72,575
Weir 52,37.8,543,72.2,132,74,485,410,71,580
Weir 54,38.4,560,72.8,148,73.5,505,410,70,586
Tower,56,790,72.8,300,73.5,505,410,70,800
`;

async function takeIn(page: Page) {
  const chooser = page.waitForEvent("filechooser");
  await page.getByRole("button", { name: "Take in a list" }).press("Enter");
  await (await chooser).setFiles({ name: "frames.csv", mimeType: "text/csv", buffer: Buffer.from(TABLE) });
  await expect(page.getByLabel("Reach (cm) is", { exact: true })).toHaveValue("frame_reach_mm");
  const put = page.getByRole("button", { name: /^Put \d+ into the library/ });
  await expect(put).toBeDisabled();
  for (const [label, value] of [
    ["Wheel radius", "336"],
    ["Lower headset stack", "5"],
  ] as const) {
    await page.getByLabel(label).fill(value);
    await page.getByLabel(label).press("Enter");
  }
  await expect(page.getByText("4 read, 0 do not.")).toBeVisible();
  await put.press("Enter");
  await expect(page.getByText("4 frames are in the library")).toBeVisible();
}

test("the wrong frame leads to another one, and to the rider’s sheet: by keyboard", async ({ page, request }) => {
  const { rider, fit } = await onTheWrongFrame(request);
  await page.goto(`/sessions/${fit}`);
  await station(page, "Setback & tilt");
  await page.getByRole("link", { name: "Choose another frame" }).press("Enter");
  await expect(page.getByText("The frame is the wrong one for this rider", { exact: false })).toBeVisible();
  await expect(page.getByText("No frame of that kind is in the library")).toBeVisible();
  await takeIn(page);

  // Ranked with its reasons; the far one last.
  const ranks = page.getByTestId("ranks").getByRole("row");
  await expect(ranks).toHaveCount(5);
  await expect(ranks.last()).toContainText("not reached");
  const best = ranks.nth(1);
  await best.getByRole("button").first().press("Enter");
  await expect(page.getByRole("heading", { name: "Besides" })).toBeVisible();
  await expect(page.getByRole("heading", { name: "Built of what there is" })).toBeVisible();
  await ranks
    .nth(2)
    .getByRole("button", { name: /^Beside / })
    .press("Enter");
  await expect(page.getByText(/^Frame stack: \d+ mm against \d+ mm$/)).toBeVisible();
  // A limit ranks anew; nonsense stays beside its field.
  await page.getByLabel("Longest stem").fill("nonsense");
  await page.getByLabel("Longest stem").press("Enter");
  await expect(page.getByRole("alert")).toBeVisible();
  await page.getByLabel("Longest stem").fill("90");
  await page.getByLabel("Longest stem").press("Enter");
  await expect(page.getByTestId("ranks")).not.toContainText(/Stem 1\d0 mm/);
  expect((await new AxeBuilder({ page }).analyze()).violations).toEqual([]);

  await page.getByRole("button", { name: "Carry to it" }).press("Enter");
  await expect(page.getByTestId("off")).toContainText("Saddle");
  await expect(page.getByText("Computed, not ridden.")).toBeVisible();
  expect((await new AxeBuilder({ page }).analyze()).violations).toEqual([]);
  await page.getByLabel("Keep it as a bike, called").fill("The next Weir");
  await page.getByLabel("Keep it as a bike, called").press("Enter");
  await expect(page).toHaveURL(new RegExp(`/riders/${rider}\\?bike=`));
  await expect(page.getByText("From Long Reach, fit 1", { exact: false }).first()).toBeVisible();
  const saved = page.waitForEvent("download");
  await page.getByRole("link", { name: "Sheet for the rider, PDF" }).press("Enter");
  expect((await saved).suggestedFilename()).toBe("the-next-weir-next-bike.pdf");
});

test("a rider without a bike: a stand, then a frame made to measure: by keyboard", async ({ page, request }) => {
  await newRider(page, IDA);
  await page.getByRole("button", { name: "No bike yet: fit on a stand" }).press("Enter");
  await page.getByRole("button", { name: "Start the first fit" }).press("Enter");
  await expect(page.locator(".way [aria-current]")).toHaveText("Intake");
  const fit = idOf(page);
  const read = await request.get(`/api/sessions/${fit}`);
  let view = (await read.json()) as View;
  for (const [quantity, value] of [
    ["saddle_height_mm", 712],
    ["setback_mm", 190],
  ]) {
    view = await send<View>(
      request,
      `/api/sessions/${fit}/readings`,
      { id: randomUUID(), quantity, value },
      view.version,
    );
  }
  await send(request, `/api/sessions/${fit}/found`, {}, view.version);
  await page.reload();
  await station(page, "Hand-out");
  await page.getByRole("link", { name: "The next bike" }).press("Enter");
  await page.getByRole("button", { name: "Made to measure" }).press("Enter");
  await expect(page.getByRole("heading", { name: "Made to measure" })).toBeVisible();
  await expect(page.getByRole("row", { name: /Head angle/ })).toBeVisible();

  // Wishes that do not go together are told with what frees them, and nothing is kept.
  await page.getByLabel("Fork rake holds").focus();
  await page.keyboard.press("Space");
  await page.getByLabel("Head angle holds").focus();
  await page.keyboard.press("Space");
  await expect(page.getByText("Any of these frees it").first()).toBeVisible();
  await expect(page.getByRole("button", { name: "Keep it" })).toBeDisabled();
  await page.getByLabel("Head angle holds").focus();
  await page.keyboard.press("Space");
  await page.getByLabel("Fork rake holds").focus();
  await page.keyboard.press("Space");
  await expect(page.getByText("Any of these frees it")).toHaveCount(0);
  // A wish out of what there is stays beside its field.
  const trail = page.getByLabel("Trail", { exact: false }).first();
  await trail.fill("900");
  await trail.press("Enter");
  await expect(page.getByText("Trail is 10 to 150 mm")).toBeVisible();
  await trail.fill("60");
  await trail.press("Enter");
  await expect(page.getByRole("row", { name: /^Trail 60/ })).toBeVisible();
  expect((await new AxeBuilder({ page }).analyze()).violations).toEqual([]);

  await page.getByRole("button", { name: "Keep it" }).press("Enter");
  await expect(page.getByText("From Fit stand, fit 1", { exact: false }).first()).toBeVisible();
  for (const [name, file] of [
    ["Sheet for the builder, PDF", "frame-for-ida-lockwood-frame.pdf"],
    ["Drawing, DXF", "frame-for-ida-lockwood-frame.dxf"],
    ["The frame as CSV", "frame.csv"],
  ] as const) {
    const saved = page.waitForEvent("download");
    await page.getByRole("link", { name }).press("Enter");
    expect((await saved).suggestedFilename()).toBe(file);
  }
});

test("points that were typed are kept over a reload, and refused beside their field", async ({ page }) => {
  await newRider(page, IDA);
  await page.getByRole("link", { name: /^The next bike/ }).press("Enter");
  await expect(page.getByText("Nobody has ridden what is only typed.")).toBeVisible();
  const setback = page.getByLabel("Setback", { exact: false }).first();
  await setback.fill("231");
  await setback.press("Enter");
  await page.reload();
  await expect(page.getByLabel("Setback", { exact: false }).first()).toHaveValue("231");
  const height = page.getByLabel("Saddle height", { exact: false }).first();
  await height.fill("12");
  await height.press("Enter");
  await expect(page.getByRole("alert").first()).toBeVisible();
  await height.fill("730");
  await height.press("Enter");
  await page.getByRole("button", { name: "Made to measure" }).press("Enter");
  await expect(page.getByRole("row", { name: /Head angle/ })).toBeVisible();
});
