import { parseReport } from "@corbix/core/report";
import { afterAll, beforeAll, describe, expect, inject, it } from "vitest";
import { Person } from "./setup/clicks.js";
import { type Console, openConsole, signIn } from "./setup/console.js";
import { type TestService, testService } from "./setup/service.js";

let service: TestService;
let console: Console;
let person: Person;

beforeAll(async () => {
  // Nothing is there yet: somebody's first day.
  service = await testService(inject("databaseUrl"), { CORBIX_DEMO: "false" });
  console = await openConsole(service);
  await signIn(console, service);
});
afterAll(async () => {
  await console?.browser.close();
  await service?.close();
});

const DEMO = "demo/files";
const source = async (name: string): Promise<string> =>
  (await service.client.get("/reports/{name}", { path: { name } })).source;
/** What a definition means, whichever way it is written. */
const meaning = (text: string) => parseReport(text, "definition");
const beside = () => console.page.getByRole("complementary", { name: "What one group gets" });
const fresh = (): Person => {
  person = new Person(console.page);
  return person;
};

describe("the demo's report, made of its files by clicking only", () => {
  /** Clicks and typed fields that it may take. */
  const MOST = 60;

  it("is what somebody would have written, in so few clicks, and is rehearsed", async () => {
    const { page, open } = console;
    const me = fresh();
    await open("");
    await me.click(page.getByRole("link", { name: "Reports", exact: true }));
    await me.click(me.link("New report"));
    await me.type(page.getByLabel("Title"), "Monthly statement of lift inspections");
    await me.give(page.locator("input[type=file]").first(), `${DEMO}/visits-2026.xlsx`);
    await me.click(me.button(/^Load [\d,]+ rows$/));

    await me.click(me.button("Add a condition"));
    await me.choose(page.getByLabel("Column", { exact: true }), "Result");
    await me.choose(page.getByLabel("Comparison"), "is not");
    await me.type(page.getByLabel("Value", { exact: true }), "cancelled");
    await me.type(page.getByLabel("New column"), "fee");
    await me.click(me.button("Add"));
    await me.write(page.getByRole("textbox", { name: "Formula of fee" }), "round(hours * rate + parts, 2)");
    await me.choose(page.getByLabel("Sort by", { exact: true }), "Visit date");

    await me.click(me.link("Next: Groups"));
    const columns = page.getByRole("group", { name: "Columns of groups" });
    await columns.getByLabel(/^Site/).waitFor();
    if (!(await columns.getByLabel(/^Site/).isChecked())) {
      await me.tick(columns.getByLabel(/^Site/));
      await me.untick(columns.getByLabel(/^Unit/));
    }
    const totals = page.getByRole("group", { name: "Totals" });
    await me.tick(totals.getByLabel("Sum of fee"));
    await me.tick(totals.getByLabel("Sum of Hours"));

    await me.click(me.link("Next: Files"));
    const upload = page.getByRole("main").locator("input[type=file]").last();
    await me.give(upload, `${DEMO}/templates/statement.xlsx`);
    const statement = page.getByRole("region", { name: "File statement" });
    await me.choose(statement.getByLabel("PDF"), "too");
    await me.write(
      statement.getByRole("textbox", { name: "Name of the file" }),
      "{{ site }} – statement – {{ period.label }}",
    );
    await me.give(upload, `${DEMO}/templates/notice.docx`);
    const notice = page.getByRole("region", { name: "File notice" });
    await me.choose(notice.getByLabel("PDF"), "only");
    await me.write(
      notice.getByRole("textbox", { name: "Name of the file" }),
      "{{ site }} – notice – {{ period.label }}",
    );

    await me.click(me.link("Next: People"));
    await me.give(page.getByRole("main").locator("input[type=file]"), `${DEMO}/recipients.csv`);
    await me.click(page.getByRole("dialog").getByRole("button", { name: "Take it over" }));
    await page.getByText(/^Nobody receives for [1-9] groups? of 26\.$/).waitFor();

    await me.click(me.link("Next: Message"));
    await me.click(me.button("Write a message"));
    await me.write(
      page.getByRole("textbox", { name: "Subject" }),
      "Lift inspections at {{ site }}, {{ period.label }}",
    );
    await me.write(
      page.getByRole("textbox", { name: "Words" }),
      "Dear {{ recipient.name }},\nattached is the statement of {{ count(line) }} visits.",
    );
    await me.tick(page.getByRole("group", { name: "Attached files" }).getByLabel("statement.pdf"));
    await beside()
      .frameLocator("iframe")
      .getByText(/attached is the statement of \d+ visits/)
      .waitFor();

    await me.click(me.link("Next: When and how"));
    await me.choose(page.getByLabel("It runs", { exact: true }), "workday");
    await me.click(me.button("Reply to"));
    await me.type(page.getByLabel("Reply to"), "help@lifts.example");

    await me.click(me.link("Next: Check and save"));
    await page.getByText("Nothing: every name in it was found").waitFor();
    await me.click(me.button("Save the report"));
    await me.click(me.button("Rehearse to me"));
    await me.type(page.getByRole("dialog").getByLabel("Rehearse to"), "me@lifts.example");
    await me.type(page.getByRole("dialog").getByLabel("Period"), "2026-10");
    await me.click(me.button("Rehearse", page.getByRole("dialog")));

    const written = `
report: monthly-statement-of-lift-inspections
title: Monthly statement of lift inspections
data: visits
period: { column: Visit date, every: month }
keep: result <> "cancelled"
add: { fee: "round(hours * rate + parts, 2)" }
sort: [Visit date]
split: Site
totals: { fee: sum(line.fee), Hours: sum(line.hours) }
files:
  statement: { template: statement.xlsx, name: "{{ site }} – statement – {{ period.label }}", pdf: too }
  notice: { template: notice.docx, name: "{{ site }} – notice – {{ period.label }}", pdf: only }
message:
  subject: "Lift inspections at {{ site }}, {{ period.label }}"
  body:
    markdown: |
      Dear {{ recipient.name }},

      attached is the statement of {{ count(line) }} visits.
  attach: [statement, notice, statement.pdf]
delivery: { replyTo: help@lifts.example }
`;
    const made = meaning(await source("monthly-statement-of-lift-inspections"));
    const { schedule, ...rest } = made;
    expect(schedule).toMatchObject({ rule: "FREQ=MONTHLY;BYDAY=MO,TU,WE,TH,FR;BYSETPOS=1", at: "07:15" });
    expect(rest).toEqual(meaning(written));
    await page.locator("h1").getByText("done").waitFor({ timeout: 240_000 });
    const letters = await service.list<{ subject: string }>("/api/v1/letters");
    expect(letters).toHaveLength(24);
    expect(letters.map(({ subject }) => subject)).toContain("Rehearsal: Lift inspections at Alder Court, October 2026");
    process.stdout.write(`clicks ${me.clicks}, typed fields ${me.typed}\n`);
    expect(me.deeds).toBeLessThanOrEqual(MOST);
  });
});
