import { parseReport } from "@corbix/core/report";
import { afterAll, beforeAll, describe, expect, inject, it } from "vitest";
import { rawDocument } from "../core/test/support/raw-document.js";
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
    await me.tick(page.getByRole("group", { name: "Attached files" }).getByLabel("statement (PDF)"));
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
    await me.choose(page.getByRole("dialog").getByLabel("Period"), "2026-10");
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
    expect(schedule).toMatchObject({ day: { working: 1, of: "month" }, at: "07:15" });
    expect(rest).toEqual(meaning(written));
    await page.locator("h1").getByText("done").waitFor({ timeout: 240_000 });
    const letters = await service.list<{ subject: string }>("/api/v1/letters");
    expect(letters).toHaveLength(24);
    expect(letters.map(({ subject }) => subject)).toContain("Rehearsal: Lift inspections at Alder Court, October 2026");
    process.stdout.write(`clicks ${me.clicks}, typed fields ${me.typed}\n`);
    expect(me.deeds).toBeLessThanOrEqual(MOST);
  });
});

const csv = (name: string, text: string) => ({ name, mimeType: "text/csv", buffer: Buffer.from(text) });
const files = () => console.page.getByRole("main").locator("input[type=file]");

/** A new report of a file that is given, under a dataset's name of its own. */
async function begin(me: Person, title: string, file: Parameters<Person["give"]>[1], dataset: string): Promise<void> {
  const { page, open } = console;
  await open("reports/new");
  await me.type(page.getByLabel("Title"), title);
  await me.click(page.getByText("a file", { exact: true }));
  await me.give(files().first(), file);
  await me.button(/^Load \d+ rows?$/).waitFor();
  await me.type(page.getByRole("textbox", { name: "Dataset" }), dataset);
  await me.click(me.button(/^Load \d+ rows?$/));
  await page.getByRole("heading", { name: title }).waitFor();
}

async function save(me: Person): Promise<void> {
  await me.click(me.link(/8\. Check and save/));
  await console.page.getByText("Nothing: every name in it was found").waitFor();
  await me.click(me.button("Save the report"));
  await console.page.getByText("Version 1 is saved.").waitFor();
}

async function addPerson(me: Person, group: string, address: string): Promise<void> {
  const { page } = console;
  const dialog = page.getByRole("dialog", { name: "A new recipient" });
  await me.type(dialog.getByLabel("Addresses", { exact: true }), address);
  expect(await dialog.getByLabel("Groups").inputValue()).toBe(group);
  await me.click(dialog.getByRole("button", { name: "Save" }));
  await dialog.waitFor({ state: "hidden" });
}

