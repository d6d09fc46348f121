/** Between visits: plans, referrals, visits that are due. */
import type { Page } from "@playwright/test";
import { expect, FERRY_RUNNER, IDA, newBike, newRider, station, tapeAndClose, test } from "./wedge";

/** Out of the sheet to its plan, by keyboard. */
async function toPlan(page: Page) {
  await page.getByRole("link", { name: "Plan and referrals" }).first().press("Enter");
  await expect(page.getByRole("heading", { name: "Adaptation plan" })).toBeVisible();
}

test("a plan in safe steps, its days, a referral and its answer, and the visit: by keyboard", async ({ page }) => {
  await newRider(page, IDA);
  await newBike(page, "Ferry Runner", FERRY_RUNNER);
  await tapeAndClose(page, "712", "188");
  await station(page, "Hand-out");
  await page.getByLabel("The rider comes back on").fill("2026-12-24");
  await expect(page.locator("header .state")).toHaveText("saved");
  await page.getByRole("button", { name: "Finish the fit" }).press("Enter");
  await expect(page.getByRole("heading", { name: "Finished" })).toBeVisible();
  await toPlan(page);

  // Nonsense is answered beside its field, and what is typed survives a reload.
  const by = page.getByLabel("By how much");
  await by.fill("x");
  await by.press("Enter");
  await expect(page.getByText("Say by how much")).toBeVisible();
  await by.fill("12");
  await page.getByLabel("First step on").fill("2030-03-01");
  await page.reload();
  await expect(by).toHaveValue("12");
  await by.press("Enter");
  const steps = page.getByRole("row", { name: /Saddle up/ });
  await expect(steps).toHaveCount(3);
  await expect(steps.nth(2)).toContainText("Saddle height: 12 of 12 mm, to 724 mm");
  await page.getByRole("button", { name: "Keep this plan" }).press("Enter");
  await expect(page.getByText("Not begun: the first step on 1 Mar 2030.")).toBeVisible();

  // A day is moved: those after it move along.
  await page.getByLabel("Step 2, from").fill("2030-03-10");
  await expect(page.getByLabel("Step 3, from")).toHaveValue("2030-03-17");
  const id = page.url().split("/")[4] ?? "";
  const days = await (await page.request.get(`/api/sessions/${id}/plan.ics`)).text();
  expect(days).toContain("DTSTART;VALUE=DATE:20300317");
  expect(days).toContain("SEQUENCE:2");

  await page.getByRole("button", { name: "Write it down" }).press("Enter");
  await expect(page.getByText("Say what it is")).toBeVisible();
  await page.getByLabel("What it is").fill("Numb hands");
  await page.getByLabel("What they are asked").fill("Is it the <b>neck</b>?");
  await page.getByLabel("What they are asked").press("Enter");
  const asked = page.getByRole("article", { name: "Physiotherapist: numb hands" });
  await expect(asked).toContainText("Is it the <b>neck</b>?");
  const letter = await page.request.get(
    (await asked.getByRole("link", { name: "Letter, A4" }).getAttribute("href")) ?? "",
  );
  expect(letter.headers()["content-type"]).toBe("application/pdf");
  await asked.getByLabel("What they said").fill("It was the neck");
  await asked.getByLabel("What they said").press("Enter");
  await expect(asked).toContainText("They said:");

  await page.getByRole("link", { name: "Back to the sheet" }).press("Enter");
  await expect(page.getByRole("region", { name: "Your plan" })).toContainText("From 17 Mar 2030: saddle up 2");
  await expect(page.getByRole("region", { name: "For the next fitter" })).toContainText("It was the neck");

  await page.goto("/visits");
  const visit = page.getByRole("row", { name: new RegExp(IDA.name) });
  await expect(visit).toContainText("How did the last step feel?");
  await visit.getByRole("link").focus();
  await page.keyboard.press("+");
  await expect(visit.getByLabel(`${IDA.name} comes on`)).toHaveValue("2026-12-31");
  await visit.getByRole("button", { name: "Not coming" }).press("Enter");
  await expect(visit).toHaveCount(0);
});
