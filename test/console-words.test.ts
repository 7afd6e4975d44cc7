/** Every text of the console comes from its catalogue: with one in another language, none of the first is left. */
import { execFileSync } from "node:child_process";
import { cpSync, mkdtempSync, readdirSync, readFileSync, rmSync, symlinkSync, writeFileSync } from "node:fs";
import { tmpdir } from "node:os";
import { join } from "node:path";
import type { Page } from "playwright-core";
import PO from "pofile";
import { afterAll, beforeAll, describe, expect, inject, it } from "vitest";
import { everyPage, fillEveryPage } from "./setup/addresses.js";
import { BRACKETED, bracketedWords, CLOSE, OPEN } from "./setup/brackets.js";
import { type Console, openConsole } from "./setup/console.js";
import { type TestService, testService } from "./setup/service.js";

const root = process.cwd();

const textsOf = (file: string): Set<string> =>
  new Set(
    PO.parse(readFileSync(file, "utf8")).items.map(({ msgid, msgid_plural }) => `${msgid} ${msgid_plural ?? ""}`),
  );

/** A copy of the console's source with one file more, built. */
function builtInBrackets(): string {
  const folder = mkdtempSync(join(tmpdir(), "corbix-words-"));
  symlinkSync(join(root, "node_modules"), join(folder, "node_modules"));
  cpSync(join(root, "console"), join(folder, "console"), {
    recursive: true,
    filter: (path) => !/\/(dist|node_modules|test|\.wuchale)$/.test(path),
  });
  symlinkSync(join(root, "console/node_modules"), join(folder, "console/node_modules"));
  const words = PO.parse(readFileSync(join(root, "console/src/words/en.po"), "utf8"));
  words.headers.Language = BRACKETED;
  for (const item of words.items) {
    const forms =
      item.msgid_plural === null || item.msgid_plural === undefined ? [item.msgid] : [item.msgid, item.msgid_plural];
    item.msgstr = forms.map((form) => `${OPEN}${form}${CLOSE}`);
  }
  writeFileSync(join(folder, `console/src/words/${BRACKETED}.po`), words.toString());
  execFileSync("npx", ["vite", "build", "--logLevel", "warn"], {
    cwd: join(folder, "console"),
    env: { ...process.env, VITEST: "" },
  });
  return folder;
}

let folder: string;
let spoken: string;
let service: TestService;
let console: Console;
let page: Page;
let run: string;
const values = new Set<string>();
/** Answers whose bodies are still being read. */
const reading = new Set<Promise<void>>();

function keep(value: unknown): void {
  if (typeof value === "string")
    values.add(
      value
        .replace(/\s+/g, " ")
        .replace(/`([^`]*)`/g, "“$1”")
        .trim(),
    );
  else if (Array.isArray(value)) value.forEach(keep);
  else if (value && typeof value === "object") Object.values(value).forEach(keep);
}

beforeAll(async () => {
  folder = builtInBrackets();
  spoken = bracketedWords();
  service = await testService(
    inject("databaseUrl"),
    { CORBIX_WORDS: spoken, CORBIX_LANGUAGE: BRACKETED },
    undefined,
    join(folder, "console/dist"),
  );
  run = await fillEveryPage(service);
  console = await openConsole(service);
  page = await console.browser.newPage({ viewport: { width: 1280, height: 800 }, locale: BRACKETED });
  page.setDefaultTimeout(120_000);
  page.on("response", (response) => {
    if (!/\/api\/v1\/|openapi/.test(response.url()) || /\/events\b/.test(response.url())) return;
    const read = response
      .json()
      .catch(() => null)
      .then(keep)
      .finally(() => reading.delete(read));
    reading.add(read);
  });
});
afterAll(async () => {
  await console?.browser.close();
  await service?.close();
  for (const one of [folder, spoken]) if (one) rmSync(one, { recursive: true, force: true });
});

/** What stands on the page outside the brackets, each text with the element it stands in. */
const outside = (): Promise<string[]> =>
  page.evaluate(
    ([open, close]) => {
      const found: string[] = [];
      const seen = (element: Element | null): boolean =>
        !element?.closest("script, style, code, pre, textarea, svg title, .cm-editor");
      let depth = 0;
      const part = (text: string, at: string): void => {
        let from = "";
        const end = (): void => {
          if (/\p{L}/u.test(from)) found.push(`${from.replace(/\s+/g, " ").trim()}\t${at}`);
          from = "";
        };
        for (const sign of text) {
          if (sign === open) {
            if (depth++ === 0) end();
          } else if (sign === close) depth--;
          else if (depth === 0) from += sign;
        }
        end();
      };
      const walker = document.createTreeWalker(document.body, NodeFilter.SHOW_TEXT);
      for (let node = walker.nextNode(); node; node = walker.nextNode())
        if (seen(node.parentElement)) part(node.textContent ?? "", node.parentElement?.outerHTML.slice(0, 80) ?? "");
      for (const element of document.body.querySelectorAll("*"))
        for (const name of ["aria-label", "title", "placeholder", "alt", "aria-description"]) {
          depth = 0;
          const text = element.getAttribute(name);
          if (text && seen(element)) part(text, `${name} of ${element.outerHTML.slice(0, 80)}`);
        }
      return found;
    },
    [OPEN, CLOSE],
  );

/** Dates, times, sizes, zones and methods of HTTP are worded by the platform. */
const PLATFORM =
  /\b(Jan|Feb|Mar|Apr|May|June?|July?|Aug|Sept?|Oct|Nov|Dec)\w* \d{1,2}(, \d{4})?\b|\b(January|February|March|April|May|June|July|August|September|October|November|December)\b|\b(Mon|Tue|Wed|Thu|Fri|Sat|Sun)(day|sday|nesday|rsday|urday)?\b|\b\d[\d.,]* (B|kB|MB)\b|\b(GMT|UTC)([+-]\d+)?\b|\b(AM|PM)\b|\b[A-Z]\w+(\/[\w-]+)+|\b(GET|PUT|POST|DELETE|PATCH)\b/g;

/** Whether a text is made of what the service told, as it told it, and of what the platform words. */
function isData(text: string): boolean {
  const whole = text.replace(/\s+/g, " ").trim();
  if (values.has(whole)) return true;
  return whole
    .replace(PLATFORM, ",")
    .split(/[,;:|/<>()–·]+ ?| (?=\()/)
    .map((piece) => piece.replace(/^[^\p{L}\d"]+|[^\p{L}\d".]+$/gu, ""))
    .every((piece) => !/\p{L}/u.test(piece) || values.has(piece) || told(piece));
}

/** A single word may stand in many sentences; a few together do not by chance. */
const told = (piece: string): boolean =>
  /^[A-Z]+$/.test(piece) ||
  values.has(piece.replace(/\.pdf$/, "")) ||
  ((/\S \S/.test(piece) || /^[\w.-]+\.\w+$/.test(piece)) && [...values].some((value) => value.includes(piece)));

const open = async (address: string): Promise<void> => {
  await page.goto(`${service.url}/#/${address}`);
};

