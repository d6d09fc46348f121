/** Altering any one length alters drawing and API alike. */
import { expect, FERRY_RUNNER, field, IDA, newBike, newRider, sessionOf, station, test } from "./wedge";

const BODY = ["stature_mm", "inseam_mm", "trunk_mm", "upper_arm_mm.left", "forearm_mm.right"];
const LEGS = ["thigh_mm.right", "shank_mm.left", "ankle_height_mm.right", "foot_length_mm.left"];
const FRAME = ["frame_reach_mm", "frame_stack_mm", "head_angle_deg", "head_tube_mm", "seat_angle_deg", "seat_tube_mm"];
const WHEELS = ["chainstay_mm", "bb_drop_mm", "front_centre_mm", "wheel_radius_mm"];
const PARTS = ["cover_mm", "stem_clamp_mm", "bar_reach_mm", "hood_forward_mm", "hood_rise_mm", "saddle_length_mm"];
const BOARD = ["saddle_height_mm", "setback_mm", "tilt_deg", "crank_mm", "cleat_setback_mm.right"];
const FRONT = ["spacers_below_mm", "stem_mm", "stem_angle_deg"];

/** A little more than what stands there, or than what is estimated. */
const more: Record<string, number> = {
  "thigh_mm.right": 412,
  "shank_mm.left": 405,
  "ankle_height_mm.right": 75,
  "foot_length_mm.left": 251,
  trunk_mm: 505,
  "upper_arm_mm.left": 330,
  "forearm_mm.right": 262,
  saddle_height_mm: 720,
  setback_mm: 205,
};

test("every length is drawn and answered", async ({ page, request }) => {
  test.slow();
  await newRider(page, IDA);
  await newBike(page, "Ferry Runner", FERRY_RUNNER);

  const drawn = () => page.locator(".board .figure").innerHTML();
  const alter = async (key: string) => {
    const input = page.locator(`[data-field="${key}"]`);
    const was = { drawing: await drawn(), now: (await sessionOf(page, request)).now.after };
    const value = more[key] ?? Number((await input.inputValue()).replace("−", "-")) + 4;
    await input.fill(String(value));
    await input.press("Enter");
    await expect.poll(drawn, { message: `${key} is drawn` }).not.toBe(was.drawing);
    const now = (await sessionOf(page, request)).now.after;
    expect(JSON.stringify(now), `${key} is answered`).not.toBe(JSON.stringify(was.now));
  };

  // The body is typed at its own station, and drawn on the board after.
  await station(page, "Bike as found");
  const before = await drawn();
  await station(page, "Body");
  for (const key of [...BODY, ...LEGS]) {
    const was = JSON.stringify((await sessionOf(page, request)).now.after);
    const input = page.locator(`[data-field="${key}"]`);
    const value = more[key] ?? Number((await input.inputValue()).replace("−", "-")) + 4;
    await input.fill(String(value));
    await input.press("Enter");
    const now = async () => JSON.stringify((await sessionOf(page, request)).now.after);
    await expect.poll(now, { message: `${key} is answered` }).not.toBe(was);
  }
  await station(page, "Bike as found");
  expect(await drawn()).not.toBe(before);
  for (const key of [...BOARD, ...FRONT]) await alter(key);
  await page.getByText("Frame", { exact: true }).click();
  for (const key of [...FRAME, ...WHEELS]) await alter(key);
  await page.getByText("Parts", { exact: true }).click();
  for (const key of PARTS) await alter(key);

  // The unmeasured is marked estimated, the measured no longer.
  await station(page, "Body");
  await expect(page.locator('[data-field="thigh_mm.left"]')).toHaveAttribute("placeholder", /^≈ \d/);
  await expect(page.locator('[data-field="thigh_mm.right"]')).toHaveValue("412");
  await station(page, "Bike as found");
  await expect(field(page, "saddle_height_mm")).toHaveValue("720");
});
