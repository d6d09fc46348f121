/** Film and markers: a still and a clip clicked, found, followed and kept; files of markers to the sample table and to evidence. */
import AxeBuilder from "@axe-core/playwright";
import { readFileSync } from "node:fs";
import type { Page } from "@playwright/test";
import { expect, FERRY_RUNNER, IDA, idOf, newBike, newRider, tapeAndClose, test, walkTo } from "./wedge";

type Pixel = [number, number];
interface Seen {
  side: string;
  bike_px: { rear: Pixel; front: Pixel; bb: Pixel; rear_rim: Pixel[]; front_rim: Pixel[] };
  dots_px: Record<string, Pixel>;
  truth: Record<string, number>;
}
const SAMPLES = "../samples/looking/";
const truth = (JSON.parse(readFileSync(`${SAMPLES}truth.json`, "utf8")) as { files: Record<string, Seen> }).files;

/** A fit whose bike as found is closed, at the first look. */
async function fit(page: Page): Promise<string> {
  await newRider(page, IDA);
  await newBike(page, "Ferry runner", FERRY_RUNNER);
  await tapeAndClose(page, "712", "188");
  return idOf(page);
}

/** Where a point of the picture is on the page. */
async function at(page: Page, [u, v]: Pixel): Promise<{ x: number; y: number }> {
  const box = await page.locator(".film .stage").boundingBox();
  if (!box) throw new Error("no picture");
  return { x: box.x + (u * box.width) / 1280, y: box.y + (v * box.height) / 720 };
}

async function click(page: Page, point: Pixel) {
  const { x, y } = await at(page, point);
  await page.mouse.click(x, y);
}

async function drag(page: Page, from: Pixel, to: Pixel) {
  const [a, b] = [await at(page, from), await at(page, to)];
  await page.mouse.move(a.x, a.y);
  await page.mouse.down();
  await page.mouse.move(b.x, b.y, { steps: 3 });
  await page.mouse.up();
}

/** The points of the picture as this browser keeps them. */
const points = (page: Page, session: string) =>
  page.evaluate(
    (key) => (JSON.parse(localStorage.getItem(key) ?? "{}") as { points: Record<string, Pixel> }).points,
    `film.${session}`,
  );

/** Axles, tyres and BB by mouse. */
async function wheels(page: Page, session: string, seen: Seen) {
  const { rear, front, bb, rear_rim, front_rim } = seen.bike_px;
  await click(page, rear);
  await expect(page.getByText("Click: Front axle")).toBeVisible();
  await click(page, front);
  await expect(page.getByText("Click: Bottom bracket")).toBeVisible();
  // The edges stand ready: each is dragged to where the tyre's edge nearest to it is.
  for (const [wheel, rim] of [
    ["rear", rear_rim],
    ["front", front_rim],
  ] as const) {
    for (const edge of ["above", "ahead", "below", "behind"]) {
      const from = (await points(page, session))[`${wheel}_${edge}`];
      if (!from) throw new Error(`no ${wheel} ${edge}`);
      const far = (point: Pixel) => Math.hypot(point[0] - from[0], point[1] - from[1]);
      const to = [...rim].sort((a, b) => far(a) - far(b))[0];
      if (to) await drag(page, from, to);
    }
  }
  await page.keyboard.press("Escape");
  await click(page, bb);
}

const value = async (page: Page, key: string) =>
  Number.parseFloat(((await page.locator(`[data-figure="${key}"] td`).first().textContent()) ?? "").replace("−", "-"));

