/** The record as a whole on the Studio page: copies, putting one back, what does not read; what deletion says. */
import AxeBuilder from "@axe-core/playwright";
import { readFileSync } from "node:fs";
import { expect, IDA, newRider, test } from "./wedge";

test("a copy is saved, and put back by keyboard; the record before is kept", async ({ page, request }) => {
  await newRider(page, IDA);
  await page.goto("/studio");
  const record = page.getByRole("region", { name: "The record" });
  await expect(record).toContainText("of room on its disk");
  const [download] = await Promise.all([
    page.waitForEvent("download"),
    record.getByRole("link", { name: "Save a copy" }).click(),
  ]);
  const copy = readFileSync(await download.path());
  await newRider(page, { ...IDA, name: "Oda Weir" });
  await page.goto("/studio");

  // What is no copy is refused in words, and changes nothing.
  const chosen = page.getByLabel("A copy of the record");
  await chosen.setInputFiles({ name: "letter.txt", mimeType: "text/plain", buffer: Buffer.from("Dear Ida") });
  await page.keyboard.press("Enter");
  await expect(record.getByRole("alert")).toContainText("is no record of Wedge");
  expect(((await (await request.get("/api/riders")).json()) as unknown[]).length).toBe(2);

  await chosen.setInputFiles({ name: "monday.sqlite", mimeType: "application/octet-stream", buffer: copy });
  await expect(record.getByRole("alertdialog")).toContainText("monday.sqlite");
  expect((await new AxeBuilder({ page }).analyze()).violations).toEqual([]);
  await page.keyboard.press("Enter");
  await expect(record.getByRole("status")).toContainText("is kept as");
  await page.goto("/");
  await expect(page.getByRole("link", { name: /Ida Lockwood/ })).toBeVisible();
  await expect(page.getByText("Oda Weir")).toHaveCount(0);
});

test("how many days' copies are kept is chosen, and the room's network is closed unless asked for", async ({
  page,
  request,
}) => {
  await page.goto("/studio");
  await page.getByLabel(/Of each day a copy is made/).selectOption("14");
  await expect(page.getByText("Saved", { exact: true })).toBeVisible();
  const studio = (await (await request.get("/api/studio")).json()) as { house: { copies: number } };
  expect(studio.house.copies).toBe(14);
  await expect(page.getByRole("region", { name: "In the room’s network" })).toContainText(
    "only this machine is let in",
  );
});

test("a rider with spaces around the name is deleted, and what is left is said", async ({ page, request }) => {
  const rider = {
    id: "01a2094c-0000-7098-902d-6165181b02fd",
    name: " Ida ",
    readings: [
      {
        id: "01a2094c-0001-7098-902d-6165181b02fd",
        taken_at: "2026-11-20T10:00:00Z",
        quantity: "stature_mm",
        value: 1712,
      },
    ],
    bikes: [],
  };
  const file = { format: "wedge.rider/17", rider };
  expect((await request.post("/api/import", { data: file })).status()).toBe(200);
  await page.goto(`/riders/${rider.id}`);
  await page.getByRole("button", { name: "Delete for good…" }).click();
  await page.getByLabel("Type the name to delete").fill("Ida");
  await page.keyboard.press("Enter");
  await expect(page.getByRole("status").filter({ hasText: "Deleted." })).toBeVisible();
});
