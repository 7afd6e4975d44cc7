import { existsSync } from "node:fs";
import { createRequire } from "node:module";
import { fileURLToPath } from "node:url";
import type { Page } from "playwright-core";
import { afterAll, beforeAll, describe, expect, inject, it } from "vitest";

import { type Console, openConsole, writeDefinition } from "./setup/console.js";
import { type TestService, testService } from "./setup/service.js";

let service: TestService;
let console: Console;
let page: Page;
let open: Console["open"];

beforeAll(async () => {
  expect(existsSync("/usr/bin/chromium")).toBe(true);
  service = await testService(inject("databaseUrl"));
  console = await openConsole(service);
  ({ page, open } = console);
});
afterAll(async () => {
  await console?.browser.close();
  await service?.close();
});

const text = async (): Promise<string> => (await page.locator("main").innerText()).replaceAll("\u00a0", " ");

const isAscending = (numbers: readonly number[]): boolean =>
  numbers.length > 1 && numbers.every((number, at) => at === 0 || numbers[at - 1] <= number);

describe("the console", () => {
  it("asks for a sign-in, refuses a wrong one in words, and takes the right one by keyboard alone", async () => {
    await page.goto(service.url);
    await page.getByLabel("Name").fill("office");
    await page.getByLabel("Password", { exact: true }).fill("wrong");
    await page.keyboard.press("Enter");
    await page.getByText("name or password is wrong").waitFor();
    await page.getByLabel("Password", { exact: true }).fill(service.signIn.password);
    await page.keyboard.press("Enter");
    await page.getByRole("heading", { name: "Overview" }).waitFor();
    await page.getByText("Your first report, in four steps").waitFor();
    // Data and reports are there: what comes next is a rehearsal.
    expect(await page.locator("[aria-current=step]").innerText()).toContain("See it yourself first");
    await page.getByRole("region", { name: "What comes in the next two weeks" }).waitFor();
  });

  it("has something to say in every empty room", async () => {
    for (const [room, words] of [
      ["runs", "No runs yet"],
      ["outbox", "Nothing has gone out yet"],
      ["letterbox", "The letterbox is empty"],
    ]) {
      await open(room);
      await page.getByText(words).waitFor();
    }
  });

  it("shows a dataset's rows as a grid that scrolls over all of them, and only draws those in sight", async () => {
    await open("data/visits");
    const grid = page.getByRole("region", { name: "Rows of visits" });
    await page.getByRole("cell", { name: "61000", exact: true }).waitFor();
    expect(await text()).toContain("2,460 rows, 14 columns from visits-2026.xlsx, header in row 4");
    expect(await grid.locator("tbody tr").count()).toBeLessThan(40);
    await grid.evaluate((element) => element.scrollTo(0, element.scrollHeight));
    await page.getByRole("cell", { name: "63459", exact: true }).waitFor();
    await grid.evaluate((element) => element.scrollTo(0, element.scrollHeight / 2));
    await page.getByRole("cell", { name: "62236", exact: true }).waitFor();
  });

  it("searches, filters, sorts, and tells a column in figures", async () => {
    await page.getByPlaceholder("Search in all columns").fill("harbour house");
    await page.keyboard.press("Enter");
    await page.getByText("104 of 2,460 rows").waitFor();
    await page.getByRole("button", { name: "Figures and filter of Result" }).click();
    const panel = page.getByRole("complementary", { name: "Column Result" });
    await panel.getByText("pass with remarks").first().waitFor();
    await panel.getByRole("button", { name: /^fail/ }).click();
    await page.getByText("3 of 2,460 rows").waitFor();
    await page.getByRole("button", { name: "Figures and filter of Hours" }).click();
    await page.getByRole("complementary", { name: "Column Hours" }).getByText("Sum").waitFor();
    await page.getByRole("button", { name: "Parts", exact: true }).click();
    await page
      .getByRole("columnheader", { name: /^Parts/ })
      .and(page.locator("[aria-sort=ascending]"))
      .waitFor();
    // The marked heading shows at once, the sorted rows when they have come.
    const parts = async (): Promise<number[]> =>
      (await page.locator("tbody tr td:nth-child(12)").allTextContents()).map(Number);
    await expect.poll(async () => isAscending(await parts()), { timeout: 60_000 }).toBe(true);
    await page.getByRole("button", { name: "Remove this filter" }).click();
    await page.getByText("104 of 2,460 rows").waitFor();
  });

  it("sends the rows of a search on for a run of their own", async () => {
    await page.getByRole("button", { name: "Use these rows for a run" }).click();
    const dialog = page.getByRole("dialog", { name: "Use these rows for a run" });
    await dialog.getByLabel("Report").selectOption("site-statement");
    await dialog.getByLabel("Period").fill("2026-10");
    await dialog.getByRole("button", { name: "Run", exact: true }).click();
    await page.getByText("not among the rows found").first().waitFor({ timeout: 240_000 });
    expect(await text()).toContain("in 1 group");
  });

  it("makes a run of rows that are ticked, and says of each to whom it goes and whether it went out before", async () => {
    await open("data/visits/rows");
    for (const row of [5, 6]) await page.getByLabel(`Tick row ${row}`, { exact: true }).check();
    await page.getByRole("button", { name: "Use 2 ticked rows for a run" }).click();
    const dialog = page.getByRole("dialog", { name: "Use these rows for a run" });
    await dialog.getByLabel("Report").selectOption("site-statement");
    await dialog.getByText("2 rows go into the run, for 2026-01.").waitFor();
    expect(await dialog.locator("tbody tr").count()).toBe(2);
    expect(await dialog.locator("tbody tr td:last-child").allTextContents()).toEqual(["no", "no"]);
    await dialog.getByRole("button", { name: "Run", exact: true }).click();
    await page.getByText("not among the rows that were ticked").first().waitFor({ timeout: 240_000 });
  });

  it("lists findings and leads to their cells; says how the file was read and which cells were changed", async () => {
    await open("data/visits/findings");
    await page.getByText("is a total line and was left out").waitFor();
    await page.getByRole("button", { name: "row 2262" }).click();
    const jumped = page.locator("tr.jumped");
    await jumped.waitFor();
    expect(await jumped.locator("td.marked").textContent()).toBe("06/10/2026");
    await page.getByRole("tab", { name: "How it was read" }).click();
    await page.getByText("2,464 lines with content = 2,460 rows + 4 left out").waitFor();
    await page.getByText("day first, as in 6.10.2026").waitFor();
    await page.getByRole("tab", { name: "Changed cells" }).click();
    await page.getByText('"6.10.2026"').waitFor();
  });

  it("merges near doubles among the groups for good, and undoes it", async () => {
    await page.getByRole("tab", { name: "Groups" }).click();
    await page.getByText("27 groups, 1 row without one").waitFor();
    await page.getByRole("button", { name: "Merge into “Sjöstad Quay”" }).click();
    await page.getByText("26 groups").waitFor();
    await page.getByText("“Sjostad Quay” counts as “Sjöstad Quay” in Site.").waitFor();
    await page.getByRole("button", { name: "Undo" }).click();
    await page.getByText("27 groups").waitFor();
  });

  it("shows each step of a preparation with its rows", async () => {
    await open("reports/site-statement/rows");
    await page.getByText('91 Result is "cancelled"').waitFor();
    await page.getByRole("cell").getByRole("button", { name: "New columns", exact: true }).click();
    await page.getByRole("region", { name: "Rows after step 2" }).waitFor();
    await page.getByRole("columnheader", { name: /^fee/ }).waitFor();
    await page.getByText("2,368 rows").waitFor();
  });

  it("fills a template for any group, with its pages beside its marks and the group's rows", async () => {
    await open("templates/statement.xlsx");
    await page.getByRole("img", { name: /^statement.xlsx for .*, page 1 of 1$/ }).waitFor();
    await page.getByText("All 21 marks find their value in site-statement.").waitFor();
    const marks = page.getByRole("region", { name: "Marks" });
    await marks.getByText("{{ line.visit_date }}", { exact: true }).waitFor();
    await marks.getByText("column visit_date of each line").waitFor();
    await page.getByLabel(/^Group/).selectOption({ label: "Harbour House (9 rows)" });
    await page.getByRole("img", { name: "statement.xlsx for Harbour House, page 1 of 1" }).waitFor();
    await page.getByRole("tab", { name: "Rows (9)" }).click();
    await page.getByRole("region", { name: "Rows of Harbour House" }).waitFor();
    await page.getByLabel("Show").selectOption("template");
    await page.getByRole("img", { name: "statement.xlsx, page 1 of 1" }).waitFor();
  });

  it("shows a document's pages beside its structures, and takes fonts", async () => {
    await open("templates/report.docx");
    await page.getByRole("img", { name: /^report.docx for .*, page 1 of / }).waitFor();
    const marks = page.getByRole("region", { name: "Marks" });
    await marks.getByText("{{ repeat line by unit }}", { exact: true }).waitFor();
    await page.getByLabel(/^Group/).selectOption({ label: "Canal Wharf (28 rows)" });
    await page.getByRole("img", { name: "report.docx for Canal Wharf, page 5 of 5" }).waitFor();
    await open("templates");
    await page.getByRole("heading", { name: "Fonts" }).waitFor();
    const font = createRequire(createRequire(import.meta.url).resolve("@corbix/fonts")).resolve(
      "@fontsource/noto-sans-arabic/files/noto-sans-arabic-arabic-400-normal.woff",
    );
    await page.locator("input[type=file]").nth(1).setInputFiles(font);
    await page.getByText("Noto Sans Arabic").waitFor();
  });

  it("does odd jobs on workbooks that are dropped", async () => {
    await open("tools");
    const template = fileURLToPath(new URL("../demo/files/templates/statement.xlsx", import.meta.url));
    await page.locator("input[type=file]").first().setInputFiles(template);
    await page.getByText("1 sheet of statement.xlsx").waitFor();
    await page.getByRole("tab", { name: "Replace words" }).click();
    await page.getByLabel("Replace", { exact: true }).fill("Subtotal");
    await page.getByLabel("By", { exact: true }).fill("Sum");
    await page.getByRole("button", { name: "Another word" }).click();
    await page.getByLabel("Replace, word 2").fill("Inspections");
    await page.getByLabel("By, word 2").fill("Visits");
    const other = fileURLToPath(new URL("../demo/files/templates/figures.xlsx", import.meta.url));
    await page.locator("input[type=file]").setInputFiles([template, other]);
    await page.getByRole("button", { name: "Replace in 2 workbooks" }).click();
    await page.getByRole("region", { name: "Changed cells" }).getByText("Subtotal").waitFor();
    await page.getByRole("link", { name: "Save all 2 as one archive" }).waitFor();
  });

  it("says what is wrong in a definition, with its place", async () => {
    await open("reports/site-statement/text");
    const { source } = await service.client.get("/reports/{name}", { path: { name: "site-statement" } });
    await page.getByRole("textbox", { name: "Definition" }).getByText("split").first().waitFor();
    await writeDefinition(page, source.replace("split: site", "split: sight"));
    await page.getByText("Cannot find the column `sight`").waitFor();
    await page.locator(".cm-lintRange-error").first().waitFor();
    expect(await page.locator(".cm-line", { has: page.locator(".cm-lintRange-error") }).textContent()).toBe(
      "split: sight",
    );
    await open("reports/site-statement/check");
    expect(await page.getByRole("button", { name: /^Save/ }).isDisabled()).toBe(true);
    await page.getByRole("link", { name: "Mend it under Groups" }).click();
    await page
      .getByRole("region", { name: "Groups" })
      .getByLabel(/^Site \(/)
      .check({ force: true });
    const back = page.getByRole("button", { name: "Take back" });
    while (await back.isEnabled()) await back.click();
    await page.getByText(/^version \d+$/).waitFor();
    await open("reports/site-statement/when");
    await page.getByText("The next times, in your time zone:").waitFor();
    expect(await page.getByRole("list", { name: "Next times" }).getByRole("listitem").count()).toBeGreaterThan(4);
  });

  it("writes a message beside what a group gets, says what is wrong in it, and keeps it", async () => {
    await open("reports/site-statement/message");
    await page.getByText("Write the message").click();
    const editor = page.getByRole("region", { name: "Text", exact: true });
    const seen = page.getByRole("region", { name: "What a group gets" });
    await seen.getByText("To silas.montague@harbourhouse.example").waitFor();
    const body = editor.getByLabel("Text", { exact: true });
    await body.getByText("Dear", { exact: false }).first().waitFor();
    expect(await body.innerText()).toContain("Name of the person");
    await editor.getByRole("button", { name: "Show its source" }).click();
    const written = await body.inputValue();
    await body.fill(written.replace("line.fee", "line.fees"));
    await seen.getByText("Cannot find").waitFor();
    // What is written right after something was taken back stays, however long answers are in coming.
    let letGo: () => void = () => {};
    const held = new Promise<void>((resolve) => {
      letGo = resolve;
    });
    const reading = "**/api/v1/reports/site-statement/message";
    await page.route(reading, async (route) => {
      if (route.request().method() === "GET") await held;
      await route.continue();
    });
    await editor.getByRole("button", { name: "Take back" }).click();
    await editor.getByLabel("Subject").fill("Your lifts in {{ period.label }}, {{ site }}");
    letGo();
    await seen.getByText("Your lifts in October 2026, Harbour House").waitFor();
    await page.unroute(reading);
    await seen.getByLabel("Group (26)").selectOption({ label: "Alder Court (6 rows)" });
    await seen.getByText("Your lifts in October 2026, Alder Court").waitFor();
    // A mark is put where the cursor stands.
    await body.fill("<p>Dear </p>");
    await body.evaluate((area: HTMLTextAreaElement) => area.setSelectionRange(8, 8));
    await editor.getByLabel("Put into text").selectOption("Name of the person");
    await expect.poll(() => body.inputValue(), { timeout: 60_000 }).toBe("<p>Dear {{ recipient.name }}</p>");
    await seen.frameLocator("iframe").getByText("Dear Ruth Penhallow").waitFor();
    await editor.getByRole("button", { name: "Take back" }).click();
    await editor.getByLabel("Another language").fill("de");
    await page.keyboard.press("Enter");
    await editor.getByLabel("Subject").fill("Prüfungen {{ site }}");
    await seen.getByText("Nobody of this group reads de.").waitFor();
    await editor.getByRole("button", { name: "Save the message" }).click();
    await page.getByText("The report is at version").waitFor();
    const source = async (): Promise<string> =>
      (await service.client.get("/reports/{name}", { path: { name: "site-statement" } })).source;
    await expect.poll(source, { timeout: 60_000 }).toContain("Prüfungen {{ site }}");
    await editor.getByRole("button", { name: "Take de out" }).click();
    await editor.getByRole("button", { name: "Save the message" }).click();
    await expect.poll(source, { timeout: 60_000 }).not.toContain("Prüfungen");
    await page.getByText("version 3", { exact: true }).waitFor();
    await page.getByText("Write the message").click();
    await editor.waitFor({ state: "detached" });
  });

  it("runs a report live, shows the proof, opens a parcel beside its rows, and releases it", async () => {
    await page.getByRole("button", { name: "Run", exact: true }).click();
    const dialog = page.getByRole("dialog");
    // Nothing of it was delivered: it begins with the newest period that is over.
    await expect.poll(() => dialog.getByLabel("Period").inputValue(), { timeout: 60_000 }).toBe("2026-10");
    expect(await dialog.getByLabel("Period").locator("option:checked").innerText()).toBe(
      "October 2026: open, 243 rows",
    );
    await dialog.getByText("239 rows in 26 groups; 2,221 rows left out").waitFor();
    await dialog.getByText("24 groups get theirs once you release it. For 2 groups there is nobody.").waitFor();
    await dialog.getByText("Which, and why").click();
    await dialog.getByRole("listitem").filter({ hasText: "Limekiln Terrace" }).waitFor();
    await dialog.getByText("Only some groups").click();
    await dialog.getByRole("searchbox").fill("harb");
    await dialog.getByText("Harbour House (9 rows)").click();
    await dialog.getByText("Only Harbour House.").waitFor();
    await dialog.getByText("Only some groups").click();
    await dialog.getByRole("button", { name: "Run" }).click();
    await page.getByRole("button", { name: "Release", exact: true }).waitFor({ timeout: 240_000 });
    expect(await text()).toContain("2,460 rows = 239 in 26 groups + 2,221 left out");
    expect(await text()).toContain("fees: 43,839.51 in the master = 43,839.51 in the parcels.");
    await page.getByRole("link", { name: "Sjöstad Quay" }).click();
    await page.getByRole("img", { name: "Sjöstad Quay, page 1 of 1" }).waitFor();
    await page.getByRole("tab", { name: "Rows (9)" }).click();
    const rows = page.getByRole("region", { name: "Rows of Sjöstad Quay" }).locator("tbody tr");
    await expect.poll(() => rows.count(), { timeout: 60_000 }).toBe(9);
    await page.getByRole("tab", { name: "Message" }).click();
    await page.getByText("Lift inspections at Sjöstad Quay, October 2026").waitFor();
    const address = page.url();
    await page.getByRole("button", { name: "Release", exact: true }).click();
    await page.getByRole("button", { name: "Send 24 messages" }).click();
    await page.locator("h1").getByText("done").waitFor({ timeout: 240_000 });
    await page.goto("about:blank");
    await page.goto(address);
    await page
      .getByText("Åsa Nyström <asa.nystrom@sjostad.example>")
      .or(page.getByRole("tab", { name: "Message" }))
      .first()
      .waitFor();
  });

  it("reads in the letterbox what arrived, with scripts and remote parts powerless", async () => {
    await open("letterbox");
    await page.getByRole("link", { name: /Lift inspections at Brücken Arcade/ }).click();
    await page.getByText("Brücken Arcade – statement – October 2026.xlsx").waitFor();
    const frame = page.locator("iframe");
    // Its own page with an origin of its own: it reaches neither this page nor the service, and fetches nothing.
    expect(await frame.getAttribute("sandbox")).toBe("allow-scripts");
    await frame.scrollIntoViewIfNeeded();
    await page.frameLocator("iframe").getByText("Dear Jürgen Weiß").waitFor();
    await page.getByRole("tab", { name: "As text" }).click();
    await page.getByText("14 visits to").waitFor();
  });

  it("takes a file dropped on the page, and shows it before anything is kept", async () => {
    await open("data");
    await page.getByRole("heading", { name: "Arrivals" }).waitFor();
    await page.evaluate(() => {
      const data = new DataTransfer();
      data.items.add(new File(["Site;Fee\nDock;3\n"], "Dropped 2026-10.csv", { type: "text/csv" }));
      document.querySelector(".page")?.dispatchEvent(new DragEvent("drop", { bubbles: true, dataTransfer: data }));
    });
    const panel = page.getByRole("region", { name: "Load a file" });
    await panel.getByRole("button", { name: "Load 1 row" }).waitFor();
    expect(await panel.getByLabel("Dataset").inputValue()).toBe("dropped");
    expect((await service.call("GET", "/api/v1/datasets/dropped")).status).toBe(404);
    await panel.getByRole("button", { name: "Cancel" }).click();
  });

  it("shows a file before it is loaded, takes a correction, refuses one that is no table, and keeps what was typed", async () => {
    await open("data");
    await page.getByRole("button", { name: "Load a file" }).click();
    const panel = page.getByRole("region", { name: "Load a file" });
    await panel.getByLabel("Dataset").fill("meters");
    const choose = (name: string, content: string) =>
      panel.locator("input[type=file]").setInputFiles({ name, mimeType: "text/csv", buffer: Buffer.from(content) });
    await choose("empty.csv", "");
    await page.getByText("Cannot read the file: it is empty.").waitFor();
    expect(await panel.getByLabel("Dataset").inputValue()).toBe("meters");
    await choose("meters.csv", "Site;Reading;Due\nDock;1'234.50;02/10/2026\nQuay;2;03/04/2026\nTotal;1236.5;\n");
    await page.getByText("nothing in the file tells which comes first").waitFor();
    await panel.getByText("Types of columns").click();
    await panel.getByLabel("Due").selectOption("date month-first");
    await panel.getByRole("button", { name: "Read it again so" }).click();
    await page.getByRole("cell", { name: "10/02/2026" }).waitFor();
    await panel.getByRole("button", { name: "Load 2 rows" }).click();
    await page.getByText("is a total line and was left out").waitFor();
    await page.getByRole("tab", { name: "Rows" }).click();
    await page.getByRole("cell", { name: "1234.5" }).waitFor();
    expect(await text()).toContain("2 rows, 3 columns from meters.csv");
  });

  it("shows a second run of the same period as it is: nothing goes twice", async () => {
    await open("reports/site-statement");
    await page.getByRole("button", { name: "Run", exact: true }).click();
    await page.getByRole("dialog").getByLabel("Period").selectOption("2026-10");
    await page.getByRole("dialog").getByText("Nobody would get anything.").waitFor();
    await page.getByRole("dialog").getByText("24 groups have it already and are skipped", { exact: false }).waitFor();
    await page.getByRole("dialog").getByText("Send it again to those who have it").click();
    await page.getByRole("dialog").getByText("24 groups get theirs once you release it.").waitFor();
    expect(await page.getByRole("dialog").getByRole("button", { name: "Run" }).isDisabled()).toBe(true);
    await page.getByRole("dialog").getByText("Send it again to those who have it").click();
    await page.getByRole("dialog").getByRole("button", { name: "Run" }).click();
    await page.getByRole("button", { name: "Release", exact: true }).waitFor({ timeout: 240_000 });
    await page.getByRole("button", { name: "Release", exact: true }).click();
    // What the release would do is told before it: nobody gets anything.
    expect(await text()).toMatch(
      /A release would send nothing\. 24 of 26 groups have theirs already, on \d+ \w+ \d{4}; they are skipped\./,
    );
    await page.getByRole("dialog").getByText("24 of 26 groups have theirs already").waitFor();
    await page.getByRole("button", { name: "Send 0 messages" }).click();
    await page.locator("h1").getByText("done").waitFor({ timeout: 240_000 });
    await expect.poll(() => page.locator("td").getByText("skipped").count(), { timeout: 60_000 }).toBe(24);
    expect(await service.list<unknown>("/api/v1/letters")).toHaveLength(24);
  });

  it("rehearses from a held run, to one address only", async () => {
    await open("reports/site-statement");
    await page.getByRole("button", { name: "Run", exact: true }).click();
    await page.getByRole("dialog").getByLabel("Period").selectOption("2026-09");
    await page.getByRole("dialog").getByRole("button", { name: "Run" }).click();
    await page.getByRole("button", { name: "Rehearse", exact: true }).click({ timeout: 240_000 });
    await page.getByRole("dialog").getByLabel("Rehearse to").fill("me@lifts.example");
    expect(await page.getByRole("dialog").getByLabel("Period").inputValue()).toBe("2026-09");
    await page.getByRole("dialog").getByRole("button", { name: "Rehearse" }).click();
    await page.getByText("A rehearsal: everything goes to me@lifts.example").waitFor();
    await page.locator("h1").getByText("done").waitFor({ timeout: 240_000 });
    await open("letterbox");
    await page.getByRole("link", { name: /Rehearsal: Lift inspections at Harbour House/ }).click();
    await page.locator("iframe").scrollIntoViewIfNeeded();
    await page.frameLocator("iframe").getByText("This would go to: Silas Montague").waitFor();
  });

  it("begins the day with what waits, what went wrong and what went out", async () => {
    await open("");
    const waits = page.getByRole("region", { name: "What waits for you" });
    await waits.getByRole("link", { name: "Monthly statement of lift inspections, September 2026" }).first().waitFor();
    await waits
      .getByText(/messages for \d+ groups, \d+ findings? to look at/)
      .first()
      .waitFor();
    const out = page.getByRole("region", { name: "What went out" });
    await out.getByRole("link", { name: "Monthly statement of lift inspections, October 2026" }).first().waitFor();
    await out.getByText("24 messages sent").first().waitFor();
    expect(await page.getByRole("region", { name: "What went wrong" }).count()).toBe(0);
    // A message that came back is told here until it is settled.
    const { database } = service.context;
    await database.execute(
      "UPDATE messages SET state = 'returned', response = '550 no such person', touched_at = now() WHERE id = (SELECT max(id) FROM messages WHERE state = 'sent')",
    );
    await page.reload();
    const wrong = page.getByRole("region", { name: "What went wrong" });
    await wrong.getByText("1 message came back").waitFor();
    await wrong.getByText("The mail server: 550 no such person. Correct the address").waitFor();
    await wrong.getByRole("link", { name: "Outbox" }).click();
    await page.getByRole("heading", { name: "Outbox" }).waitFor();
  });

  it("finds groups, people, runs, files and reports from every page, by keyboard", async () => {
    const box = page.getByRole("textbox", { name: "Search everything" });
    const look = async (words: string): Promise<void> => {
      await page.getByRole("banner").getByRole("button", { name: "Search", exact: true }).click();
      await box.fill(words);
    };
    await look("silas");
    await page.getByRole("menuitem", { name: /Silas Montague.*silas\.montague@harbourhouse\.example/ }).waitFor();
    await page.keyboard.press("Enter");
    await page.getByRole("heading", { name: "Recipients" }).waitFor();
    await page.getByRole("row", { name: /Silas Montague/ }).waitFor();
    expect(await page.locator("tbody tr").count()).toBe(1);
    await look("brücken");
    await page.getByRole("menuitem", { name: /^Brücken Arcade\s*Group, Monthly statement/ }).waitFor();
    await page.keyboard.press("Enter");
    await page
      .getByRole("region", { name: "Parcel", exact: true })
      .getByRole("heading", { name: "Brücken Arcade" })
      .waitFor();
    await look("no such thing");
    await page.getByText("Nothing is called “no such thing”.").waitFor();
    await page.keyboard.press("Escape");
  });

  it("stops a run that is held, and says so", async () => {
    await open("runs");
    await page
      .getByRole("row", { name: /September 2026 held/ })
      .getByRole("link")
      .click();
    await page.getByRole("button", { name: "Stop" }).click();
    await page.locator("h1").getByText("stopped").waitFor();
    expect(await page.getByRole("button", { name: "Release", exact: true }).count()).toBe(0);
  });

  it("leads to its rooms by keyboard, and shows where the focus is", async () => {
    await open("");
    await page.getByRole("heading", { name: "Overview" }).waitFor();
    await page.locator("body").click({ position: { x: 5, y: 700 } });
    const visited: string[] = [];
    for (let step = 0; step < 25; step++) {
      await page.keyboard.press("Tab");
      visited.push(await page.evaluate(() => document.activeElement?.textContent?.trim() ?? ""));
    }
    expect(visited).toEqual(expect.arrayContaining(["Data", "Runs", "Letterbox"]));
    await page.getByRole("link", { name: "Recipients", exact: true }).focus();
    await page.keyboard.press("Enter");
    await page.getByRole("heading", { name: "Recipients" }).waitFor();
    await page.getByPlaceholder("Search").fill("quay");
    await expect.poll(() => page.locator("tbody tr").count()).toBe(1);
  });

  it("says that there is no such page, run or parcel", async () => {
    await open("nowhere");
    await page.getByText("There is no such page").waitFor();
    await open("runs/ffff");
    await page.getByText("Cannot find the run `ffff`").waitFor();
  });

  it("is told apart by its own colours, light and dark", async () => {
    const colour = () =>
      page.evaluate(() => getComputedStyle(document.documentElement).getPropertyValue("--cds-interactive-01").trim());
    const light = await colour();
    await page.getByRole("button", { name: "Dark" }).click();
    expect([light, await page.locator("html").getAttribute("theme")]).toEqual(["#2f6b57", "g100"]);
    await page.getByRole("button", { name: "Light" }).click();
  });

  it("tells the API's calls on a page", async () => {
    await open("api");
    await page.getByText("/api/v1/runs/{id}/release").waitFor();
  });

  it("had no errors on the way", () => {
    expect(console.troubles).toEqual([]);
  });
});