test("a still is clicked, its dots found, and kept as seen; a reload goes on where it was; facing left", async ({
  page,
}) => {
  const session = await fit(page);
  await walkTo(page, "First look").catch(() => undefined);
  await page.goto(`/sessions/${session}/film`);
  await expect(page.getByText("both wheels in view")).toBeVisible();
  expect((await new AxeBuilder({ page }).analyze()).violations).toEqual([]);
  const file = page.getByLabel("A photo or a clip from the side");
  await file.setInputFiles({ name: "letter.jpg", mimeType: "image/jpeg", buffer: Buffer.from("no picture") });
  await expect(page.getByRole("alert")).toContainText("does not open here");

  await file.setInputFiles(`${SAMPLES}os1_square.jpg`);
  await wheels(page, session, truth["os1_square.jpg"] as Seen);
  await page.reload();
  await expect(page.getByText("are kept in this browser")).toBeVisible();
  await file.setInputFiles(`${SAMPLES}os1_square.jpg`);
  await expect(page.getByText("Click: Pedal axle")).toBeVisible();

  // One dot named by key and clicked, nudged a pixel there and back, the others found by it.
  const still = truth["os1_square.jpg"] as Seen;
  await page.keyboard.press("4");
  await expect(page.getByText("Place: Knee")).toBeVisible();
  await click(page, still.dots_px.knee as Pixel);
  await page.keyboard.press("ArrowLeft");
  await page.keyboard.press("ArrowRight");
  await page.keyboard.press("d");
  await expect(page.locator('[data-figure="elbow_deg"]')).toBeVisible();
  expect((await new AxeBuilder({ page }).analyze()).violations).toEqual([]);
  const wanted = still.truth;
  expect(Math.abs((await value(page, "knee_deg")) - (wanted.knee_deg ?? 0))).toBeLessThan(1);
  expect(Math.abs((await value(page, "torso_deg")) - (wanted.torso_deg ?? 0))).toBeLessThan(1.5);
  await page.keyboard.press("Escape");
  await page.keyboard.press("Enter");
  await expect(page.getByRole("status")).toContainText("Kept:");

  // The other side is another picture, of a rider who faces left; the first one can be laid over it.
  const left = truth["os3_left_tilted.jpg"] as Seen;
  await file.setInputFiles(`${SAMPLES}os3_left_tilted.jpg`);
  await wheels(page, session, left);
  await page.keyboard.press("4");
  await click(page, left.dots_px.knee as Pixel);
  await page.keyboard.press("d");
  await expect(page.getByText("Read off the picture, left side")).toBeVisible();
  await expect(page.locator('[data-figure="elbow_deg"]')).toBeVisible();
  expect(Math.abs((await value(page, "knee_deg")) - (left.truth.knee_deg ?? 0))).toBeLessThan(1);
  await page.getByRole("button", { name: /os1_square/ }).click();
  await expect(page.getByText(/The cranks stand (89|90|91)° apart/)).toBeVisible();

  // What was kept is at the look, by film, with its own spread.
  const seen = (await (await page.request.get(`/api/sessions/${session}`)).json()) as {
    seen: { entry: { body: { seen?: { output: string; method: string; spread: number } } } }[];
  };
  const torso = seen.seen.map((row) => row.entry.body.seen).find((one) => one?.output === "torso_deg");
  expect(torso?.method).toBe("film");
  expect(torso?.spread).toBeGreaterThan(0.5);
});

test("a clip is played through once, followed by its dots and read stroke by stroke", async ({ page }) => {
  test.setTimeout(240_000);
  const session = await fit(page);
  await page.goto(`/sessions/${session}/film`);
  const file = page.getByLabel("A photo or a clip from the side");
  await file.setInputFiles(`${SAMPLES}ov1_side.webm`);
  await expect(page.getByText(/^Frame 1 of/)).toBeVisible({ timeout: 120_000 });
  const clip = truth["ov1_side.webm"] as unknown as Omit<Seen, "dots_px"> & { dots_px: Record<string, Pixel>[] };
  await wheels(page, session, clip as unknown as Seen);
  await page.keyboard.press("4");
  await click(page, clip.dots_px[0]?.knee as Pixel);
  await page.keyboard.press("d");
  await expect(page.getByText("Find the dots, then follow them")).toBeVisible();
  await expect(page.locator('[data-figure="elbow_deg"]')).toBeVisible();
  await page.getByRole("button", { name: "Follow through the clip" }).click();
  await expect(page.getByText("Read off the clip, right side")).toBeVisible({ timeout: 120_000 });
  for (const [key, within] of [
    ["knee_smallest_deg", 0.7],
    ["knee_largest_deg", 0.7],
    ["hip_closed_deg", 0.7],
    ["torso_deg", 1.5],
    ["elbow_deg", 2.5],
    ["knee_over_axle_mm", 6],
  ] as const) {
    const off = (await value(page, key)) - (clip.truth[key] ?? 0);
    expect(Math.abs(off), key).toBeLessThanOrEqual(within);
  }
  await page.keyboard.press("Escape");
  await page.keyboard.press("Enter");
  await expect(page.getByRole("status")).toContainText("Kept:");
});

interface FromAhead {
  points: Record<string, Pixel>;
  size: Pixel;
  truth: Record<"left" | "right", Pixel>;
}

