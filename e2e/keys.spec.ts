/** A fit with the hands on the keys: what it costs beyond typing. */
import type { Page } from "@playwright/test";
import { expect, IDA, settled, test } from "./wedge";

/** Counts every press that is not the typing of what is entered. */
class Hands {
  presses = 0;
  entries = 0;
  readonly cost: string[] = [];

  constructor(readonly page: Page) {}

  async press(key: string) {
    this.presses += 1;
    await this.page.keyboard.press(key);
  }

  /** Walks by Tab until something has the focus. */
  async to(label: RegExp) {
    const before = this.presses;
    const named = () =>
      this.page.evaluate(() => {
        const at = document.activeElement;
        const labels = at instanceof HTMLInputElement || at instanceof HTMLSelectElement ? at.labels : null;
        return labels?.[0]?.textContent ?? at?.getAttribute("aria-label") ?? at?.textContent ?? "";
      });
    for (let steps = 0; !label.test(await named()); steps += 1) {
      expect(steps, `Tab to ${String(label)}`).toBeLessThan(40);
      await this.press("Tab");
    }
    this.cost.push(`${this.presses - before} to ${String(label)}`);
  }

  async type(text: string) {
    this.entries += 1;
    await this.page.keyboard.type(text);
  }
}

test("thirty entries of a fit cost fewer than ninety presses beyond typing", async ({ page }) => {
  await page.goto("/");
  await page.getByText("Nobody is on record yet").waitFor();
  const hands = new Hands(page);
  const here = page.locator(".way [aria-current]");

  // The rider and the bike.
  await hands.press("n");
  for (const [index, text] of [IDA.name, IDA.stature, IDA.inseam, IDA.mass].entries()) {
    if (index > 0) await hands.press("Tab");
    await hands.type(text);
  }
  await hands.press("Enter");
  await expect(page.getByRole("heading", { name: IDA.name })).toBeVisible();
  await expect(page.getByLabel("Name of the bike")).toBeFocused();
  await hands.type("Ferry Runner");
  await hands.to(/^Fill in an ordinary bike/);
  await hands.type("Weir 54");
  await hands.press("Enter");
  await hands.to(/^Frame reach/);
  await hands.press("Enter");
  await expect(here).toHaveText("Intake");

  // Intake: no red flag, what hurts, how, how bad, and in whose words.
  await hands.press("0");
  hands.entries += 1;
  await hands.press("f");
  await hands.type("Low back");
  await hands.press("Enter");
  await expect(page.getByLabel("Feels")).toBeFocused();
  await hands.type("Tight");
  await hands.press("Enter");
  await hands.to(/^How bad/);
  await hands.type("4");
  await hands.to(/^When in the ride/);
  await hands.type("Late");
  await hands.press("Enter");
  await hands.to(/^In the rider’s words/);
  await hands.type("pulls after two hours");
  await hands.press("Alt+l");

  // Body.
  await expect(here).toHaveText("Body");
  for (const [label, text] of [
    [/^Trunk/, "588"],
    [/^Shoulder breadth/, "372"],
    [/^Thigh/, "421"],
    [/^Shank/, "409"],
    [/^Upper arm/, "306"],
    [/^Forearm/, "251"],
    [/^Foot length/, "262"],
    [/^Foot width/, "98"],
  ] as const) {
    await hands.to(label);
    await hands.type(text);
  }
  await hands.press("Alt+l");

  // The bike as found.
  await expect(here).toHaveText("Bike as found");
  for (const [label, text] of [
    [/^saddle height/, "712"],
    [/^saddle tilt/, "-1"],
    [/^setback/, "188"],
    [/^drop/, "62"],
    [/^BB to/, "548"],
  ] as const) {
    await hands.to(label);
    await hands.type(text);
  }
  await hands.press("Enter");
  // A key that is still out is no stop of Tab: it is walked to once it is in.
  await expect(page.getByRole("button", { name: "Close bike as found" })).toBeEnabled();
  await hands.to(/^Close bike as found/);
  await hands.press("Enter");
  hands.entries += 1;

  // First look: what is seen.
  await expect(here).toHaveText("First look");
  await hands.press("f");
  for (const [label, text] of [
    [/^Knee at full reach/, "33"],
    [/^Torso/, "46"],
  ] as const) {
    await hands.to(label);
    await hands.type(text);
  }
  await hands.press("Enter");

  // The saddle: where the leading school has it, tried, felt, kept.
  for (const next of ["Feet", "Cranks", "Saddle height"]) {
    await hands.press("Alt+l");
    await expect(here).toContainText(next);
  }
  await expect(page.getByRole("region", { name: "Saddle height", exact: true })).toBeVisible();
  await hands.press("s");
  await expect(page.getByTestId("change-title")).toBeVisible();
  await settled(page);
  await hands.press("Enter");
  await expect(page.getByText("On the bench").first()).toBeVisible();
  for (const key of ["1", "k"]) await hands.press(key);
  hands.entries += 3;
  await expect(page.getByText(": kept.")).toBeVisible();

  expect(hands.entries).toBeGreaterThanOrEqual(31);
  expect(hands.presses, hands.cost.join("; ")).toBeLessThan(90);
});
