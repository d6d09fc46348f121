/** Kinds of riding: an aero rider turned as one piece and judged, an off-road rider from stature to sag; by keyboard, typed in. */
import AxeBuilder from "@axe-core/playwright";
import {
  AERO,
  away,
  expect,
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

/** Something under the pads to turn by. */
const PADS = { ...AERO, "Pad spacers": "40", "Pad tilt": "10" };
const TRAIL = { "Bar width": "760", "Bar rise": "20", Backsweep: "8", Upsweep: "5", "Bar roll": "0" };

/** Types a number into a field that is on the page, with the keyboard. */
async function types(page: Page, label: string | RegExp, text: string) {
  const box = page.getByRole("textbox", { name: label }).first();
  await box.focus();
  await box.fill(text);
  await page.keyboard.press("Enter");
}

/** The session's own record, asked by the page. */
const recorded = (page: Page) =>
  page.evaluate(async () => {
    const answer = await fetch(`/api/sessions/${location.pathname.split("/").pop() ?? ""}`);
    return (await answer.json()) as Awaited<ReturnType<typeof sessionOf>>;
  });

test("an aero rider is turned about the BB, judged beside the position as found, and kept", async ({ page }) => {
  test.slow();
  await newRider(page, IDA);
  await newBike(page, "Sluice", withBar(PADS, { "Seat tube angle": "79", "Frame stack": "500" }), [
    "time_trial",
    "aero",
  ]);
  await types(page, /^Event takes/, "40 min");
  await page.getByLabel("Wind, where it was measured").or(page.getByText("Wind, where it was measured")).click();
  await types(page, /^Drag area/, "0,24");
  await types(page, /^Air density/, "1,2");
  await types(page, /^Speed/, "43,2 km/h");
  await expect(page.locator("header .state")).toHaveText("saved");
  await away(page);
  await tapeAndClose(page, "705", "125");
  await expect(page.locator(".way")).toContainText("Fore-aft");
  // The pads have stations of their own, each with its first measure.
  await walkTo(page, "Pad reach");
  await expect(page.getByRole("region", { name: "Where the hands belong" })).toBeVisible();
  await types(page, /^Ear ahead/, "500");
  await expect(page.getByRole("alert").filter({ hasText: "400" })).toBeVisible();
  await types(page, /^Ear ahead/, "20");
  await away(page);
  await walkTo(page, "Pad stack");
  await expect(page.locator(".panel").getByText("Drop as a share").first()).toBeVisible();
  await walkTo(page, "Rotation");
  const turn = page.getByRole("region", { name: "Turn the position" });
  await expect(turn).toContainText("As far as the parts go");
  await away(page);

  // Two degrees by key, one back on the handle itself, and it outlives a reload.
  const before = await recorded(page);
  await page.keyboard.press("]");
  await page.keyboard.press("]");
  const handle = page.getByTestId("turn-handle");
  await expect(handle).toHaveAttribute("aria-valuenow", "2");
  await handle.focus();
  await page.keyboard.press("ArrowUp");
  await expect(handle).toHaveAttribute("aria-valuenow", "1");
  await settled(page);
  await expect(page.locator(".board .lines.foreseen")).toBeVisible();
  await page.reload();
  await expect(page.getByTestId("turn-handle")).toHaveAttribute("aria-valuenow", "1");
  await expect(turn.getByRole("row", { name: /^Seat angle/ })).toContainText("+1");
  await page.getByTestId("turn-handle").press("ArrowDown");
  await page.getByTestId("turn-handle").press("ArrowUp");
  await expect(page.locator(".board .lines.foreseen")).toBeVisible();

  // Dragged: the knob follows the pointer about the BB.
  const knob = await page.getByTestId("turn-handle").locator("circle").boundingBox();
  if (!knob) throw new Error("the handle is drawn");
  await page.mouse.move(knob.x + knob.width / 2, knob.y + knob.height / 2);
  await page.mouse.down();
  await page.mouse.move(knob.x + knob.width / 2 + 4, knob.y + knob.height / 2 + 12, { steps: 3 });
  await page.mouse.up();
  const dragged = Number(await page.getByTestId("turn-handle").getAttribute("aria-valuenow"));
  expect(dragged).toBeGreaterThan(1);
  await types(page, /^Forward, front down/, "1");
  await expect(page.getByTestId("turn-handle")).toHaveAttribute("aria-valuenow", "1");
  await settled(page);

  // The sheet: as found beside the turn; the ear as seen; watts from what was measured.
  await away(page);
  await page.keyboard.press("c");
  await expect(page.getByRole("columnheader", { name: "Turned 1°" })).toBeVisible();
  await expect(page.getByRole("row", { name: /^Against the wind/ })).toContainText("W");
  await expect(page.getByRole("row", { name: /^Ear ahead/ })).toContainText("20 mm");
  await types(page, /^Ear ahead/, "40");
  await expect(page.getByRole("row", { name: /^Ear ahead/ })).toContainText("pads out");
  await expect(page.getByRole("img", { name: /both from the BB/ })).toBeVisible();
  await expect(page.getByRole("region", { name: "Rules of governing bodies" })).toContainText("current rules");
  await away(page);
  await page.keyboard.press("c");

  await settled(page);
  await page.keyboard.press("Enter");
  await expect(page.getByRole("heading", { name: /on the bench/ })).toBeVisible();
  await types(page, /^Held, minutes/, "25");
  await away(page);
  await keepTrial(page);
  await expect(page.getByRole("heading", { name: "Your change" })).toBeVisible();
  const after = await recorded(page);
  const [was, is] = [before.now.after, after.now.after];
  expect(is.dimensions.drop_share_percent).toBeGreaterThan(was.dimensions.drop_share_percent + 1);
  expect(is.dimensions.setback_seat_angle_deg - was.dimensions.setback_seat_angle_deg).toBeCloseTo(1, 0);
  await page.keyboard.press("c");
  await expect(page.getByRole("row", { name: /^Held so far/ })).toContainText("25 minof 40 minutes");
  await page.keyboard.press("c");

  // What the front has done to all before it is due again, and done from one place.
  await walkTo(page, "Recheck");
  const due = page.getByRole("region", { name: "Due again" });
  const left = await due.getByRole("button", { name: /^Checked, stays/ }).count();
  expect(left).toBeGreaterThan(1);
  await page.keyboard.press("x");
  await expect(due.getByRole("button", { name: /^Checked, stays/ })).toHaveCount(left - 1);
  expect((await new AxeBuilder({ page }).analyze()).violations).toEqual([]);
});

test("an off-road rider goes from stature to size, cockpit, sag and a kept position", async ({ page }) => {
  test.slow();
  const frame = (reach: string, stack: string) => ({
    "Frame reach": reach,
    "Frame stack": stack,
    "Head angle": "66",
    "Front centre": "755",
  });
  await newRider(page, IDA);
  await newBike(page, "Scree", withBar(TRAIL, frame("430", "605")), ["off_road", "flat"]);
  await walkTo(page, "Body");
  await types(page, /^Arm span/, "1740");
  await types(page, /^Floor to knuckles/, "812");
  await types(page, /^Fist angle/, "9");
  await expect(page.locator("header .state")).toHaveText("saved");
  await away(page);
  await page.keyboard.press("j");
  await expect(page.locator(".way [aria-current]")).toHaveText("Intake");
  await types(page, /^Usual climb/, "9");
  await away(page);
  await tapeAndClose(page, "700", "150");

  await walkTo(page, "Setback & tilt");
  const grade = page.getByRole("region", { name: "On a grade" });
  await grade.getByRole("button", { name: /The usual climb, 9 %/ }).click();
  await expect(grade).toContainText(/mm further back/);
  await expect(page.locator(".plumb-on-grade text")).toHaveText("plumb on 9 %");
  await grade.getByRole("slider").press("Home");
  await expect(grade).toContainText(/further forward/);
  await away(page);

  await walkTo(page, "Bars");
  const cockpit = page.getByRole("region", { name: "Cockpit" });
  await expect(cockpit).toContainText("BB to grips wanted: 812 mm");
  await cockpit
    .getByRole("button", { name: /^Foresee it/ })
    .first()
    .focus();
  await page.keyboard.press("Enter");
  await settled(page);
  await expect(page.locator(".board .lines.foreseen")).toBeVisible();
  await away(page);
  await page.keyboard.press("Enter");
  await expect(page.getByRole("heading", { name: /on the bench/ })).toBeVisible();
  await keepTrial(page);
  await expect(page.getByRole("heading", { name: "Your change" })).toBeVisible();

  // A test day of one dial: the ends first, then the half between them.
  await page
    .getByRole("group", { name: "Protocols" })
    .getByRole("button", { name: /Test day/ })
    .focus();
  await page.keyboard.press("Enter");
  for (const [rides, call] of [
    ["16 clicks", "1"],
    ["0 clicks", "3"],
    ["8 clicks", "2"],
  ] as const) {
    await expect(page.getByTestId("instruction")).toContainText(`Fork rebound: ${rides}`);
    await page.keyboard.press(call);
  }
  await expect(page.getByTestId("instruction")).toHaveText("Fork rebound: 8 clicks");
  await page.keyboard.press("Enter");
  await expect(page.locator("button.call").first()).toContainText(/Back to the board|Foresee/);
  await page.keyboard.press("Escape");
  await station(page, "Bars");
  await away(page);
  await expect(page.getByRole("region", { name: "Found in this fit" })).toContainText("8 right");

  await page.keyboard.press("c");
  const fork = page.getByRole("region", { name: "Fork" });
  await types(page, /^Fork travel/, "150");
  await types(page, /^Fork pressure/, "80 psi");
  await types(page, /^Fork ring/, "20");
  await expect(fork).toContainText("13 %, 30 wanted: too firm, let air out.");
  await expect(fork).toContainText("The ring at 45 mm is 30 %");
  await types(page, /^Fork ring/, "nonsense");
  await expect(fork.getByText(/is not a number/)).toBeVisible();
  await expect(page.getByRole("region", { name: "Under sag" })).toContainText("Head angle");
  await expect(page.getByRole("region", { name: "Under sag" })).toContainText(/Saddle tilt −/);
  await expect(page.getByRole("region", { name: "Dropper" })).toContainText(/longest that goes|None that is sold/);
  const record = await recorded(page);
  const read = record.session.readings.filter((r: { quantity: string }) => r.quantity.startsWith("fork_"));
  // Each is read by the server before it is written down: they may arrive in another order.
  const values = read.map((r: { value: number }) => Math.round(r.value * 10) / 10);
  expect(values.sort((a: number, b: number) => a - b)).toEqual([5.5, 20, 150]);
});

test("a size is told before there is a bike, and a studio's limits and federations are its own", async ({
  page,
  request,
}) => {
  await newRider(page, IDA);
  const url = page.url();
  const csv = [
    "name,kind,frame_reach_mm,frame_stack_mm,head_angle_deg,head_tube_mm,seat_angle_deg,seat_tube_mm,chainstay_mm,bb_drop_mm,front_centre_mm,wheel_radius_mm,lower_stack_mm",
    "Scree S,off_road,415,600,66,100,76,400,430,30,740,370,10",
    "Scree M,off_road,440,610,66,105,76,430,430,30,765,370,10",
    "Scree L,off_road,465,620,66,110,76,450,430,30,790,370,10",
  ].join("\n");
  const sent = await request.post("/api/frames/import", { data: csv, headers: { "content-type": "text/csv" } });
  expect(sent.ok(), await sent.text()).toBe(true);
  await page.goto(url);
  const size = page.getByRole("region", { name: "Off-road size" });
  // 171.2 cm × 2.55 is 437 mm: M and S are nearest, and floor to knuckles would decide.
  await expect(size).toContainText("437 mm");
  await expect(size.getByRole("row", { name: /Scree M/ })).toContainText("▸");
  await expect(size).toContainText("measure it at Body");

  await page.goto("/studio");
  await page.getByLabel("Pads slide, either way").fill("25");
  await page.keyboard.press("Enter");
  await expect(page.getByRole("status").first()).toHaveText("Saved");
  await page.getByRole("button", { name: "Add a federation’s table" }).click();
  await page.getByRole("textbox", { name: "Federation" }).fill("Lock and Weir Cyclists");
  await page.getByLabel("Read on (2026-03-01)").fill("soon");
  await page.getByRole("button", { name: "Add", exact: true }).click();
  await expect(page.getByText(/The day its rules were read/)).toBeVisible();
  await page.getByLabel("Read on (2026-03-01)").fill("2026-11-02");
  await page.getByRole("button", { name: "Add", exact: true }).click();
  await expect(page.getByRole("listitem").filter({ hasText: "Lock and Weir Cyclists" })).toContainText("2026-11-02");

  // The studio's rotors: a line more, its sizes, and a mass that can not be.
  const rotors = page.getByRole("region", { name: "Rotors" });
  await rotors.getByRole("button", { name: "Add a line" }).click();
  await page.getByLabel("Line 4, riders over").fill("60");
  await page.keyboard.press("Enter");
  await expect(rotors.getByRole("alert")).toContainText("heavier riders than the one before");
  await page.getByLabel("Line 4, riders over").fill("110");
  await page.keyboard.press("Enter");
  await page.getByLabel("Rotor front, trail, riders over 110 kg").fill("223");
  await page.keyboard.press("Enter");
  await expect(page.getByRole("status").first()).toHaveText("Saved");
  await page.reload();
  await expect(page.getByLabel("Pads slide, either way")).toHaveValue("25");
  await expect(page.getByLabel("Rotor front, trail, riders over 110 kg")).toHaveValue("223");
});
