/** The room with several riders, files out and in, conventions, and a server that goes away. */
import { mkdtempSync, readFileSync, rmSync } from "node:fs";
import { tmpdir } from "node:os";
import { join } from "node:path";
import {
  expect,
  FERRY_RUNNER,
  field,
  IDA,
  newBike,
  newRider,
  sessionOf,
  settled,
  start,
  station,
  tapeAndClose,
  test,
  keepTrial,
} from "./wedge";

test("riders are found by letters, and a file goes from one studio to the next", async ({ page, request }) => {
  for (const name of ["Ida Lockwood", "Oda Weir", "Bram Slate"]) await newRider(page, { ...IDA, name });
  await page.goto("/");
  const list = page.getByRole("region", { name: "Other riders" }).getByRole("listitem");
  await expect(list).toHaveCount(3);
  await page.keyboard.press("/");
  await page.keyboard.type("da");
  await expect(list).toHaveCount(2);
  await expect(list.first()).toContainText("Ida Lockwood");
  await page.keyboard.type("%");
  await expect(page.getByText("No rider’s name holds “da%”")).toBeVisible();

  await page.getByLabel("Find a rider").fill("Oda");
  await page.getByRole("link", { name: /Oda Weir/ }).click();
  await newBike(page, "Ferry Runner", FERRY_RUNNER);
  await tapeAndClose(page, "712", "188");
  const id = (await sessionOf(page, request)).rider.id;
  await page.getByRole("link", { name: "Oda Weir" }).click();
  const [download] = await Promise.all([
    page.waitForEvent("download"),
    page.getByRole("link", { name: /Save everything about/ }).click(),
  ]);
  const file = await download.path();

  const folder = mkdtempSync(join(tmpdir(), "wedge-e2e-"));
  const other = await start("serve", join(folder, "other.sqlite"));
  await page.goto(other.url);
  const take = () =>
    page.getByLabel("Take in riders from a file").setInputFiles({
      name: "oda.json",
      mimeType: "application/json",
      buffer: readFileSync(file),
    });
  await take();
  await expect(page.getByRole("heading", { name: "Oda Weir" })).toBeVisible();
  const there = await (await request.get(`${other.url}/api/riders/${id}/file`)).text();
  expect(there).toBe(readFileSync(file, "utf8"));
  // A second time it is a conflict that says so.
  await page.goto(other.url);
  await take();
  await expect(page.getByRole("alert")).toContainText("Oda Weir");
  await expect(page.getByRole("alert")).toContainText("on record already");
  await page.getByRole("button", { name: "Take it in as a copy" }).click();
  await page.waitForURL(/\/riders\//);
  expect(await (await request.get(`${other.url}/api/riders`)).json()).toHaveLength(2);
  // The whole studio is one file, and a broken one of it changes nothing.
  const studio = await (await request.get(`${other.url}/api/studio/file`)).json();
  expect(studio.riders).toHaveLength(2);
  studio.riders[1].bikes[0].frame.head_angle_deg = 7;
  await page.goto(other.url);
  const riders = () => page.getByLabel("Take in riders from a file");
  await riders().setInputFiles({
    name: "studio.json",
    mimeType: "application/json",
    buffer: Buffer.from(JSON.stringify(studio)),
  });
  await expect(page.getByRole("alert")).toContainText("riders[1].bikes[0].frame.head_angle_deg");
  expect(await (await request.get(`${other.url}/api/riders`)).json()).toHaveLength(2);
  await other.stop();
  rmSync(folder, { recursive: true });
});

test("a number is read and written in the convention chosen", async ({ page, request }) => {
  await newRider(page, IDA);
  await newBike(page, "Ferry Runner", FERRY_RUNNER);
  await tapeAndClose(page, "712", "188");
  await station(page, "Saddle height");
  await page.getByLabel("Saddle height is taped").selectOption("BB to saddle top along the seat tube");
  const along = (await sessionOf(page, request)).now.after.dimensions.saddle_height_seat_tube_mm;
  await expect(field(page, "saddle_height_mm")).toHaveValue(String(Math.round(along * 10) / 10));
  await field(page, "saddle_height_mm").fill("705");
  await field(page, "saddle_height_mm").press("Enter");
  await settled(page);
  await field(page, "saddle_height_mm").press("Enter");
  await expect(page.getByRole("heading", { name: /on the bench/ })).toBeVisible();
  const tried = await sessionOf(page, request);
  expect(tried.now.after.dimensions.saddle_height_seat_tube_mm).toBeCloseTo(705, 6);
  // The post alone was turned: the setback followed it.
  expect(tried.trials[0].trial.foreseen.turns).toHaveLength(1);

  // M measures again: the bench takes what the tape reads now.
  await keepTrial(page);
  await expect(page.getByRole("heading", { name: "Your change" })).toBeVisible();
  await field(page, "stem_mm").focus();
  await page.keyboard.press("m");
  await page.keyboard.type("95");
  await page.keyboard.press("Enter");
  await expect.poll(async () => (await sessionOf(page, request)).input.setup.cockpit.stem_mm).toBe(95);
  expect((await sessionOf(page, request)).trials).toHaveLength(1);
});

test("a rider stays through a server that goes away and comes back", async ({ page }) => {
  const folder = mkdtempSync(join(tmpdir(), "wedge-e2e-"));
  const data = join(folder, "wedge.sqlite");
  const first = await start("serve", data);
  const port = Number(new URL(first.url).port);
  await page.goto(first.url);
  await page.getByLabel("Name", { exact: true }).fill(IDA.name);
  await page.getByLabel("Stature, mm, barefoot").fill("1712");
  await page.getByRole("button", { name: "Write down" }).click();
  await page.getByLabel("Fill in an ordinary bike").selectOption("Weir 54");
  await newBike(page, "Ferry Runner", {});
  await tapeAndClose(page, "712", "188");
  await first.stop();

  await field(page, "stem_mm").focus();
  await page.keyboard.press("ArrowDown");
  await expect(page.getByRole("status")).toHaveText("kept in this browser");
  await page.keyboard.press("Enter");
  await expect(page.getByText("Wedge does not answer").first()).toBeVisible();

  const second = await start("serve", data, port);
  await page.reload();
  await expect(field(page, "stem_mm")).toHaveValue("90");
  await settled(page);
  await expect(page.getByText("Stem 90", { exact: true })).toBeVisible();
  await expect(page.getByRole("status")).toHaveText("saved");
  await second.stop();
  rmSync(folder, { recursive: true });
});
