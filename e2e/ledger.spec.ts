/** The rider's ledger: out on a phone with no network, and back to the next move. */
import { readFile, writeFile } from "node:fs/promises";
import AxeBuilder from "@axe-core/playwright";
import type { Page } from "@playwright/test";
import { expect, FERRY_RUNNER, IDA, newBike, newRider, station, tapeAndClose, test } from "./wedge";

/** A finished fit, at its page of rides. */
async function toRides(page: Page): Promise<string> {
  await newRider(page, IDA);
  await newBike(page, "Ferry Runner", FERRY_RUNNER);
  await tapeAndClose(page, "712", "188");
  await station(page, "Hand-out");
  await page.getByRole("button", { name: "Finish the fit" }).press("Enter");
  await expect(page.getByRole("heading", { name: "Finished" })).toBeVisible();
  await page.getByRole("link", { name: "Plan and referrals" }).first().press("Enter");
  return page.url().split("/")[4] ?? "";
}

/** One ride on the card, by keyboard. */
async function keep(card: Page, on: string, hands: string) {
  await card.getByLabel("Day", { exact: true }).fill(on);
  await card.getByLabel("Minutes").fill("60");
  await card.getByLabel("Circuit: the same name each time").fill("Mill loop");
  for (const side of ["left", "right"]) await card.getByLabel(`Hands, ${side}`).selectOption(hands);
  await card.getByLabel("Minutes").press("Enter");
  await expect(card.getByRole("button", { name: `Change the ride of ${on}` })).toBeVisible();
}