async function untranslated(what: string): Promise<string[]> {
  const texts = await outside();
  await Promise.all(reading);
  return texts.filter((text) => !isData(text.split("\t")[0])).map((text) => `${what}: ${text}`);
}

describe("the catalogue", () => {
  it("has every text of the source, and none that is gone", () => {
    const kept = textsOf(join(root, "console/src/words/en.po"));
    expect(kept.size).toBeGreaterThan(1_000);
    execFileSync("npx", ["wuchale", "--clean", "--log-level", "error"], { cwd: join(folder, "console") });
    const found = textsOf(join(folder, "console/src/words/en.po"));
    // `npm run words -w console` writes them anew.
    expect([...found].filter((text) => !kept.has(text))).toEqual([]);
    expect([...kept].filter((text) => !found.has(text))).toEqual([]);
  });

  it("is not passed by: what the extraction cannot look into is not used", () => {
    const sources = (readdirSync(join(root, "console/src"), { recursive: true }) as string[])
      .filter((name) => name.endsWith(".svelte"))
      .map((name) => [name, readFileSync(join(root, "console/src", name), "utf8")] as const);
    expect(sources.length).toBeGreaterThan(80);
    const hidden = sources.flatMap(([name, text]) =>
      [...text.matchAll(/<svelte:fragment|\buse:\w+=\{["`]|\{@attach [^}]*["`]/g)].map(
        ([found]) => `${name}: ${found}`,
      ),
    );
    expect(hidden).toEqual([]);
  });
});

describe("a console in another language", () => {
  it("has no word of the first one left, on any page", async () => {
    await page.goto(service.url);
    const sign = page.locator("input");
    await sign.first().waitFor();
    const found = await untranslated("sign-in");
    await sign.nth(0).fill(service.signIn.name);
    await sign.nth(1).fill(service.signIn.password);
    await page.keyboard.press("Enter");
    await page.locator("header nav, nav").first().waitFor();
    for (const [address, shown] of everyPage(run)) {
      await open(address);
      await page.locator(shown).first().waitFor();
      await page.locator('main [aria-busy="true"]').waitFor({ state: "detached" });
      found.push(...(await untranslated(address)));
    }
    expect([...new Set(found)]).toEqual([]);
  });

  it("nor in what opens on them", async () => {
    const found: string[] = [];
    const look = async (what: string): Promise<void> => {
      await page.locator('[aria-busy="true"]').waitFor({ state: "detached" });
      found.push(...(await untranslated(what)));
    };
    const press = (name: string): Promise<void> =>
      page
        .getByRole("button", { name: `${OPEN}${name}${CLOSE}`, exact: true })
        .first()
        .click();
    await open("reports");
    await page.getByRole("button", { name: /More for Monthly/ }).click();
    await page.getByRole("menuitem").first().waitFor();
    await look("a menu");
    await page.getByRole("menuitem", { name: "Delete" }).click();
    await page.getByRole("dialog").getByRole("listitem").first().waitFor();
    await look("what hangs on a report");
    await page.keyboard.press("Escape");
    await open("reports/site-statement/check");
    await press("Run");
    await page.getByRole("dialog").getByRole("status").first().waitFor();
    await look("the run dialog");
    await page.keyboard.press("Escape");
    await open("data/visits/rows");
    await page.getByRole("button", { name: /Figures and filter of Result/ }).click();
    await page.getByRole("complementary").first().waitFor();
    await look("a column's figures");
    await open("data");
    await press("Load a file");
    await look("loading a file");
    await open("recipients");
    await press("Add one");
    await page.getByRole("dialog").first().waitFor();
    await look("a new recipient");
    await page.keyboard.press("Escape");
    await page
      .getByRole("banner")
      .getByRole("button", { name: `${OPEN}Search${CLOSE}` })
      .click();
    await page.getByRole("banner").getByRole("textbox").fill("alder");
    await page.getByRole("menuitem").first().waitFor();
    await look("the search");
    expect([...new Set(found)]).toEqual([]);
  });
});
