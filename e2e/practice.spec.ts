/** Riders who are not there: a whole fit of practice with the hands on the keys, devices that fail, a bracket on the stand. */
import AxeBuilder from "@axe-core/playwright";
import type { Page } from "@playwright/test";
import { expect, field, IDA, newRider, settled, tapeAndClose, test, walkTo } from "./wedge";

/** Walks by Tab to a button or link of this name, and presses it. */
async function press(page: Page, name: RegExp) {
  const named = () =>
    page.evaluate(() => {
      const at = document.activeElement;
      const labels = at instanceof HTMLInputElement ? at.labels : null;
      return labels?.[0]?.textContent ?? at?.getAttribute("aria-label") ?? at?.textContent ?? "";
    });
  for (let steps = 0; !name.test(await named()); steps += 1) {
    expect(steps, `Tab to ${String(name)}`).toBeLessThan(60);
    await page.keyboard.press("Tab");
  }
  await page.keyboard.press("Enter");
}

const sound = async (page: Page) => expect((await new AxeBuilder({ page }).analyze()).violations).toEqual([]);

test("a fit of practice by keyboard: taken, asked, tried, ended, the truth told then alone", async ({ page }) => {
  test.slow();
  await page.goto("/practice");
  await page.getByRole("heading", { name: "Practice", exact: true }).waitFor();
  await press(page, /^Begin$/);
  await expect(page.getByText("A name has 1 to")).toBeVisible();
  await page.getByLabel("Who practises").focus();
  await page.keyboard.type("Orla Finch");
  await sound(page);
  await page.keyboard.press("Enter");
  await page.waitForURL(/\/sessions\//);
  await expect(page.getByText("simulated", { exact: true })).toBeVisible();
  const answers: string[] = [];
  page.on("response", (answer) => {
    if (answer.url().includes("/api/") && !answer.url().endsWith("schema")) {
      void answer.text().then(
        (text) => answers.push(text),
        () => undefined,
      );
    }
  });

  await press(page, /^Take ten seconds$/);
  await expect(page.getByText("Kept, simulated")).toBeVisible();
  await press(page, /^Ask him$/);
  await expect(page.locator(".said-words")).toBeVisible();
  await press(page, /^Take down what is seen$/);
  await expect(page.getByText("Taken down, marked simulated")).toBeVisible();

  // One change, his words taken down, kept.
  await walkTo(page, "Saddle height");
  await field(page, "saddle_height_mm").focus();
  await page.keyboard.press("ArrowUp");
  await settled(page);
  await page.keyboard.press("Escape");
  await expect(page.getByTestId("change-title")).toBeVisible();
  await page.locator("body").press("Enter");
  await expect(page.getByRole("heading", { name: /on the bench/ })).toBeVisible();
  await press(page, /^Ask him$/);
  const said = (await page.locator(".said-words").textContent())?.replace(/[“”]/g, "") ?? "";
  await expect(page.getByLabel("What the rider said")).toHaveValue(said);
  await press(page, /^Take down: /);
  await expect(page.getByText("Taken down, marked simulated")).toBeVisible();
  await page.locator("body").press("k");
  await expect(page.getByRole("heading", { name: /on the bench/ })).toHaveCount(0);

  for (const text of answers) expect(text).not.toMatch(/"(window|troubles|character)":/);
  await page.getByRole("link", { name: "End it" }).focus();
  await page.keyboard.press("Enter");
  await press(page, /^End it and see the truth$/);
  await expect(page.getByRole("heading", { name: /the truth/ })).toBeVisible();
  await expect(page.getByRole("heading", { name: "Where the windows were" })).toBeVisible();
  await expect(page.getByRole("img", { name: /Sit reference: left/ })).toBeVisible();
  await sound(page);
  await page.goto("/practice");
  await expect(page.getByRole("row", { name: /Orla Finch.*with.*1.*The truth/ })).toBeVisible();
  // Nobody of practice is among the riders.
  await page.goto("/");
  await expect(page.getByText("Nobody is on record yet")).toBeVisible();
});

test("a device that fails is told, and what came is kept or dropped as the fitter says", async ({ page }) => {
  await page.goto("/devices");
  await page.getByLabel("What goes wrong with it next, camera").selectOption("unplugged");
  await page.getByRole("button", { name: /^Disconnect.*trainer$/ }).click();
  await expect(page.getByRole("heading", { name: "Trainer: none" })).toBeVisible();
  await sound(page);
  await page.goto("/practice");
  await page.getByLabel("Who practises").fill("Orla Finch");
  await page.getByRole("radio", { name: /A trap/ }).check();
  await page.getByRole("button", { name: "Begin" }).click();
  await page.getByRole("button", { name: "Take ten seconds" }).click();
  await expect(page.getByText(/was unplugged after/)).toBeVisible();
  await page.getByRole("button", { name: "Drop it" }).click();
  await page.getByRole("button", { name: "Take ten seconds" }).click();
  await page.getByRole("button", { name: "Keep what came" }).click();
  await expect(page.getByText("Kept, simulated")).toBeVisible();
  await page.getByRole("link", { name: "Takes", exact: true }).first().click();
  await expect(page.locator(".all li")).toHaveCount(1);
  await expect(page.locator(".all li")).toContainText("simulated");
  await page.getByRole("link", { name: "Film bench" }).click();
  await page.getByRole("button", { name: "A picture of the simulated rider" }).click();
  await expect(page.getByRole("button", { name: /Take in another|Choose another|Another/ }).first()).toBeVisible();
});

test("on the stand a bracket is ridden in steps of a millimetre, and the stand goes where the board says", async ({
  page,
}) => {
  test.slow();
  await newRider(page, IDA);
  await page.getByRole("button", { name: "Fit on a stand" }).click();
  await page.getByRole("button", { name: /Open a fit|New fit|Begin a fit|Start/ }).click();
  await tapeAndClose(page, "690", "150");
  await expect(page.getByRole("heading", { name: "Fit stand" })).toBeVisible();
  await page.getByRole("button", { name: "Send it there" }).click();
  await expect(page.getByText(/^Simulated: 0 s\. Saddle/)).toBeVisible();
  await walkTo(page, "Bars");
  await page
    .getByRole("button", { name: /Bracket/ })
    .first()
    .click();
  await expect(page.getByText("1 mm farther than they were")).toBeVisible();
});