describe("other work, made by clicking only", () => {
  it("is a workbook with a selector, printed for each group", async () => {
    const { page } = console;
    const me = fresh();
    await begin(me, "Share of each district", "demo/examples/district-share/visits.csv", "district-visits");
    await me.choose(page.getByLabel("The day of a row"), "no period: all rows each time");
    await me.click(me.link("Next: Groups"));
    await page
      .getByRole("group", { name: "Columns of groups" })
      .getByLabel(/^District/)
      .waitFor();
    expect(
      await page
        .getByRole("group", { name: "Columns of groups" })
        .getByLabel(/^District/)
        .isChecked(),
    ).toBe(true);
    await me.tick(page.getByRole("group", { name: "Totals" }).getByLabel("Sum of Fee"));
    await me.click(me.link("Next: Files"));
    await me.give(files().last(), "demo/examples/district-share/templates/share.xlsx");
    const file = page.getByRole("region", { name: "File share" });
    await me.choose(file.getByLabel("PDF"), "too");
    await me.click(file.getByText("More about this file"));
    await me.click(me.button("Cells", file));
    await me.type(file.getByLabel("New name in cells"), "District");
    await me.click(me.button("Add", file));
    await me.write(file.getByRole("textbox", { name: "District" }), "{{ group.key }}");
    await me.click(me.button("Tables", file));
    await me.type(file.getByLabel("New name in tables"), "Visits");
    await me.click(me.button("Add", file).last());
    await me.click(me.button("Rows it shows", file));
    await me.choose(file.getByLabel("Rows it shows", { exact: true }), "all");
    await me.click(me.button("Values only", file));
    await me.click(me.button("Sheets", file));
    await me.type(file.getByLabel("Sheets, 1"), "Summary");
    await beside()
      .getByRole("img", { name: /^share for .+, page 1 of 1$/ })
      .waitFor();
    await save(me);
    expect(meaning(await source("share-of-each-district"))).toEqual(
      meaning(`
report: share-of-each-district
title: Share of each district
data: district-visits
split: District
totals: { Fee: sum(line.fee) }
files:
  share:
    template: share.xlsx
    name: "{{ group.key }}"
    cells: { District: "{{ group.key }}" }
    tables: { Visits: { lines: all } }
    values: true
    sheets: [Summary]
    pdf: too
`),
    );
  });

  it("is a table of rows for each person, with its mail to the address in the rows", async () => {
    const { page } = console;
    const me = fresh();
    const rows =
      "Inspector,Mail,Site,Hours\nAnn,ann@lifts.example,Dock,2.5\nBen,ben@lifts.example,Quay,1\nAnn,ann@lifts.example,Mill,3\n";
    await begin(me, "Hours of each inspector", csv("hours.csv", rows), "hours");
    await me.click(me.link("Next: Groups"));
    const columns = page.getByRole("group", { name: "Columns of groups" });
    await columns.getByLabel(/^Inspector/).waitFor();
    for (const name of ["Mail", "Site"])
      if (await columns.getByLabel(new RegExp(`^${name}`)).isChecked())
        await me.untick(columns.getByLabel(new RegExp(`^${name}`)));
    if (!(await columns.getByLabel(/^Inspector/).isChecked())) await me.tick(columns.getByLabel(/^Inspector/));
    await me.click(me.link("Next: Files"));
    await me.click(me.button("Add a table of the rows"));
    const file = page.getByRole("region", { name: "File rows" });
    await me.untick(file.getByRole("checkbox", { name: "Mail" }));
    await me.choose(file.getByLabel("Format of Hours"), "#,##0.00");
    await me.choose(file.getByLabel("Total of Hours"), "sum");
    await me.click(me.link("Next: People"));
    await me.click(page.getByText("a column of the rows", { exact: true }));
    expect(await page.getByLabel("Column of addresses").inputValue()).toBe("Mail");
    await me.choose(page.getByLabel("Column of names"), "Inspector");
    await me.click(me.link("Next: Message"));
    await me.click(me.button("Write a message"));
    await beside()
      .frameLocator("iframe")
      .getByText(/^Dear (Ann|Ben),/)
      .waitFor();
    await save(me);
    expect(meaning(await source("hours-of-each-inspector"))).toEqual(
      meaning(`
report: hours-of-each-inspector
title: Hours of each inspector
data: hours
split: Inspector
files:
  rows:
    name: "{{ group.key }}"
    table:
      title: "{{ group.key }}"
      columns: [Inspector, Site, { column: Hours, format: "#,##0.00", total: sum }]
message:
  subject: "Hours of each inspector: {{ group.key }}"
  body:
    markdown: |
      Dear {{ recipient.name }},

      here are the rows of {{ group.key }}.

      Kind regards
  attach: [rows]
delivery: { to: { column: Mail, name: Inspector } }
`),
    );
  });

  it("is a letter for each row", async () => {
    const { page } = console;
    const me = fresh();
    const rows = "Notice,Site,Unit,Due\nN-1,Dock,L1,2026-12-01\nN-2,Dock,L2,2026-12-08\nN-3,Quay,L1,2026-12-15\n";
    await begin(me, "Notices", csv("notices.csv", rows), "notices");
    await me.choose(page.getByLabel("The day of a row"), "no period: all rows each time");
    await me.click(me.link("Next: Groups"));
    await me.click(page.getByText("each row for itself, such as a letter for each"));
    await page.getByText("3 groups from 3 rows").waitFor();
    expect(
      await page
        .getByRole("group", { name: "Columns that name a row" })
        .getByLabel(/^Notice/)
        .isChecked(),
    ).toBe(true);
    await me.click(me.link("Next: Files"));
    const letter = Buffer.from(
      rawDocument("<w:p><w:r><w:t>Notice {{ notice }} for {{ unit }} at {{ site }}, due {{ due }}</w:t></w:r></w:p>"),
    );
    await me.give(files().last(), { name: "letter.docx", mimeType: "application/octet-stream", buffer: letter });
    await me.choose(page.getByRole("region", { name: "File letter" }).getByLabel("PDF"), "only");
    await beside()
      .getByRole("img", { name: /^letter for N-\d, page 1 of 1$/ })
      .waitFor();
    await me.click(me.link("Next: People"));
    await me.click(page.getByText("the shared list of recipients, by another column of the rows"));
    await me.choose(page.getByLabel("Column that the list is asked for"), "Site");
    await page.getByText("Nobody receives for 3 groups of 3.").waitFor();
    await me.click(me.button("Add somebody").first());
    await me.type(page.getByRole("dialog").getByLabel("Groups"), "Dock");
    await addPerson(me, "Dock", "dock@lifts.example");
    await page.getByText("Nobody receives for 1 group of 3.").waitFor();
    await me.click(me.link("Next: Message"));
    await me.click(me.button("Write a message"));
    await save(me);
    expect(meaning(await source("notices"))).toEqual(
      meaning(`
report: notices
title: Notices
data: notices
split: { row: [Notice] }
files: { letter: { template: letter.docx, name: "{{ group.key }}", pdf: only } }
message:
  subject: "Notices: {{ group.key }}"
  body:
    markdown: |
      Dear {{ recipient.name }},

      here are the rows of {{ group.key }}.

      Kind regards
  attach: [letter]
delivery: { to: { by: Site } }
`),
    );
    const run = (await service.client.post("/runs", { body: { report: "notices", rehearsalTo: "me@lifts.example" } }))
      .id;
    const { sentences } = await service.waitFor(run, ["done"]);
    expect(sentences.join(" ")).toMatch(/3 rows = 3 in 3 groups/);
  });

  it("is a weekly list of what lies above a limit, to one manager", async () => {
    const { page } = console;
    const me = fresh();
    const rows = "Site,Fee\nDock,900\nQuay,80\nMill,1200.50\nYard,500\n";
    await begin(me, "Dear visits", csv("fees.csv", rows), "fees");
    await me.click(me.button("Add a condition"));
    await me.choose(page.getByLabel("Column", { exact: true }), "Fee");
    await me.choose(page.getByLabel("Comparison"), "more than");
    await me.type(page.getByLabel("Value", { exact: true }), "500");
    await page.getByText("leaves out 2 of 4 rows").click();
    await page.getByRole("cell", { name: "Yard" }).waitFor();
    await me.choose(page.getByLabel("Sort by", { exact: true }), "Fee");
    await me.choose(page.getByLabel("Direction of Fee"), "down");
    await me.click(me.link("Next: Groups"));
    await me.click(page.getByText("all rows together: one file for everybody"));
    await me.type(page.getByLabel("What it is called"), "All sites");
    await page.getByText("1 group from 2 rows").waitFor();
    await me.click(me.link("5. People"));
    await me.click(page.getByText("here: the same people for every group"));
    await me.type(page.getByPlaceholder("chief@lifts.example"), "manager@lifts.example");
    await me.type(page.getByPlaceholder("as the message addresses them"), "Mona");
    await me.click(me.link("Next: Message"));
    await me.click(me.button("Write a message"));
    await beside().frameLocator("iframe").getByRole("cell", { name: "Mill" }).waitFor();
    await me.click(me.button("Set up"));
    const table = page.getByRole("region", { name: "Table of the rows" });
    await me.choose(table.getByLabel("Format of Fee"), "#,##0.00");
    await me.tick(table.getByLabel("Sum of Fee"));
    await beside().frameLocator("iframe").getByText("2,100.50").waitFor();
    await me.click(me.link("Next: When and how"));
    await me.choose(page.getByLabel("It runs", { exact: true }), "weekly");
    await page
      .getByTitle(/^Runs Fri/)
      .first()
      .waitFor();
    await save(me);
    const { schedule, ...rest } = meaning(await source("dear-visits"));
    expect(schedule?.rule).toBe("FREQ=WEEKLY;BYDAY=FR");
    expect(rest).toEqual(
      meaning(`
report: dear-visits
title: Dear visits
data: fees
keep: fee > 500
sort: [-Fee]
split: { one: All sites }
message:
  subject: "Dear visits: {{ group.key }}"
  body:
    markdown: |
      Dear {{ recipient.name }},

      here are the rows of {{ group.key }}.

      {{table line: site headed "Site", fee headed "Fee" as "#,##0.00" total}}

      Kind regards
delivery: { to: { addresses: [manager@lifts.example], name: Mona } }
`),
    );
  });

  it("had no errors on the way", () => {
    expect(console.troubles).toEqual([]);
  });
});
