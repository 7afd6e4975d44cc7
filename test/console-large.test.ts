/** A run of forty thousand parcels in a real browser: its list is paged, searched and gone through like one of twenty-six. */
import type { CDPSession } from "playwright-core";
import { afterAll, beforeAll, describe, expect, inject, it } from "vitest";
import { announce } from "../service/dist/events/events.js";
import { type Console, openConsole, signIn } from "./setup/console.js";
import { largeRun } from "./setup/large-run.js";
import { type TestService, testService } from "./setup/service.js";
import { smallOffice } from "./setup/small-office.js";

const PARCELS = 40_000;
let service: TestService;
let console: Console;
let small: string;
let large: string;

beforeAll(async () => {
  service = await testService(inject("databaseUrl"), { CORBIX_WORKERS: "0" });
  const { plan } = smallOffice(() => service);
  await plan({ report: "site-statement", period: "2026-09" });
  small = await plan({ report: "site-statement", period: "2026-10" }, { release: false });
  large = await largeRun(service.context, small, PARCELS);
  console = await openConsole(service);
  await signIn(console, service);
}, 300_000);
afterAll(async () => {
  await console?.browser.close();
  await service?.close();
});

/** The run is left, and opened as for the first time. */
async function openAnew(): Promise<void> {
  await console.open("runs");
  await console.page.getByRole("heading", { name: "Runs", exact: true, level: 1 }).waitFor();
  await console.open(`runs/${large}`);
  await row("Site 00001").waitFor();
}

const list = () => console.page.getByRole("region", { name: "Parcels of this run" });
const row = (name: string) => list().getByRole("link", { name, exact: true });
const shown = () => list().locator("[data-place] a").allInnerTexts();

/** Milliseconds until something is there. */
async function until(deed: () => Promise<void>, there: () => Promise<void>): Promise<number> {
  const begun = performance.now();
  await deed();
  await there();
  return performance.now() - begun;
}

describe("a run of forty thousand parcels", () => {
  it("opens in about the time of a small one, and draws what is in sight", async () => {
    const { open } = console;
    const opened = (id: string, name: string) =>
      until(
        () => open(`runs/${id}`),
        () => row(name).waitFor(),
      );
    // The first of all loads what every page needs.
    await opened(small, "Alder Court");
    await open("runs");
    const times = { small: 0, large: 0 };
    for (let round = 0; round < 3; round++) {
      times.small += await opened(small, "Alder Court");
      times.large += await opened(large, "Site 00001");
    }
    expect(times.large).toBeLessThan(times.small * 4);
    await console.page.getByText("40,000", { exact: true }).waitFor();
    expect(await list().locator("[data-place]").count()).toBeLessThan(60);
  });

  it("is searched, narrowed and sorted on the server, and scrolled to any place", async () => {
    const { page } = console;
    await page.getByRole("searchbox").fill("Site 3999");
    await row("Site 39990").waitFor();
    expect((await shown()).length).toBe(10);
    await page.getByText("10 of 40,000").waitFor();
    await page.getByRole("searchbox").fill("");
    await page.getByLabel("Message", { exact: true }).selectOption("skipped");
    await page.getByText("40 of 40,000").waitFor();
    await row("Site 00007").waitFor();
    await page.getByLabel("Message", { exact: true }).selectOption("any");
    await row("Site 00001").waitFor();
    await list().getByRole("button", { name: "Rows" }).click();
    await list().getByRole("columnheader", { name: "Rows" }).and(page.locator("[aria-sort=descending]")).waitFor();
    await list().getByRole("row", { name: / 37 / }).first().waitFor();
    await list().getByRole("button", { name: "Group" }).click();
    await row("Site 00001").waitFor();
    await list().evaluate((one) => {
      one.scrollTop = one.scrollHeight / 2;
    });
    await row("Site 20000").waitFor();
    expect(await list().locator("[data-place]").count()).toBeLessThan(60);
  });

  it("is gone through by keys: along the list, to its end, into a parcel, to the next, and back to its place", async () => {
    const { page } = console;
    await openAnew();
    await row("Site 00001").focus();
    await page.keyboard.press("End");
    await expect
      .poll(() => page.evaluate(() => document.activeElement?.textContent), { timeout: 60_000 })
      .toBe("Site 40000");
    await page.keyboard.press("ArrowUp");
    await expect
      .poll(() => page.evaluate(() => document.activeElement?.textContent), { timeout: 60_000 })
      .toBe("Site 39999");
    await page.keyboard.press("Enter");
    const parcel = page.getByRole("region", { name: "Parcel", exact: true });
    await parcel.getByRole("heading", { name: "Site 39999" }).waitFor();
    await parcel.getByText("39,999 of 40,000").waitFor();
    await page.keyboard.press("Alt+ArrowUp");
    await parcel.getByRole("heading", { name: "Site 39998" }).waitFor();
    await page.keyboard.press("Escape");
    await parcel.waitFor({ state: "detached" });
    await expect
      .poll(() => page.evaluate(() => document.activeElement?.textContent), { timeout: 60_000 })
      .toBe("Site 39998");
  });

  it("keeps no more in memory however long it is watched, and shows what changed meanwhile", async () => {
    const { page } = console;
    await openAnew();
    const session = await page.context().newCDPSession(page);
    const { context } = service;
    const event = { kind: "run", subject: large } as const;
    const change = async (text: string): Promise<void> => {
      await context.database.execute("UPDATE parcels SET label = $2 WHERE run_id = $1 AND number = 1", [large, text]);
      await announce(context.database, event);
      await row(text).waitFor();
    };
    // Whole lists are looked through before, so that all that is ever kept is kept by then.
    for (let part = 0; part < 40; part++) {
      await list().evaluate((one, at) => {
        one.scrollTop = (one.scrollHeight / 40) * at;
      }, part);
      await expect.poll(async () => (await shown()).length).toBeGreaterThan(10);
    }
    await list().evaluate((one) => {
      one.scrollTop = 0;
    });
    await change("Site 0 before");
    const before = await used(session);
    for (let time = 0; time < 25; time++) await change(`Site 0 at ${time}`);
    const after = await used(session);
    expect(after.nodes).toBeLessThan(before.nodes * 1.5);
    expect(after.heap).toBeLessThan(before.heap * 1.3);
    expect(console.troubles).toEqual([]);
  });
});

/** What the page holds once nothing is left that nobody needs. */
async function used(session: CDPSession): Promise<{ heap: number; nodes: number }> {
  await session.send("HeapProfiler.collectGarbage");
  await session.send("Performance.enable");
  const { metrics } = await session.send("Performance.getMetrics");
  const of = (name: string): number => metrics.find((one) => one.name === name)?.value ?? 0;
  return { heap: of("JSHeapUsedSize"), nodes: of("Nodes") };
}