test("from ahead: knees are read off a clip, a frame is kept only after asking, and the take stands in the table", async ({
  page,
}) => {
  test.setTimeout(180_000);
  const session = await fit(page);
  await page.goto(`/sessions/${session}/film?from=ahead`);
  await expect(page.getByText("a dot on each kneecap")).toBeVisible();
  expect((await new AxeBuilder({ page }).analyze()).violations).toEqual([]);
  const ahead = JSON.parse(readFileSync("../samples/ahead.json", "utf8")) as FromAhead;
  const file = page.getByLabel("A clip, from the front");
  await file.setInputFiles(`${SAMPLES}os1_square.jpg`);
  await expect(page.getByRole("alert")).toContainText("a clip is read");
  await file.setInputFiles("../samples/ahead.webm");
  await expect(page.getByText(/^Frame 1 of/)).toBeVisible({ timeout: 60_000 });
  for (const key of Object.keys(ahead.points)) {
    const box = await page.locator(".film .stage").boundingBox();
    const [u, v] = ahead.points[key] as Pixel;
    if (!box) throw new Error("no picture");
    await page.mouse.click(box.x + (u * box.width) / ahead.size[0], box.y + (v * box.height) / ahead.size[1]);
  }
  await page.keyboard.press("d");
  await expect(page.getByText("Find the dots, then follow them")).toBeVisible();
  await page.getByRole("button", { name: "Follow through the clip" }).click();
  await expect(page.getByText("Read off the clip, from the front")).toBeVisible({ timeout: 60_000 });
  for (const side of ["left", "right"] as const) {
    const [push, rise] = ahead.truth[side];
    expect(Math.abs((await value(page, `knee_push_mm.${side}`)) - push), side).toBeLessThan(7);
    expect(Math.abs((await value(page, `knee_rise_mm.${side}`)) - rise), side).toBeLessThan(7);
  }

  // Nobody was asked: no frame can be kept. A yes is asked for, and dated.
  await expect(page.getByLabel("Keep this frame as well")).toHaveCount(0);
  await page.getByRole("button", { name: "May a frame be kept? Ask" }).click();
  await page.getByRole("button", { name: "Yes" }).click();
  await page.getByLabel("Keep this frame as well").check();
  await expect(page.getByText(/said yes on/)).toBeVisible();
  await page.getByRole("button", { name: "Keep as a take" }).click();
  await expect(page.getByText("Kept as a take, with the picture")).toBeVisible();
  await expect(page.getByRole("button", { name: "Delete the picture of ahead.webm" })).toBeVisible();
  expect((await new AxeBuilder({ page }).analyze()).violations).toEqual([]);

  await page.locator(".film .right").getByRole("link", { name: "Takes" }).click();
  await expect(page.locator('[data-figure="knee_push_mm"]')).toBeVisible();
  await expect(page.getByText("right knee: in while pushing")).toBeVisible();
  await page.getByLabel("right knee: in while pushing").check();
  await page.keyboard.press("k");
  await expect(page.getByRole("status")).toContainText("Kept at the look");

  // No takes it back, and the picture with it.
  await page.goto(`/sessions/${session}/film`);
  await page.getByRole("button", { name: "Taken back: delete them all" }).click();
  await expect(page.getByRole("status")).toContainText("Deleted.");
  await expect(page.getByRole("button", { name: /Delete the picture/ })).toHaveCount(0);
});

test("files of markers become the sample table, and what they show is kept by key", async ({ page }) => {
  const session = await fit(page);
  await page.goto(`/sessions/${session}/takes`);
  await expect(page.getByText("No take of markers yet")).toBeVisible();
  const file = page.getByLabel("A file of markers or torque");
  await file.setInputFiles({ name: "cut.trc", mimeType: "text/plain", buffer: Buffer.from("PathFileType\t4\n") });
  await expect(page.getByRole("alert")).toContainText("row 3");
  await file.setInputFiles(`${SAMPLES}o1_smooth.trc`);
  await expect(page.locator('[data-figure="knee_smallest_deg"]')).toBeVisible();
  await file.setInputFiles(`${SAMPLES}o2_choppy.trc`);
  await expect(page.locator('[data-figure="knee_smallest_deg"] .real').first()).toContainText(/−[45]\.\d ±/);
  await expect(page.getByText(/bottom is rougher/).first()).toBeVisible();
  for (const view of ["Ankle paths", "Knee over the stroke", "Pelvis"]) {
    await page.getByRole("button", { name: view }).click();
    await expect(page.locator(".plots svg").first()).toBeVisible();
  }
  expect((await new AxeBuilder({ page }).analyze()).violations).toEqual([]);
  await page.keyboard.press("k");
  await expect(page.getByRole("status")).toContainText("Kept at the look");

  // A name nobody knows is asked about once; the swap of sides too.
  const text = readFileSync(`${SAMPLES}o1_smooth.trc`, "utf8").replace("L_hip", "L_hip_front");
  await file.setInputFiles({ name: "odd.trc", mimeType: "text/plain", buffer: Buffer.from(text) });
  await page.getByLabel("L_hip_front").selectOption("hip left");
  await page.getByRole("button", { name: "Keep the take" }).click();
  await expect(page.getByText("odd.trc")).toBeVisible();
  await expect(page.getByRole("columnheader", { name: "First" }).first()).toBeVisible();
});
