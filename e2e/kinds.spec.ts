/** Every kind of bar and of rider, on what was typed in. */
import {
  AERO,
  boxesApart,
  expect,
  FERRY_RUNNER,
  field,
  IDA,
  newBike,
  newRider,
  sessionOf,
  settled,
  station,
  tapeAndClose,
  walkTo,
  test,
  withBar,
  keepTrial,
} from "./wedge";

const FLAT = { "Bar width": "720", "Bar rise": "25", Backsweep: "9", Upsweep: "5", "Bar roll": "0" };

const KINDS = [
  {
    name: "an off-road bike",
    kind: "off_road",
    bar: "flat",
    parts: withBar(FLAT, { "Frame reach": "415", "Frame stack": "600", "Head angle": "66", "Front centre": "735" }),
    tape: ["705", "165"],
    step: "backsweep_deg",
    spot: "BB to grip",
    row: "saddle top to the grip",
    shape: ".board .grip",
  },
  {
    name: "a time-trial bike",
    kind: "time_trial",
    bar: "aero",
    parts: withBar(AERO, { "Seat tube angle": "78", "Frame stack": "500" }),
    tape: ["705", "120"],
    step: "pad_spacers_mm",
    spot: "BB to pad",
    row: "saddle top to the pad's centre",
    shape: ".board .pad",
  },
  {
    name: "a gravel bike",
    kind: "gravel",
    bar: "drop",
    parts: { ...FERRY_RUNNER, "Bar width": "460", "Frame stack": "575" },
    tape: ["705", "185"],
    step: "stem_mm",
    spot: "BB to hood",
    row: "saddle top to the hood",
    shape: ".board .lever",
  },
] as const;

for (const { name, kind, bar, parts, tape, step, spot, row, shape } of KINDS) {
  test(`${name} is typed in, drawn, stepped and handed out`, async ({ page, request }) => {
    await newRider(page, IDA);
    await newBike(page, "Ferry Runner", parts, [kind, bar]);
    const [height, setback] = tape;
    await tapeAndClose(page, height, setback);
    await expect(page.locator(shape)).toBeVisible();
    await expect(page.locator(".board-box", { hasText: spot })).toBeVisible();
    await boxesApart(page, `on ${name}`);

    await station(page, bar === "aero" ? "Pad stack" : "Bars");
    await expect(page.getByRole("img", { name: /^Front end: / })).toBeVisible();
    const torso = (await sessionOf(page, request)).now.after.upper.torso_deg;
    await field(page, step).focus();
    const was = await page.locator(".board .figure").innerHTML();
    await page.keyboard.press("ArrowUp");
    await page.keyboard.press("ArrowUp");
    await settled(page);
    await expect(page.locator(".board .lines.foreseen")).toBeVisible();
    await boxesApart(page, `on ${name} while ${step} is stepped`);
    await page.keyboard.press("Enter");
    await expect(page.getByRole("heading", { name: /on the bench/ })).toBeVisible();
    await expect.poll(() => page.locator(".board .figure").innerHTML()).not.toBe(was);
    const tried = await sessionOf(page, request);
    expect(tried.bike.kind).toBe(kind);
    expect(tried.now.after.upper.torso_deg).not.toBeCloseTo(torso, 6);
    await keepTrial(page);
    await expect(page.getByRole("heading", { name: "Your change" })).toBeVisible();

    await page.goto(`${page.url()}/hand-out`);
    await page.getByText("All conventions").click();
    await expect(page.getByRole("cell", { name: row, exact: true }).last()).toBeVisible();
  });
}

test("what nobody can reach is drawn and said: which limb, and how far", async ({ page }) => {
  await newRider(page, { ...IDA, stature: "1500", inseam: "690" });
  const far = { "Frame reach": "560", Stem: "160", "Frame stack": "520" };
  await newBike(page, "Barge", { ...FERRY_RUNNER, ...far });
  await tapeAndClose(page, "790", "240");
  const gap = page.locator(".board .gap text");
  await expect(gap).toHaveText([/^legs [\d.]+ mm short$/, /^arms [\d.]+ mm short$/]);
  await station(page, "Bars");
  await expect(page.getByText(/The right leg is [\d.]+ mm short of the pedal at crank \d+°\./)).toBeVisible();
  await expect(page.getByText(/The arms are [\d.]+ mm short of the hoods\./)).toBeVisible();
});

