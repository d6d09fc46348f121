/** A server of its own for each test, and the hands of a fitter. */
import { type APIRequestContext, expect, type Page, type Request, test as base } from "@playwright/test";
import { type ChildProcess, spawn } from "node:child_process";
import { mkdtempSync, rmSync } from "node:fs";
import { tmpdir } from "node:os";
import { join } from "node:path";

export const BINARY = process.env.WEDGE_BIN ?? "../target/debug/wedge";

export interface Server {
  url: string;
  stop: () => Promise<void>;
}

/** Starts `wedge` and waits until it says where it is open. */
export async function start(command: "serve" | "demo", data: string, port = 0): Promise<Server> {
  const child: ChildProcess = spawn(BINARY, [command, "--port", String(port), "--data", data], {
    stdio: ["ignore", "pipe", "inherit"],
    env: { ...process.env, RUST_LOG: "warn" },
  });
  const url = await new Promise<string>((resolve, reject) => {
    let said = "";
    child.stdout?.on("data", (chunk: Buffer) => {
      said += chunk.toString();
      const found = /open at (http:\S+)/.exec(said);
      if (found?.[1]) resolve(found[1]);
    });
    child.on("exit", (code) => reject(new Error(`wedge stopped with ${String(code)}: ${said}`)));
  });
  return {
    url,
    stop: () =>
      new Promise((resolve) => {
        child.removeAllListeners("exit");
        child.on("exit", () => resolve());
        child.kill("SIGTERM");
      }),
  };
}

export const test = base.extend<{ server: Server; demo: boolean }>({
  demo: [false, { option: true }],
  server: async ({ demo }, use) => {
    const folder = mkdtempSync(join(tmpdir(), "wedge-e2e-"));
    const server = await start(demo ? "demo" : "serve", join(folder, "wedge.sqlite"));
    await use(server);
    await server.stop();
    rmSync(folder, { recursive: true });
  },
  baseURL: async ({ server }, use) => use(server.url),
  // No page throws, whatever a test is about.
  page: async ({ page }, use) => {
    const thrown: string[] = [];
    page.on("pageerror", (error) => thrown.push(error.message));
    await use(page);
    expect(thrown).toEqual([]);
  },
});

export { expect };

/** A rider as typed in by a test: nobody of the demo. */
export interface Person {
  name: string;
  stature: string;
  inseam: string;
  mass: string;
}

export const IDA: Person = { name: "Ida Lockwood", stature: "1712", inseam: "802", mass: "61,5" };

/** A bike as typed in, in the order of the form. */
export const FERRY_RUNNER: Record<string, string> = {
  "Frame reach": "378",
  "Frame stack": "541",
  "Head angle": "72",
  "Head tube": "132",
  "Seat tube angle": "74",
  "Seat tube": "490",
  Chainstay: "410",
  "BB drop": "70",
  "Front centre": "581",
  "Wheel radius": "338",
  "Lower headset stack": "4",
  "Top cover": "14",
  Spacers: "30",
  "Spacers above": "0",
  "Stem clamp height": "40",
  Stem: "90",
  "Stem angle": "-6",
  "Bar width": "400",
  "Bar reach": "75",
  "Bar drop": "120",
  "Bar roll": "0",
  "Hood forward": "24",
  "Hood rise": "14",
  "Saddle tilt": "0",
  "Saddle length": "268",
  "Nose to sit reference": "146",
  Crank: "170",
  Cleat: "10",
  "Pedal stack": "13",
  Sole: "7",
  Shim: "0",
};

const DROP_BAR = ["Bar width", "Bar reach", "Bar drop", "Bar roll", "Hood forward", "Hood rise"];

/** The same bike with another bar, in the order of the form. */
export function withBar(bar: Record<string, string>, frame: Record<string, string> = {}): Record<string, string> {
  return Object.fromEntries(
    Object.entries({ ...FERRY_RUNNER, ...frame }).flatMap(([label, text]) => {
      if (label === DROP_BAR[0]) return Object.entries(bar);
      return DROP_BAR.includes(label) ? [] : [[label, text]];
    }),
  );
}

