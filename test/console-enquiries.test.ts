/** Enquiries in the console: made by clicking alone, asked, answered, and given to a colleague. */
import { readFileSync } from "node:fs";
import { parse } from "csv-parse/sync";
import { afterAll, beforeAll, expect, inject, it } from "vitest";
import { type Console, openConsole, signIn } from "./setup/console.js";
import { type TestService, testService } from "./setup/service.js";

let service: TestService;
let console: Console;
beforeAll(async () => {
  service = await testService(inject("databaseUrl"));
  console = await openConsole(service);
  await signIn(console, service);
});
afterAll(async () => {
  await console?.browser.close();
  await service?.close();
});

it("a report becomes one that is asked: fields of each kind, columns of the list, saved", async () => {
  const { page, open } = console;
  await open("reports");
  await page.getByRole("link", { name: "New report" }).click();
  await page.getByLabel("Title").fill("Find a visit");
  await page.getByText("a dataset that is there", { exact: true }).click();
  await page.getByLabel("Dataset", { exact: true }).selectOption("visits");
  await page.getByRole("button", { name: "Make the report" }).click();
  await page.getByRole("heading", { name: "Find a visit" }).waitFor();
  await page
    .getByRole("link", { name: /Groups$/ })
    .first()
    .click();
  await page.getByText("none: nothing is sent, people ask for the rows they want").click();
  await page.getByRole("heading", { name: "What people fill in" }).waitFor();
  const steps = page.getByRole("navigation", { name: "Steps" });
  expect(await steps.getByRole("listitem").allTextContents()).toEqual([
    expect.stringContaining("1. Data"),
    expect.stringContaining("2. Period and rows"),
    expect.stringContaining("3. Asking"),
    expect.stringContaining("4. Files"),
    expect.stringContaining("5. Check and save"),
  ]);
  await page.getByLabel("Ask for one more").selectOption("Visit date");
  await page.getByRole("region", { name: "Field Visit date" }).getByLabel("Called").fill("Visited");
  await page.keyboard.press("Tab");
  await page.getByLabel("Ask for one more").selectOption("Remarks");
  await page.getByLabel("How Remarks is asked").selectOption("look for words");
  const list = page.getByRole("group", { name: "Columns of the list, all if none is ticked" });
  for (const column of ["Visit date", "Site", "Unit", "Remarks"]) await list.getByText(column, { exact: true }).click();
  await steps.getByRole("link", { name: /Check and save/ }).click();
  await page.getByText("Nothing: every name in it was found in the data and the templates.").waitFor();
  await page.getByRole("button", { name: "Save the report" }).click();
  await page.getByRole("link", { name: "Ask", exact: true }).first().waitFor();
  const { body } = await service.call<{ definition: { enquiry: unknown; split: unknown } }>(
    "GET",
    "/api/v1/reports/find-a-visit",
  );
  expect(body.definition.enquiry).toMatchObject({
    fields: {
      "visit-date": { between: "Visit date", label: "Visited" },
      remarks: { search: ["Remarks"] },
    },
    columns: ["Visit date", "Site", "Unit", "Remarks"],
  });
});

it("is asked: what is wrong stands at its field, rows that match are shown, one of them whole, and files are to be had", async () => {
  const { page, open } = console;
  await open("enquiries/visit-enquiry");
  const form = page.getByRole("form", { name: "What is asked" });
  await form.getByRole("group", { name: "Site" }).getByRole("combobox").selectOption({ label: "Alder Court (66)" });
  await form.getByLabel("From the day").fill("soon");
  await form.getByRole("button", { name: "Ask", exact: true }).click();
  await form
    .getByRole("group", { name: "Visited" })
    .getByText("Cannot read `soon` in Visited. Write a day as 2026-10-31.")
    .waitFor();
  await form.getByLabel("From the day").fill("2026-09-01");
  await form.getByLabel("Until the day").fill("2026-09-30");
  await form.getByRole("button", { name: "Ask", exact: true }).click();
  const answer = page.getByRole("region", { name: "Answer" });
  await answer.getByText("6 of 2,459 rows").waitFor();
  expect(await answer.locator("tbody tr").count()).toBe(6);
  await answer
    .getByRole("button", { name: /^Show row/ })
    .first()
    .click();
  const whole = page.getByRole("region", { name: /^Row \d+/ });
  await whole.getByText("3 Alder Street").waitFor();
  const [sheet] = await Promise.all([
    page.waitForEvent("download"),
    whole.getByRole("link", { name: "visit (pdf)" }).click(),
  ]);
  expect(sheet.suggestedFilename()).toMatch(/^Visit to L\d\d at Alder Court, 2026-09-\d\d\.pdf$/);
  const [text] = await Promise.all([
    page.waitForEvent("download"),
    answer.getByRole("link", { name: "text (csv)" }).click(),
  ]);
  const rows = parse(readFileSync(await text.path(), "utf8"), { bom: true }) as string[][];
  expect(rows).toHaveLength(7);
  expect(new Set(rows.slice(1).map((row) => row[rows[0]?.indexOf("Site") ?? 0]))).toEqual(new Set(["Alder Court"]));
  // The answer has an address: opened anew it is the same.
  const address = page.url();
  await open("enquiries");
  await page.getByRole("cell", { name: "Site: Alder Court; Visited: 2026-09-01 to 2026-09-30" }).waitFor();
  await page.goto(address);
  await answer.getByText("6 of 2,459 rows").waitFor();
  expect(await form.getByLabel("Until the day").inputValue()).toBe("2026-09-30");
});

it("is given to a colleague, whose browser opens the plain page and nothing else", async () => {
  const { page, open, browser } = console;
  await open("enquiries");
  await page.getByLabel("Name of a colleague").fill("Mara Lindqvist");
  await page.getByRole("button", { name: "Let them ask" }).click();
  const address = await page.getByRole("status").locator("code").textContent();
  const theirs = await (await browser.newContext({ locale: "en-GB" })).newPage();
  await theirs.goto(service.url + new URL(address ?? "").pathname);
  await theirs.getByRole("link", { name: "Look up visits" }).click();
  await theirs.getByLabel("Site").selectOption("Alder Court");
  await theirs.getByLabel("fail", { exact: false }).first().check();
  await theirs.getByRole("button", { name: "Ask" }).click();
  await theirs.getByText(/rows? found for/).waitFor();
  expect(await theirs.locator("tbody").textContent()).toContain("Alder Court");
  expect((await theirs.goto(`${service.url}/api/v1/reports`))?.status()).toBe(401);
  await open("enquiries");
  await page.getByRole("cell", { name: "Mara Lindqvist" }).first().waitFor();
  await page.getByRole("row", { name: /Mara Lindqvist.*Site: Alder Court; Result: fail/ }).waitFor();
  await page.getByRole("button", { name: "Take out" }).click();
  await page.getByRole("button", { name: "Take out" }).waitFor({ state: "detached" });
  expect((await theirs.goto(`${service.url}/ask`))?.status()).toBe(403);
  await theirs.close();
});

it("leaves no complaint in the browser", () => {
  // A field that is filled in wrongly is no complaint.
  expect(console.troubles.filter((one) => !one.includes("400"))).toEqual([]);
});
