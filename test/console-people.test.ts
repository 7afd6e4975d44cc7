/** Several people in several browsers at once: invited, one prepares, one releases, one is refused, one leaves. */
import { type Browser, chromium, type Page } from "playwright-core";
import { afterAll, beforeAll, describe, expect, inject, it } from "vitest";
import { CHROMIUM } from "../scripts/lib/chromium.mjs";
import { type Console, openConsole, signIn } from "./setup/console.js";
import { type TestService, testService } from "./setup/service.js";

let service: TestService;
let office: Console;
let browser: Browser;
const GOOD = "seven quiet herons wade";
const WAIT = Number(process.env.CORBIX_TEST_WAIT ?? 120_000);

beforeAll(async () => {
  service = await testService(inject("databaseUrl"), { CORBIX_WORKERS: "1" });
  office = await openConsole(service);
  browser = await chromium.launch(CHROMIUM);
  await signIn(office, service);
});
afterAll(async () => {
  await browser?.close();
  await office?.browser.close();
  await service?.close();
});

/** Somebody with a browser of their own, at an address. */
async function newPerson(address: string): Promise<Page> {
  const context = await browser.newContext({ viewport: { width: 1280, height: 800 }, locale: "en-GB" });
  const page = await context.newPage();
  page.setDefaultTimeout(WAIT);
  await page.goto(address);
  return page;
}

