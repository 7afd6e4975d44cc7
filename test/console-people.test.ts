/** Several people in several browsers at once: invited, one prepares, one releases, one is refused, one leaves. */

import { Secret, TOTP } from "otpauth";
import { type Browser, chromium, type Page } from "playwright-core";
import { afterAll, beforeAll, describe, expect, inject, it } from "vitest";
import { CHROMIUM } from "../scripts/lib/chromium.mjs";
import { type Console, openConsole, signIn } from "./setup/console.js";
import { type TestProvider, testProvider } from "./setup/provider.js";
import { type TestService, testService } from "./setup/service.js";

let service: TestService;
let office: Console;
let browser: Browser;
let provider: TestProvider;
const GOOD = "seven quiet herons wade";
const WAIT = Number(process.env.CORBIX_TEST_WAIT ?? 120_000);

beforeAll(async () => {
  service = await testService(inject("databaseUrl"), { CORBIX_WORKERS: "1" });
  office = await openConsole(service);
  browser = await chromium.launch(CHROMIUM);
  await signIn(office, service);
  provider = await testProvider(service.url);
});
afterAll(async () => {
  await provider?.close();
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
    await jonas.goto(`${service.url}/#/reports/site-statement/text`);
    const text = jonas.getByRole("textbox", { name: "Definition" });
    await text.waitFor();
    expect(await text.getAttribute("contenteditable")).toBe("false");

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

describe("other ways in", () => {
  it("is the office's own provider, set up by clicking: a colleague of a group signs in there and finds what the group may do", async () => {
    const { page } = office;
    await office.open("people");
    await page.getByRole("link", { name: "by the office's provider" }).click();
    await page.getByLabel("What it is called").fill("Aldmoor");
    await page.getByLabel("Issuer").fill(provider.issuer);
    await page.getByLabel("Client").fill(provider.clientId);
    await page.getByLabel("Secret", { exact: true }).fill(provider.secret);
    await page.getByRole("button", { name: "Add a group" }).click();
    await page.getByLabel("Group, as the provider calls it").fill("heads");
    await page.getByLabel("May release").selectOption("all");
    await page.getByRole("button", { name: "Save" }).click();
    await page.getByText("Saved: the provider has answered.").waitFor();
    await page.getByText(`${service.url}/sign-in/back`).waitFor();

    provider.colleagues.set("petra.novak", {
      name: "Petra Novak",
      email: "petra.novak@lifts.example",
      isVerified: true,
      groups: ["heads"],
    });
    provider.colleagues.set("lena.frost", { name: "Lena Frost", email: "l@x.example", isVerified: true, groups: [] });
    const through = async (who: string): Promise<Page> => {
      const own = await newPerson(service.url);
      await own.getByRole("link", { name: "Sign in by Aldmoor" }).click();
      await own.getByLabel("Colleague").fill(who);
      await own.getByRole("button", { name: "Go on" }).click();
      return own;
    };
    const petra = await through("petra.novak");
    await petra.getByRole("heading", { name: "Overview" }).waitFor();
    expect(await rooms(petra)).toContain("Runs");
    expect(await rooms(petra)).not.toContain("People");
    const lena = await through("lena.frost");
    await lena.getByText("none of your groups may come in here").waitFor();
    await lena.getByRole("link", { name: "To the sign-in" }).click();
    await lena.getByRole("heading", { name: "Sign in" }).waitFor();
    await lena.context().close();

    // Whoever leaves the office is out at once, whichever way they came in.
    await office.open("people/petra.novak");
    await page.getByText(`as their groups at ${provider.issuer} say`).waitFor();
    await page.getByRole("button", { name: "Switch off" }).click();
    await petra.getByRole("heading", { name: "Sign in" }).waitFor();
    await petra.context().close();
  });

  it("is a code of an authenticator, asked for after the password, or a recovery code", async () => {
    const own = await comeIn(await invite("nora.stein", "Nora Stein", { "May look": "all" }));
    await own.getByRole("button", { name: "Your account" }).click();
    await own.getByLabel("Your password, to change what follows").fill(GOOD);
    await own.getByRole("button", { name: "Add an authenticator" }).click();
    await own.getByRole("img", { name: "The secret as a QR code" }).waitFor();
    const secret = (await own.locator(".begun code").textContent()) ?? "";
    const shows = (steps: number) =>
      new TOTP({ secret: Secret.fromBase32(secret) }).generate({ timestamp: Date.now() + steps * 30_000 });
    await own.getByLabel("The code that it shows now").fill(shows(0));
    await own.getByRole("button", { name: "Add it" }).click();
    const codes = own.getByRole("status").filter({ hasText: "Keep these recovery codes" }).locator("li");
    await codes.first().waitFor();
    expect(await codes.count()).toBe(10);
    const recovery = (await codes.first().textContent()) ?? "";
    const signInAs = async (code: string): Promise<void> => {
      await own.getByRole("button", { name: "Sign out", exact: true }).first().click();
      await own.getByRole("textbox", { name: "Name", exact: true }).fill("nora.stein");
      await own.getByLabel("Password", { exact: true }).fill(GOOD);
      await own.keyboard.press("Enter");
      await own.getByLabel("Code").fill("000000");
      await own.keyboard.press("Enter");
      await own.getByText("The code is wrong, over or used.").waitFor();
      await own.getByLabel("Code").fill(code);
      await own.keyboard.press("Enter");
      await own.getByRole("heading", { name: "Your account" }).waitFor();
    };
    await signInAs(shows(1));
    await signInAs(recovery);
    await own.getByText("9 codes are left.").waitFor();
    await own.getByText("password and second factor").first().waitFor();
    await own.context().close();
  });

  it("is a passkey, which stands for name and password", async () => {
    const here = (address: string) => address.replace("127.0.0.1", "localhost");
    const own = await comeIn(here(await invite("emil.roth", "Emil Roth", { "May look": "all" })));
    const devices = await own.context().newCDPSession(own);
    await devices.send("WebAuthn.enable");
    await devices.send("WebAuthn.addVirtualAuthenticator", {
      options: {
        protocol: "ctap2",
        transport: "internal",
        hasResidentKey: true,
        hasUserVerification: true,
        isUserVerified: true,
        automaticPresenceSimulation: true,
      },
    });
    await own.getByRole("button", { name: "Your account" }).click();
    await own.getByLabel("Your password, to change what follows").fill(GOOD);
    await own.getByLabel("Name of a new passkey").fill("office laptop");
    await own.getByRole("button", { name: "Add a passkey" }).click();
    await own.getByText("The passkey is added.").waitFor();
    await own.getByRole("cell", { name: "office laptop" }).waitFor();
    await own.getByRole("button", { name: "Sign out", exact: true }).first().click();
    // By password alone nobody comes in any more.
    await own.getByRole("textbox", { name: "Name", exact: true }).fill("emil.roth");
    await own.getByLabel("Password", { exact: true }).fill(GOOD);
    await own.keyboard.press("Enter");
    await own.getByLabel("Code").waitFor();
    // What the device signs is good once: whoever has copied it comes too late.
    const sent = own.waitForRequest((request) => request.url().endsWith("/session/passkey"));
    await own.getByRole("button", { name: "Sign in by passkey" }).click();
    await own.getByRole("heading", { name: "Your account" }).waitFor();
    const copy = (await sent).postData() ?? "";
    const again = await fetch(`${here(service.url)}/api/v1/session/passkey`, {
      method: "POST",
      headers: { "Content-Type": "application/json" },
      body: copy,
    });
    expect([again.status, again.headers.get("set-cookie")]).toEqual([409, null]);
    // Under an address without a name there are none.
    await own.goto(`${service.url}/`);
    await own.getByRole("heading", { name: "Sign in" }).waitFor();
    expect(await own.getByRole("button", { name: "Sign in by passkey" }).count()).toBe(0);
    await own.context().close();
  });
});

describe("an office that asks for a second factor", () => {
  it("shows nothing else before one is added, and the recovery codes once it is", async () => {
    const strict = await testService(inject("databaseUrl"), {
      CORBIX_WORKERS: "0",
      CORBIX_SECOND_FACTOR: "required",
    });
    const own = await newPerson(`${strict.url}/#/runs`);
    await own.getByLabel("Name").fill(strict.signIn.name);
    await own.getByLabel("Password", { exact: true }).fill(strict.signIn.password);
    await own.keyboard.press("Enter");
    await own.getByText("This office asks for a second factor").waitFor();
    expect(await rooms(own)).toEqual([]);
    expect(await own.getByText("A second factor has to be added first.").count()).toBe(0);
    await own.getByLabel("Your password, to change what follows").fill(strict.signIn.password);
    await own.getByRole("button", { name: "Add an authenticator" }).click();
    const secret = (await own.locator(".begun code").textContent()) ?? "";
    const code = new TOTP({ secret: Secret.fromBase32(secret) }).generate();
    await own.getByLabel("The code that it shows now").fill(code);
    await own.getByRole("button", { name: "Add it" }).click();
    await own.getByText("Keep these recovery codes").waitFor();
    await own.getByRole("navigation", { name: "Rooms" }).getByRole("link", { name: "Runs" }).waitFor();
    expect(await own.getByRole("status").locator("li").count()).toBe(10);
    await own.getByRole("heading", { name: "Where you are signed in" }).waitFor();
    await own.context().close();
    await strict.close();
  });
});

describe("somebody who asks what is known of them", () => {
  it("is found by clicking, gets all of it as a file, and is erased but for what is left", async () => {
    const { page } = office;
    const added = await service.call("POST", "/api/v1/recipients/entries", {
      group: "Canal Wharf",
      name: "Wilma Sand",
      addresses: "wilma.sand@canal.example",
    });
    expect(added.status).toBe(201);
    await office.open("people");
    await page.getByRole("link", { name: "what is known of them" }).click();
    await page.getByLabel("Mail address").fill("wilma.sand@canal.example");
    await page.getByLabel("Name", { exact: true }).fill("Wilma Sand");
    await page.getByRole("button", { name: "Look through everything" }).click();
    await page.getByRole("heading", { name: "wilma.sand@canal.example, Wilma Sand" }).waitFor();
    await page.getByText("The recipient list", { exact: true }).click();
    await page.getByText("Canal Wharf: Wilma Sand").waitFor();
    const saved = page.waitForEvent("download");
    await page.getByRole("link", { name: "Save all of it" }).click();
    expect((await saved).suggestedFilename()).toBe("known.zip");
    await page.getByRole("button", { name: "Erase them" }).click();
    const dialog = page.getByRole("dialog");
    expect(await dialog.getByRole("button", { name: /^Erase \d+ thing/ }).isDisabled()).toBe(true);
    await dialog.getByLabel("Why").fill("asked by letter of 30 November");
    await dialog.getByRole("button", { name: /^Erase \d+ thing/ }).click();
    await page.getByText(/Erased .* by office: asked by letter of 30 November/).waitFor();
    const { body } = await service.call<{ items: { name: string }[] }>("GET", "/api/v1/recipients?search=Wilma");
    expect(body.items).toEqual([]);
    const trail = await service.list<{ what: string; facts: object }>("/api/v1/trail?what=person%20erased");
    expect(JSON.stringify(trail)).not.toMatch(/wilma/i);
    expect(trail.length).toBe(1);
  });

  it("and rows of an edition are deleted by clicking, besides the newest", async () => {
    const { page } = office;
    await office.open("data/visits/editions");
    await page.getByRole("link", { name: "1", exact: true }).waitFor();
    const buttons = page.getByRole("button", { name: "Delete the rows" });
    const before = await service.list<{ number: number }>("/api/v1/datasets/visits/editions");
    await expect.poll(() => buttons.count()).toBe(before.length - 1);
    const again = await service.call(
      "POST",
      "/api/v1/datasets/visits/editions?file=v.csv",
      "Visit no,Site,Visit date\n1,Canal Wharf,2026-10-01\n",
    );
    expect(again.status).toBe(201);
    await expect.poll(() => buttons.count(), { timeout: WAIT }).toBe(before.length);
    await buttons.last().click();
    await page.getByRole("dialog").getByRole("button", { name: "Delete the rows" }).click();
    await page.getByText(/^deleted /).waitFor();
    const [last] = (await service.list<{ emptiedAt: string | null }>("/api/v1/datasets/visits/editions")).slice(-1);
    expect(last?.emptiedAt).not.toBeNull();
  });
});
