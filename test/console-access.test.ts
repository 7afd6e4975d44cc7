/** Everybody can use the console: every page, in light and dark, wide and narrow, by the rules of WCAG 2.2 AA. */
import { readFileSync } from "node:fs";
import { createRequire } from "node:module";
import { afterAll, beforeAll, describe, expect, inject, it } from "vitest";
import { everyPage, fillEveryPage } from "./setup/addresses.js";
import { type Console, openConsole, signIn } from "./setup/console.js";
import { type TestService, testService } from "./setup/service.js";

const AXE = readFileSync(createRequire(import.meta.url).resolve("axe-core/axe.min.js"), "utf8");
/** Of the rules that machines can check, those of WCAG up to 2.2, level AA. */
const RULES = ["wcag2a", "wcag2aa", "wcag21a", "wcag21aa", "wcag22aa"];
const ALL = { runOnly: RULES };
/** What another scheme of colours can break. */
const COLOURS = { runOnly: { type: "rule", values: ["color-contrast"] } };
/** What a narrow window can break: the colours are the same there. */
const NARROW = { runOnly: RULES, rules: { "color-contrast": { enabled: false } } };

declare const axe: {
  run: (
    context: Document,
    options: object,
  ) => Promise<{ violations: { id: string; nodes: { html: string; failureSummary: string }[] }[] }>;
};

let service: TestService;
let console: Console;
let run: string;

beforeAll(async () => {
  service = await testService(inject("databaseUrl"));
  run = await fillEveryPage(service);
  console = await openConsole(service);
});
afterAll(async () => {
  await console?.browser.close();
  await service?.close();
});

async function findings(rules: object): Promise<string[]> {
  await console.page.evaluate(AXE);
  return console.page.evaluate(async (rules) => {
    const { violations } = await axe.run(document, rules);
    return violations.flatMap(({ id, nodes }) =>
      nodes.map(({ html, failureSummary }) => `${id}: ${html.slice(0, 160)} ${failureSummary}`),
    );
  }, rules);
}

for (const [scheme, width, height, rules] of [
  ["light", 1280, 800, ALL],
  ["dark", 1280, 800, COLOURS],
  ["light", 390, 844, NARROW],
] as const)
  describe(`every page in ${scheme}, ${width} wide`, () => {
    it("lets everybody sign in", async () => {
      const { page } = console;
      await page.setViewportSize({ width, height });
      await page.emulateMedia({ colorScheme: scheme, reducedMotion: "reduce" });
      await page.evaluate(() => localStorage.clear()).catch(() => {});
      await page.context().clearCookies();
      await page.goto(service.url);
      await page.getByLabel("Password", { exact: true }).waitFor();
      expect(await findings(rules)).toEqual([]);
      await signIn(console, service);
    });

    // The run's id is known only later.
    it.each(everyPage("RUN"))("%s can be used by everybody", async (template, shown) => {
      const { page, open } = console;
      const found: string[] = [];
      await open(template.replace("RUN", run));
      await page.locator(shown).first().waitFor();
      await page.locator('main [aria-busy="true"]').waitFor({ state: "detached" });
      found.push(...(await findings(rules)));
      const isTooWide = await page.evaluate(() => document.documentElement.scrollWidth > innerWidth + 1);
      if (isTooWide) found.push("the page is wider than the window");
      expect(found).toEqual([]);
    });

    it("and so can what opens on them", async () => {
      const { page, open } = console;
      const found: string[] = [];
      const look = async (what: string): Promise<void> => {
        found.push(...(await findings(rules)).map((one) => `${what}: ${one}`));
      };
      await open("reports");
      await page.getByRole("button", { name: /^More for Monthly statement/ }).click();
      await look("a menu");
      await page.getByRole("menuitem", { name: "Delete" }).click();
      await page.getByText("What hangs on it").waitFor();
      await look("a dialog");
      await page.keyboard.press("Escape");
      await open("reports/site-statement/check");
      await page.getByRole("button", { name: "Run", exact: true }).first().click();
      await page
        .getByText(/groups? get/)
        .first()
        .waitFor();
      await look("the run dialog");
      await page.keyboard.press("Escape");
      await open("data/visits/rows");
      await page.getByRole("button", { name: "Figures and filter of Result" }).click();
      await page.getByRole("complementary").first().waitFor();
      await look("a column's figures");
      await open("data");
      await page.getByRole("button", { name: "Load a file" }).click();
      await look("loading a file");
      await open("recipients");
      await page.getByRole("button", { name: "Add one" }).click();
      await look("a new recipient");
      await page.keyboard.press("Escape");
      await page.getByRole("banner").getByRole("button", { name: "Search", exact: true }).click();
      await page.getByRole("textbox", { name: "Search everything" }).fill("alder");
      await page.getByRole("menuitem").first().waitFor();
      await look("the search");
      expect(found).toEqual([]);
    });
  });

describe("numbers and dates", () => {
  it("stand as the reader is used to", async () => {
    const page = await console.browser.newPage({ locale: "de-DE" });
    await page.goto(service.url);
    await page.getByLabel("Name").fill(service.signIn.name);
    await page.getByLabel("Password", { exact: true }).fill(service.signIn.password);
    await page.keyboard.press("Enter");
    await page.getByRole("heading", { name: "Overview" }).waitFor();
    await page.goto(`${service.url}/#/data`);
    await page.getByRole("cell", { name: "2.460", exact: true }).first().waitFor();
    await page.close();
  });
});

describe("a page whose answers are long in coming, or do not come", () => {
  const ROOMS = ["", "data", "recipients", "templates", "reports", "runs", "outbox", "letterbox"];
  const OPEN = ["data/visits/rows", "templates/statement.xlsx", "reports/site-statement/rows", `runs/${"RUN"}`];
  const addresses = (): string[] => [...ROOMS, ...OPEN].map((one) => one.replace("RUN", run));
  /** All calls but those that keep somebody signed in. */
  const CALLS = /\/api\/v1\/(?!events|session|self)/;

  it("is never blank, and says what is wrong until it is not any more", async () => {
    const { page, open } = console;
    await page.setViewportSize({ width: 1280, height: 800 });
    const away = {
      status: 503,
      contentType: "application/problem+json",
      body: JSON.stringify({
        title: "Cannot answer now: the database cannot be reached.",
        code: "DATABASE_UNREACHABLE",
      }),
    };
    for (const address of addresses()) {
      let letGo: (how: "fail") => void = () => {};
      const held = new Promise((resolve) => {
        letGo = resolve;
      });
      await page.route(CALLS, async (route) => {
        await held;
        await route.fulfill(away);
      });
      await page.goto("about:blank");
      await open(address);
      await page.locator('main [aria-busy="true"]').first().waitFor();
      letGo("fail");
      await page.getByText("the database cannot be reached").first().waitFor();
      await page.unroute(CALLS);
    }
    // The last of them, and one that is asked for again by itself.
    await page.route(CALLS, (route) => route.fulfill(away));
    await open("templates");
    await page.getByText("the database cannot be reached").first().waitFor();
    await page.unroute(CALLS);
    await page.getByRole("link", { name: "statement.xlsx" }).waitFor();
    expect(await page.getByText("the database cannot be reached").count()).toBe(0);
  });
});