/** Invites somebody by clicking; gives the link that is told. */
async function invite(name: string, shown: string, roles: Readonly<Record<string, string>>): Promise<string> {
  const { page } = office;
  await office.open("people");
  await page.getByLabel("Name to sign in with").fill(name);
  await page.getByLabel("Name as it is shown").fill(shown);
  await page.getByLabel("May look").selectOption("none");
  for (const [role, reach] of Object.entries(roles)) await page.getByLabel(role).selectOption(reach);
  await page.getByRole("button", { name: "Invite" }).click();
  const told = page.getByRole("status").filter({ hasText: shown });
  const link = (await told.locator("code").textContent()) ?? "";
  // The service under test does not know the port that it was given.
  return link.replace(/^[^#]*/, `${service.url}/`);
}

async function comeIn(link: string): Promise<Page> {
  const page = await newPerson(link);
  await page.getByLabel("Password", { exact: true }).fill(GOOD);
  await page.getByRole("button", { name: "Come in" }).click();
  await page.getByRole("heading", { name: "Overview" }).waitFor();
  return page;
}
const rooms = async (page: Page) => {
  const texts = await page.getByRole("navigation", { name: "Rooms" }).getByRole("link").allTextContents();
  return texts.map((text) => text.trim());
};

describe("several people at once", () => {
  let mara: Page;
  let jonas: Page;
  let ida: Page;

  it("come in by links that work once, and find what they may do, and nothing else", async () => {
    const [first, second, third] = [
      await invite("mara.lindqvist", "Mara Lindqvist", { "May prepare": "all" }),
      await invite("jonas.brandt", "Jonas Brandt", { "May release": "some" }),
      await invite("ida.holm", "Ida Holm", { "May ask": "all" }),
    ];
    mara = await comeIn(first);
    jonas = await comeIn(second);
    ida = await comeIn(third);
    expect(await rooms(mara)).toEqual(
      expect.arrayContaining(["Overview", "Data", "Recipients", "Reports", "Runs", "Tools"]),
    );
    expect(await rooms(mara)).not.toContain("People");
    expect(await rooms(jonas)).not.toContain("Recipients");
    expect(await rooms(ida)).toEqual(["Overview", "Enquiries", "HTTP API"]);
    const again = await newPerson(first);
    await again.getByText("This invitation is used, over or unknown.").waitFor();
    await again.context().close();
  });

  it("do their own part: one prepares and cannot release, one releases and cannot change, one is refused", async () => {
    // Jonas may release what the first box of the list names; he is given the report by the office.
    const { page } = office;
    await office.open("people/jonas.brandt");
    const ticks = page.getByRole("group", { name: "May release" });
    await ticks.getByText("Monthly statement of lift inspections").click();
    await page.getByRole("button", { name: "Save" }).click();
    await page.getByText("Saved; it counts at once.").waitFor();

    await mara.goto(`${service.url}/#/reports/site-statement/check`);
    await mara.getByRole("button", { name: "Run", exact: true }).last().waitFor();
    const started = await mara.evaluate(async () => {
      const answer = await fetch("/api/v1/runs", {
        method: "POST",
        headers: { "Content-Type": "application/json" },
        body: JSON.stringify({ report: "site-statement", period: "2026-10" }),
      });
      return (await answer.json()) as { id: string };
    });
    await service.waitFor(started.id, ["held"]);
    await mara.goto(`${service.url}/#/runs/${started.id}`);
    await mara.getByRole("button", { name: "Rehearse" }).waitFor();
    expect(await mara.getByRole("button", { name: "Release" }).count()).toBe(0);

    await jonas.goto(`${service.url}/#/runs/${started.id}`);
    await jonas.getByRole("button", { name: "Release" }).click();
    await jonas.getByRole("button", { name: /^Send \d+ messages$/ }).click();
    await service.waitFor(started.id, ["delivering", "done"]);
    const { body } = await service.call<{ startedBy: string; releasedBy: string }>("GET", `/api/v1/runs/${started.id}`);
    expect([body.startedBy, body.releasedBy]).toEqual(["mara.lindqvist", "jonas.brandt"]);
    await jonas.goto(`${service.url}/#/reports/site-statement/data`);
    await jonas.getByText("you may look at it, not change it").waitFor();

    await ida.goto(`${service.url}/#/runs/${started.id}`);
    await ida.getByText("You may not do this: it takes somebody who may look.").waitFor();
  });

  it("find another answer at once when what they may do changes, and are out when they leave", async () => {
    const { page } = office;
    await ida.goto(`${service.url}/#/enquiries`);
    await office.open("people/ida.holm");
    await page.getByLabel("May look").selectOption("all");
    await page.getByRole("button", { name: "Save" }).click();
    await ida.getByRole("navigation", { name: "Rooms" }).getByRole("link", { name: "Runs" }).waitFor();
    await office.open("people/mara.lindqvist");
    await mara.goto(`${service.url}/#/runs`);
    await mara.getByRole("heading", { name: "Runs" }).waitFor();
    await page.getByRole("button", { name: "Switch off" }).click();
    // Her browser shows the sign-in by itself, wherever it was.
    await mara.getByRole("heading", { name: "Sign in" }).waitFor();
    await page.getByRole("button", { name: "Switch on" }).waitFor();
    expect(await mara.evaluate(async () => (await fetch("/api/v1/runs")).status)).toBe(401);
  });

  it("look after their own account: a password, sessions, tokens", async () => {
    await jonas.getByRole("button", { name: "Your account" }).click();
    await jonas.getByRole("heading", { name: "Your account" }).waitFor();
    await jonas.getByLabel("Name of a new token").fill("nightly");
    await jonas.getByRole("button", { name: "Make it" }).click();
    const secret = (await jonas.getByRole("status").filter({ hasText: "nightly" }).locator("code").textContent()) ?? "";
    const seen = await fetch(`${service.url}/api/v1/self`, { headers: { Authorization: `Bearer ${secret}` } });
    expect(((await seen.json()) as { name: string }).name).toBe("jonas.brandt");
    await jonas.getByLabel("Password until now").fill(GOOD);
    await jonas.getByLabel("New password").fill("short");
    await jonas.getByRole("button", { name: "Change it" }).click();
    await jonas.getByText("The password has 5 characters, expected at least 15.").waitFor();
    await jonas.getByLabel("New password").fill("nine tall ladders lean");
    await jonas.getByRole("button", { name: "Change it" }).click();
    await jonas.getByText("The password is changed, and you are signed out everywhere else.").waitFor();
    await jonas.getByRole("button", { name: "Revoke" }).click();
    await jonas.getByText("nightly").first().waitFor({ state: "detached" });
    expect((await fetch(`${service.url}/api/v1/self`, { headers: { Authorization: `Bearer ${secret}` } })).status).toBe(
      401,
    );
  });
});
