import { type Browser, chromium, type Page } from "playwright-core";
import { CHROMIUM } from "../../scripts/lib/chromium.mjs";
import type { TestService } from "./service.js";

export interface Console {
  readonly browser: Browser;
  readonly page: Page;
  /** What the page's own console complained about; a refused sign-in and refused wishes are no complaint. */
  readonly troubles: string[];
  /** Goes to a page of the console, by its address after the `#/`. */
  readonly open: (address: string) => Promise<void>;
}

/** The console of a service in a real browser, nobody signed in. */
export async function openConsole(service: TestService): Promise<Console> {
  const browser = await chromium.launch(CHROMIUM);
  const page = await browser.newPage({ viewport: { width: 1280, height: 800 }, locale: "en-GB" });
  page.setDefaultTimeout(Number(process.env.CORBIX_TEST_WAIT ?? 120_000));
  const troubles: string[] = [];
  page.on("pageerror", (error) => troubles.push(error.message));
  page.on("console", (message) => {
    // The browser's own editing puts styles on what it joins; the editors draw that anew. Others are told below, with their element.
    if (message.type() === "error" && !/401|404|422|^Applying inline style/.test(message.text()))
      troubles.push(message.text());
  });
  await page.addInitScript(() =>
    addEventListener("securitypolicyviolation", ({ violatedDirective, blockedURI, sample, target }) => {
      const element = target instanceof Element ? target : undefined;
      if (element?.closest("[contenteditable]") === null)
        reportError(new Error(`${violatedDirective}: ${blockedURI} ${sample} ${element.outerHTML.slice(0, 200)}`));
    }),
  );
  const open = async (address: string): Promise<void> => {
    await page.goto(`${service.url}/#/${address}`);
  };
  return { browser, page, troubles, open };
}

/** Writes a whole definition into the editor of texts. */
export async function writeDefinition(page: Page, text: string): Promise<void> {
  await page.getByRole("textbox", { name: "Definition" }).focus();
  await page.keyboard.press("Control+a");
  await page.keyboard.insertText(text);
}

export async function signIn({ page }: Console, service: TestService): Promise<void> {
  await page.goto(service.url);
  await page.getByLabel("Name").fill(service.signIn.name);
  await page.getByLabel("Password", { exact: true }).fill(service.signIn.password);
  await page.keyboard.press("Enter");
  await page.getByRole("heading", { name: "Overview" }).waitFor();
}