/** A base bar with pads, as typed in. */
export const AERO = {
  "Bar width": "400",
  "Bar reach": "85",
  "Base-bar grip": "-10",
  "Pad forward": "-20",
  "Pad bracket": "50",
  "Pad spacers": "30",
  "Pad length": "110",
  "Pad spacing": "190",
  "Pad tilt": "8",
};

/** The smallest and the tallest rider a fitter meets: stature, inseam, what their frame has of its own, saddle height and
 * setback. */
export const EXTREMES = [
  ["short", "1500", "700", { "Frame stack": "495", "Head tube": "90", "Seat tube": "430" }, "618", "160"],
  ["tall", "2020", "980", { "Frame stack": "640", "Head tube": "225", "Seat tube": "610" }, "868", "250"],
] as const;

/** Types into the focused field and walks on with Tab. */
async function typeOn(page: Page, text: string) {
  await page.keyboard.insertText(text);
  await page.keyboard.press("Tab");
}

/** What has the focus, by its label. */
const focused = (page: Page) =>
  page.evaluate(() => {
    const element = document.activeElement;
    const label = element instanceof HTMLInputElement ? element.labels?.[0]?.textContent : undefined;
    return { tag: element?.tagName, label: label ?? "" };
  });

/** Writes down a new rider with the keyboard alone. */
export async function newRider(page: Page, person: Person) {
  await page.goto("/");
  await page.getByLabel("Name", { exact: true }).focus();
  for (const text of [person.name, person.stature, person.inseam, person.mass]) await typeOn(page, text);
  await page.keyboard.press("Enter");
  await expect(page.getByRole("heading", { name: person.name })).toBeVisible();
}

/** What was sent of bikes that were typed in: the bike, then its first fit. */
const sent = new Map<string, [bike: Record<string, unknown>, fit: Record<string, unknown>]>();

/** The id that the page's address ends with. */
export const idOf = (page: Page) => new URL(page.url()).pathname.split("/").pop() ?? "";

/** A bike and the start of its first fit: typed in by the first test that wants it, sent once more as it was sent then for
 * the next ones. */
export async function newBike(
  page: Page,
  name: string,
  parts: Record<string, string>,
  kind: [kind: string, bar: string] = ["road", "drop"],
) {
  const key = JSON.stringify([parts, kind]);
  const known = sent.get(key);
  if (known === undefined) {
    const posted: Record<string, unknown>[] = [];
    const note = (request: Request) => {
      const isOfBike = /\/bikes$|\/bikes\/[^/]+\/sessions$/.test(new URL(request.url()).pathname);
      if (request.method() === "POST" && isOfBike) posted.push(request.postDataJSON() as Record<string, unknown>);
    };
    page.on("request", note);
    await typeBike(page, name, parts, kind);
    page.off("request", note);
    const [bike, fit] = posted;
    if (posted.length === 2 && bike && fit && Object.keys(parts).length > 0) sent.set(key, [bike, fit]);
    return;
  }
  await expect(page.getByLabel("Name of the bike")).toBeVisible();
  const bike: Record<string, unknown> = { ...known[0], id: crypto.randomUUID(), name };
  const fit: Record<string, unknown> = { ...known[1], id: crypto.randomUUID() };
  for (const [at, body] of [
    [`/api/riders/${idOf(page)}/bikes`, bike],
    [`/api/bikes/${String(bike.id)}/sessions`, fit],
  ] as const) {
    const { href, origin } = new URL(at, page.url());
    const answer = await page.request.post(href, { data: body, headers: { Origin: origin } });
    expect(answer.ok(), await answer.text()).toBe(true);
  }
  await page.goto(new URL(`/sessions/${String(fit.id)}`, page.url()).href);
  await expect(page.locator(".way [aria-current]")).toHaveText("Intake");
}

/** Types in a whole bike with the keyboard alone (only its name when the parts are there already), and starts its
 * first fit. */
