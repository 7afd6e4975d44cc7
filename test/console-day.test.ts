/** A whole day in the console with the keyboard alone: nothing is pointed at, from the sign-in to the search for what went out. */
import { afterAll, beforeAll, describe, expect, inject, it } from "vitest";
import { type Console, openConsole } from "./setup/console.js";
import { type TestService, testService } from "./setup/service.js";

let service: TestService;
let console: Console;
let run: string;

beforeAll(async () => {
  service = await testService(inject("databaseUrl"));
  const rule = { does: "refuse", to: "ruth.penhallow" };
  expect((await service.call("POST", "/api/v1/letterbox/rules", rule)).status).toBe(201);
  const started = await service.call<{ id: string }>("POST", "/api/v1/runs", {
    report: "site-statement",
    period: "2026-10",
  });
  run = started.body.id;
  await service.waitFor(run, ["held"]);
  console = await openConsole(service);
});
afterAll(async () => {
  await console?.browser.close();
  await service?.close();
});

/** What has the focus, as it is read out: its name, or its text. */
const focused = (): Promise<string> =>
  console.page.evaluate(() => {
    const one = document.activeElement;
    if (!(one instanceof HTMLElement) || one === document.body) return "";
    const labelled = one instanceof HTMLInputElement ? one.labels?.[0]?.textContent : undefined;
    return (one.getAttribute("aria-label") ?? labelled ?? one.textContent ?? "").replace(/\s+/g, " ").trim();
  });

/** What will be so, on a machine of any speed. */
const soon = <T>(ask: () => T | Promise<T>) => expect.poll(ask, { timeout: 60_000 });

/** Goes on with Tab until something called so has the focus; a page has no more stops than this. */
async function tabTo(name: string | RegExp, key = "Tab"): Promise<void> {
  const seen: string[] = [];
  for (let stop = 0; stop < 250; stop++) {
    await console.page.keyboard.press(key);
    const now = await focused();
    if (typeof name === "string" ? now === name : name.test(now)) return;
    seen.push(now);
  }
  throw new Error(`Nothing called ${name} is reached with ${key}: ${seen.slice(0, 80).join(" | ")}`);
}

describe("a day with the keyboard", () => {
  const press = (key: string): Promise<void> => console.page.keyboard.press(key);
  const write = (text: string): Promise<void> => console.page.keyboard.type(text);
  const heading = (name: string | RegExp) => console.page.getByRole("heading", { name, exact: true }).waitFor();
  const messages = async (): Promise<Record<string, number>> =>
    (await service.call<{ progress: { messages: Record<string, number> } }>("GET", `/api/v1/runs/${run}`)).body.progress
      .messages;

  it("begins with what waits, and leads to the run", async () => {
    const { page } = console;
    await page.goto(service.url);
    await page.getByLabel("Name").waitFor();
    await tabTo("Name");
    await write(service.signIn.name);
    await tabTo("Password");
    await write(service.signIn.password);
    await press("Enter");
    await heading("Overview");
    await page.getByRole("link", { name: "Look and release" }).waitFor();
    await tabTo("Look and release");
    await press("Enter");
    await heading(/^Runs \/ Monthly statement of lift inspections, October 2026/);
  });

  it("looks at the parcels worth opening, one after the other", async () => {
    const { page } = console;
    await page.getByText("Worth opening before the release:").waitFor();
    const worth = await page.locator(".sample a").allTextContents();
    expect(worth.length).toBeGreaterThan(3);
    for (const label of worth.slice(0, 5)) {
      await tabTo(label);
      await press("Enter");
      await page.getByRole("region", { name: "Parcel", exact: true }).getByRole("heading", { name: label }).waitFor();
      await page.locator(".sample a").first().waitFor();
      await press("Escape");
      await page.getByRole("region", { name: "Parcel", exact: true }).waitFor({ state: "detached" });
    }
  });

  it("leaves one out with a reason, from where it is looked at", async () => {
    const { page } = console;
    await tabTo("Group, address or file");
    await write("brücken");
    await page.getByText("1of 26").or(page.getByText("1 of 26")).first().waitFor();
    await tabTo("Brücken Arcade");
    await press("Enter");
    await page.getByRole("button", { name: "Leave it out" }).waitFor();
    await tabTo("Leave it out");
    await press("Enter");
    await page.getByRole("heading", { name: "Why is Brücken Arcade left out?" }).waitFor();
    await soon(focused).toBe("Reason");
    await write("they moved out");
    await press("Enter");
    await soon(async () => (await messages()).skipped).toBe(1);
    await press("Escape");
  });

  it("rehearses to one address, sees that it went there, and comes back", async () => {
    const { page } = console;
    await tabTo("Rehearse");
    await press("Enter");
    await page.getByRole("dialog").getByLabel("Rehearse to").waitFor();
    await tabTo("Rehearse to");
    await press("Control+a");
    await write("me@lifts.example");
    await tabTo("Rehearse");
    await press("Enter");
    await page.getByText("A rehearsal: everything goes to me@lifts.example").waitFor();
    await page.locator("h1").getByText("done").waitFor({ timeout: 240_000 });
    await tabTo("Overview", "Shift+Tab");
    await press("Enter");
    await page.getByRole("link", { name: "Look and release" }).waitFor();
    await tabTo("Look and release");
    await press("Enter");
    await page.getByText("Worth opening before the release:").waitFor();
  });

  it("releases, and watches it go", async () => {
    const { page } = console;
    await press("Control+Enter");
    await heading("Release this run?");
    await soon(focused).toMatch(/^Send \d+ messages$/);
    await press("Enter");
    await page.getByText(/released .* by office/).waitFor();
    await service.waitFor(run, ["done"]);
    await page.getByText("done", { exact: true }).first().waitFor();
  });

  it("finds the one that was refused, corrects its address in place, and it goes", async () => {
    const { page } = console;
    await tabTo("Overview", "Shift+Tab");
    await press("Enter");
    await heading("Overview");
    await page.getByRole("region", { name: "What went wrong" }).waitFor();
    await tabTo(/^Outbox$/);
    await press("Enter");
    await heading("Outbox");
    await page.getByRole("button", { name: "Correct the address" }).waitFor();
    await tabTo("Correct the address");
    await press("Enter");
    await soon(focused).toBe("Address");
    await press("Control+a");
    await write("r.penhallow@aldercourt.example");
    await press("Enter");
    await page.getByRole("button", { name: "Correct the address" }).waitFor({ state: "detached" });
    await service.waitFor(run, ["done"]);
    const { items } = (
      await service.call<{ items: { to: { address: string }[] }[] }>("GET", "/api/v1/recipients?search=penhallow")
    ).body;
    expect(items[0]?.to[0]?.address).toBe("r.penhallow@aldercourt.example");
    await soon(async () => (await messages()).refused ?? 0).toBe(0);
  });

  it("finds it again by the person's name, with what became of it", async () => {
    const { page } = console;
    await tabTo("Search");
    await press("Enter");
    await write("penhallow");
    await page.getByRole("menuitem").first().waitFor();
    await tabTo("Outbox", "Shift+Tab");
    await press("Enter");
    await heading("Outbox");
    await tabTo("Person or address");
    await write("penhallow");
    const found = page.getByRole("row", { name: /r\.penhallow@aldercourt\.example/ });
    await found.waitFor();
    expect(await found.textContent()).toContain("sent");
    // Besides it there is only the rehearsal of it.
    await soon(() => page.locator("tbody tr").count()).toBe(2);
    expect(console.troubles).toEqual([]);
  });
});