test("two legs are fitted apart: cranks, shims and what is drawn", async ({ page, request }) => {
  await newRider(page, IDA);
  await newBike(page, "Ferry Runner", FERRY_RUNNER);
  await walkTo(page, "Body");
  for (const [key, value] of [
    ["shank_mm.left", "382"],
    ["shank_mm.right", "396"],
  ] as const) {
    await page.locator(`[data-field="${key}"]`).fill(value);
    await page.locator(`[data-field="${key}"]`).press("Enter");
  }
  await expect.poll(async () => (await sessionOf(page, request)).input.rider.legs.right.shank_mm).toBe(396);
  await page.locator('[data-field="shank_mm.right"]').blur();
  await tapeAndClose(page, "706", "188");
  await expect(page.getByRole("img", { name: /^left foot: cleat 10 behind, pedal 13, sole 7/ })).toBeVisible();
  const shim = page.locator('.panel [data-field="shim_mm.left"]');
  await shim.fill("5");
  await shim.press("Enter");
  await settled(page);
  await expect(page.getByTestId("change-title")).toHaveText("Left shim 5");
  await shim.press("Enter");
  await expect(page.getByRole("heading", { name: /on the bench/ })).toBeVisible();
  await page.locator("main").click({ position: { x: 5, y: 5 } });
  await keepTrial(page);
  await expect(page.getByRole("heading", { name: "Your change" })).toBeVisible();

  await station(page, "Cranks");
  await expect(field(page, "crank_mm")).toBeVisible();
  const left = page.locator('.panel [data-field="crank_mm.left"]');
  await left.fill("165");
  await left.press("Enter");
  await settled(page);
  await left.press("Enter");
  await expect(page.getByRole("heading", { name: /on the bench/ })).toBeVisible();
  // Once they differ the board has a field for each.
  await expect(field(page, "crank_mm.left")).toHaveValue("165");
  await expect(field(page, "crank_mm.right")).toHaveValue("170");
  await boxesApart(page, "with two cranks");
  const { legs } = (await sessionOf(page, request)).now.after;
  expect(legs.left.poses[0].knee).not.toEqual(legs.right.poses[0].knee);
});

test("torso and arms are read where the hands are", async ({ page, request }) => {
  await newRider(page, IDA);
  await newBike(page, "Ferry Runner", FERRY_RUNNER);
  await tapeAndClose(page, "706", "188");
  await station(page, "Bars");
  const hoods = (await sessionOf(page, request)).now.after.upper.torso_deg;
  await page.getByLabel("Torso and arms are read on the").selectOption("drops");
  await expect.poll(async () => (await sessionOf(page, request)).now.after.hands).toBe("drops");
  expect((await sessionOf(page, request)).now.after.upper.torso_deg).toBeLessThan(hoods - 3);
});

test("two tabs on one rider: both values are shown, and none is lost", async ({ page, context, request }) => {
  await newRider(page, IDA);
  await newBike(page, "Ferry Runner", FERRY_RUNNER);
  await walkTo(page, "Body");
  const other = await context.newPage();
  await other.goto(page.url());
  const trunk = (tab: typeof page) => tab.locator('[data-field="trunk_mm"]');
  await expect(trunk(other)).toBeVisible();
  await trunk(page).fill("498");
  await trunk(page).press("Enter");
  await expect.poll(async () => (await sessionOf(page, request)).input.rider.body.trunk_mm).toBe(498);
  // The other tab has not seen it: its own number stays beside the one that was written.
  await trunk(other).fill("505");
  await trunk(other).press("Enter");
  await expect(other.getByText("Another window wrote 498; you typed 505.")).toBeVisible();
  await expect(trunk(other)).toHaveValue("505");
  expect((await sessionOf(page, request)).input.rider.body.trunk_mm).toBe(498);
  await trunk(other).press("Enter");
  await expect.poll(async () => (await sessionOf(page, request)).input.rider.body.trunk_mm).toBe(501.5);
  const readings = (await sessionOf(page, request)).rider.readings;
  expect(readings.filter((r: { quantity: string }) => r.quantity === "trunk_mm")).toHaveLength(2);

  // A name likewise.
  const rider = page.url().replace(/sessions.*/, `riders/${(await sessionOf(page, request)).rider.id}`);
  for (const tab of [page, other]) {
    await tab.goto(rider);
    await tab.getByRole("button", { name: "Correct the name" }).click();
  }
  await page.getByLabel("Name", { exact: true }).fill("Ida Lockwood-Weir");
  await page.getByRole("button", { name: "Keep it" }).click();
  await expect(page.getByRole("heading", { name: "Ida Lockwood-Weir" })).toBeVisible();
  await other.getByLabel("Name", { exact: true }).fill("Ida Sluice");
  await other.getByRole("button", { name: "Keep it" }).click();
  await expect(other.getByText("Another window wrote “Ida Lockwood-Weir”; you typed “Ida Sluice”.")).toBeVisible();
  await other.getByRole("button", { name: "Keep it" }).click();
  await expect(other.getByRole("heading", { name: "Ida Sluice" })).toBeVisible();
});

test("a rider has several bikes, each with its own positions", async ({ page }) => {
  await newRider(page, IDA);
  await newBike(page, "Ferry Runner", FERRY_RUNNER);
  await tapeAndClose(page, "706", "188");
  await page.getByRole("link", { name: IDA.name }).click();
  await expect(page.getByRole("img", { name: "As fit 1 left it" })).toBeVisible();
  await page.getByRole("button", { name: "Add a bike" }).click();
  await page.getByLabel("Fill in an ordinary bike").selectOption("Towpath M");
  await newBike(page, "Towpath M", {});
  await page.getByRole("link", { name: IDA.name }).click();
  await page.getByRole("button", { name: "Towpath M" }).click();
  await expect(page.getByText("No position yet")).toBeVisible();
  await page.getByRole("button", { name: "Ferry Runner" }).click();
  await expect(page.getByRole("cell", { name: "706 mm" })).toBeAttached();
  // Of two open fits the later stands in the room, once, and the keyboard walks into it.
  await page.goto("/");
  await expect(page.getByRole("article").filter({ hasText: IDA.name })).toHaveCount(1);
  await page.keyboard.press("Enter");
  await expect(page.locator(".way [aria-current]")).toHaveText("Intake");
  await expect(page.getByText("· Towpath M · fit 1")).toBeVisible();
});