async function typeBike(
  page: Page,
  name: string,
  parts: Record<string, string>,
  [kind, bar]: [kind: string, bar: string],
) {
  await page.getByLabel("Name of the bike").focus();
  await typeOn(page, name);
  if (Object.keys(parts).length === 0) {
    await page.getByLabel("Name of the bike").focus();
    await page.keyboard.press("Enter");
    await expect(page.locator(".way [aria-current]")).toHaveText("Intake");
    return;
  }
  await page.getByLabel("Kind of riding").selectOption(kind);
  await page.getByLabel("Bar", { exact: true }).selectOption(bar);
  // The list of ordinary bikes is walked past, and what need not be known is folded away.
  await page.getByLabel("Fill in an ordinary bike").focus();
  await page.keyboard.press("Tab");
  for (const [label, text] of Object.entries(parts)) {
    let here = await focused(page);
    while (!here.label.startsWith(`${label},`)) {
      // The only stops between two fields are the words that unfold the rest of a group.
      expect(here.tag, `on the way to ${label}`).toBe("SUMMARY");
      await page.keyboard.press("Tab");
      here = await focused(page);
    }
    await typeOn(page, text);
  }
  await page.getByLabel("Name of the bike").press("Enter");
  await expect(page.locator(".way [aria-current]")).toHaveText("Intake");
}

/** Walks on along the way by key until a station is reached. */
export async function walkTo(page: Page, name: string) {
  const here = page.locator(".way [aria-current]");
  for (let steps = 0; steps < 10 && (await here.textContent()) !== name; steps++) {
    const was = (await here.textContent()) ?? "";
    await page.keyboard.press("l");
    await expect(here).not.toHaveText(was);
  }
  await expect(here).toHaveText(name);
}

/** Out of every field: letters act again. */
export const away = (page: Page) => page.evaluate(() => (document.activeElement as HTMLElement | null)?.blur());

/** A field of the board. */
export const field = (page: Page, key: string) => page.locator(`.board [data-field="${key}"]`);

/** Waits until the board shows what the core last answered. */
export const settled = (page: Page) => expect(page.locator(".board[data-settled=true]")).toBeVisible();

/** Tapes the bike as found with Tab and Enter, closes it, and passes the first look by, to the feet. */
export async function tapeAndClose(page: Page, height: string, setback: string) {
  await walkTo(page, "Bike as found");
  await field(page, "saddle_height_mm").focus();
  await page.keyboard.type(height);
  await page.keyboard.press("Tab");
  await expect(field(page, "tilt_deg")).toBeFocused();
  await page.keyboard.press("Tab");
  await page.keyboard.type(setback);
  await page.keyboard.press("Enter");
  await page.keyboard.press("Escape");
  const close = page.getByRole("button", { name: "Close bike as found" });
  await expect(close).toBeEnabled();
  await close.focus();
  await page.keyboard.press("Enter");
  await expect(page.locator(".way [aria-current]")).toHaveText("First look");
  await walkTo(page, "Feet");
}

/** The session's own record, past the interface. */
export async function sessionOf(page: Page, request: APIRequestContext) {
  const answer = await request.get(`/api/sessions/${idOf(page)}`);
  expect(answer.ok()).toBe(true);
  return answer.json();
}

/** Walks the way to a station. */
export async function station(page: Page, name: string) {
  await page.locator(".way").getByRole("button", { name }).click();
  // A gross error adds "take first" to its station.
  await expect(page.locator(".way [aria-current]")).toContainText(name);
}

/** No box of the board lies over another. */
export async function boxesApart(page: Page, where: string) {
  const boxes = await page.locator(".board-box").evaluateAll((all) =>
    all.map((box) => {
      const { left, right, top, bottom } = box.getBoundingClientRect();
      return { name: box.querySelector("label")?.textContent ?? "", left, right, top, bottom };
    }),
  );
  for (const [index, a] of boxes.entries()) {
    for (const b of boxes.slice(index + 1)) {
      const apart = a.right <= b.left || b.right <= a.left || a.bottom <= b.top || b.bottom <= a.top;
      expect(apart, `${a.name} and ${b.name} ${where}`).toBe(true);
    }
  }
}

/** The rider finds it no different, and the trial is kept. */
export async function keepTrial(page: Page) {
  await page.keyboard.press("2");
  await expect(page.getByRole("button", { name: /✓ Same/ })).toBeVisible();
  await page.keyboard.press("k");
}