test("kept position, plan, card, three rides back, trend, next move: by keyboard, the card from a file", async ({
  page,
  browser,
}, info) => {
  const id = await toRides(page);
  await page.getByLabel("By how much").fill("5");
  await page.getByLabel("First step on").fill("2020-01-01");
  await page.getByLabel("First step on").press("Enter");
  await page.getByRole("button", { name: "Keep this plan" }).press("Enter");
  await expect(page.getByText("Step 1 of 1, the last one, is held.")).toBeVisible();
  await page.getByRole("link", { name: "Card and rides" }).press("Enter");
  await expect(page.getByText("No ride is back yet.")).toBeVisible();

  // The card is one file: opened from the disk of a phone that has no network.
  const saved = page.waitForEvent("download");
  await page.getByRole("link", { name: "The card as a file" }).press("Enter");
  const file = info.outputPath("ride-card.html");
  await (await saved).saveAs(file);
  const phone = await browser.newContext({
    viewport: { width: 390, height: 844 },
    offline: true,
    acceptDownloads: true,
  });
  const card = await phone.newPage();
  const wrong: string[] = [];
  card.on("pageerror", (error) => wrong.push(error.message));
  card.on("console", (said) => said.type() === "error" && wrong.push(said.text()));
  await card.goto(`file://${file}`);
  await expect(card.getByRole("heading", { name: IDA.name })).toBeVisible();
  await expect(card.getByText("Step 1 of 1 today.")).toBeVisible();
  const wide = () => document.documentElement.scrollWidth - document.documentElement.clientWidth;
  expect(await card.evaluate(wide), "nothing is wider than the phone").toBe(0);
  expect((await new AxeBuilder({ page: card }).analyze()).violations).toEqual([]);

  // Nonsense is answered beside its field.
  await card.getByLabel("Minutes").fill("many");
  await card.getByLabel("Minutes").press("Enter");
  await expect(card.getByText("A number from 1 to 1440, or nothing.")).toBeVisible();
  await keep(card, "2026-03-02", "6");
  await keep(card, "2026-03-05", "6");
  await card.getByLabel("In your words").fill("</script><b>windy</b>");
  await keep(card, "2026-03-08", "7");
  // Kept over a reload; changed and taken out by its own keys.
  await card.reload();
  await expect(card.getByRole("button", { name: /^Change the ride of/ })).toHaveCount(3);
  await expect(card.getByText("</script><b>windy</b>")).toBeVisible();
  await keep(card, "2026-03-09", "1");
  await card.getByRole("button", { name: "Take out the ride of 2026-03-09" }).press("Enter");
  await expect(card.getByRole("button", { name: /^Change the ride of/ })).toHaveCount(3);
  await card.getByRole("checkbox", { name: "New numbness" }).press("Space");
  await expect(card.getByText("New numbness: Stop the ride, move nothing further, and call.")).toBeVisible();
  const given = card.waitForEvent("download");
  await card.getByRole("button", { name: "Get the file" }).press("Enter");
  const rides = info.outputPath("rides.json");
  await (await given).saveAs(rides);
  await card.getByRole("button", { name: "Copy as text" }).press("Enter");
  const copied = await card.getByLabel("The rides as text").inputValue();
  expect(JSON.parse(copied)).toEqual(JSON.parse(await readFile(rides, "utf8")));
  expect(wrong).toEqual([]);
  await phone.close();

  // Back: looked at, written down, and read like with like.
  await page.getByLabel("A card’s file, TCX, GPX or CSV").setInputFiles(rides);
  await expect(page.getByText("3 to write down.")).toBeVisible();
  await page.getByRole("button", { name: "Write them down" }).press("Enter");
  await expect(page.getByText("3 rides, 3 of them alike.")).toBeVisible();
  await expect(page.getByRole("row", { name: /^Hands, of 10/ })).toContainText("6");
  await expect(page.getByText("</script><b>windy</b>")).toBeVisible();
  await expect(page.getByRole("heading", { name: "With these rides, the next move" })).toBeVisible();
  expect((await new AxeBuilder({ page }).analyze()).violations).toEqual([]);

  // The same as text out of a message is known already; a spoilt one is refused with its place.
  await page.getByLabel("Text of the card").fill(`Hello,\n> ${copied.split("\n").join("\n> ")}\nbye`);
  await page.getByRole("button", { name: "Read the text" }).press("Enter");
  await expect(page.getByText("Nothing new: 3 on record already.")).toBeVisible();
  await page.getByLabel("Text of the card").fill(copied.replace('"value": 7', '"value": 17'));
  await page.getByRole("button", { name: "Read the text" }).press("Enter");
  await expect(page.getByText(/rides\[2\]\.ratings\[0\]\.value: Hands is 0 to 10/)).toBeVisible();

  // A ride typed in off paper, nonsense first.
  const form = page.getByRole("region", { name: "Type a ride in" });
  await form.getByLabel("Minutes").fill("x");
  await form.getByLabel("Minutes").press("Enter");
  await expect(form.getByText(/minutes/).last()).toBeVisible();
  await form.getByLabel("Minutes").fill("61");
  await form.getByLabel("Circuit").fill("mill loop");
  await form.getByLabel("Hands, left").selectOption("5");
  await form.getByLabel("Hands, right").selectOption("5");
  await form.getByLabel("Minutes").press("Enter");
  await expect(page.getByText("4 rides, 4 of them alike.")).toBeVisible();
  const ledger = (await (await page.request.get(`/api/sessions/${id}/ledger`)).json()) as { rides: unknown[] };
  expect(ledger.rides).toHaveLength(4);
});

test("a viewer that keeps nothing says so first, and gives the rides as text", async ({ page, browser }, info) => {
  const id = await toRides(page);
  const html = await (await page.request.get(`/api/sessions/${id}/card.html`)).text();
  const file = info.outputPath("card.html");
  await writeFile(file, html);
  const phone = await browser.newContext({ viewport: { width: 390, height: 844 }, offline: true });
  const card = await phone.newPage();
  // As in the viewer of a message: storage is there, and refuses.
  await card.addInitScript(() => {
    Object.defineProperty(window, "localStorage", {
      get() {
        throw new DOMException("no storage here", "SecurityError");
      },
    });
  });
  await card.goto(`file://${file}`);
  await expect(card.getByRole("alert").filter({ hasText: "This viewer keeps nothing" })).toBeVisible();
  await keep(card, "2026-03-02", "6");
  await expect(card.getByText("On the card until you close it: copy it as text.")).toBeVisible();
  await card.getByRole("button", { name: "Copy as text" }).press("Enter");
  await expect(card.getByLabel("The rides as text")).toHaveValue(/"wedge\.ledger\/1"/);
  await phone.close();
});
