import { parseReport } from "@corbix/core/report";
import { afterAll, beforeAll, describe, expect, inject, it } from "vitest";
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

const DOORS = `Site;Day;Doors;Fee
Harbour House;02/10/2026;3;120.50
Harbour House;30/10/2026;4;80
Canal Wharf;15/10/2026;2;99.50
Alder Court;20/10/2026;1;0
Canal Wharf;15/09/2026;9;900
`;

const source = async (name: string): Promise<string> =>
  (await service.client.get("/reports/{name}", { path: { name } })).source;

describe("a report made by clicking alone", () => {
  it("begins with a file that is dropped, and suggests period and groups", async () => {
    const { page, open } = console;
    await open("reports");
    await page.getByRole("link", { name: "New report" }).click();
    await page.getByLabel("Title").fill("Door checks");
    await page.getByText("a file", { exact: true }).click();
    await page.getByRole("region", { name: "Drop a file" }).waitFor();
    await page.evaluate((text) => {
      const data = new DataTransfer();
      data.items.add(new File([text], "Doors 2026-10.csv", { type: "text/csv" }));
      document.querySelector(".drop")?.dispatchEvent(new DragEvent("drop", { bubbles: true, dataTransfer: data }));
    }, DOORS);
    await page.getByRole("button", { name: "Load 5 rows" }).click();
    await page.getByRole("heading", { name: "Door checks" }).waitFor();
    const beside = page.getByRole("complementary", { name: "What one group gets" });
    await beside.getByRole("heading", { name: /^What (?!a group).+ gets$/ }).waitFor();
    await page.getByLabel("The day of a row").waitFor();
    expect(await page.getByLabel("The day of a row").inputValue()).toBe("Day");
    expect(await page.getByText("not saved yet").count()).toBe(1);
    expect((await service.call("GET", "/api/v1/reports/door-checks")).status).toBe(404);
  });

  it("keeps the rows that conditions say, and shows at once what a group has then", async () => {
    const { page } = console;
    await page.getByRole("button", { name: "Add a condition" }).click();
    await page.getByLabel("Column", { exact: true }).selectOption("Fee");
    await page.getByLabel("Comparison").selectOption("more than");
    await page.getByLabel("Value").fill("0");
    await page.keyboard.press("Tab");
    const beside = page.getByRole("complementary", { name: "What one group gets" });
    await beside.getByLabel("Group (2)").waitFor();
    const back = page.getByRole("button", { name: "Take back" });
    while (await back.isEnabled()) await back.click();
    await beside.getByLabel("Group (3)").waitFor();
  });

  it("survives a page that is closed before anything is saved", async () => {
    const { page } = console;
    await page.reload();
    await page.getByText("not saved yet").waitFor();
    await page.getByRole("link", { name: "Next: Groups" }).click();
    const groups = page.getByRole("group", { name: "Columns of groups" });
    await groups.getByLabel(/^Site/).waitFor();
    expect(await groups.getByLabel(/^Site/).isChecked()).toBe(true);
    await page.getByRole("group", { name: "Totals" }).getByLabel("Sum of Fee").check({ force: true });
    await page.getByText("3 groups from 4 rows").waitFor();
  });

  it("takes a table of the rows, with its pages beside it", async () => {
    const { page } = console;
    await page.getByRole("link", { name: "Next: Files" }).click();
    await page.getByRole("button", { name: "Add a table of the rows" }).click();
    const file = page.getByRole("region", { name: "File rows" });
    await file.getByLabel("PDF").selectOption("too");
    await file.getByLabel("Total of Fee").selectOption("sum");
    const beside = page.getByRole("complementary", { name: "What one group gets" });
    await beside.getByLabel("Group (3)").selectOption({ label: "Alder Court (1 row)" });
    await beside.getByText("Alder Court – October 2026.pdf").waitFor();
    await beside.getByRole("img", { name: /^rows for Alder Court, page 1 of 1$/ }).waitFor();
  });

  it("says who receives, writes the message, and when it runs", async () => {
    const { page } = console;
    await page.getByRole("link", { name: "Next: People" }).click();
    await page.getByText("Every group has somebody who receives for it.").waitFor();
    await page.getByRole("link", { name: "Next: Message" }).click();
    await page.getByRole("button", { name: "Write a message" }).click();
    const beside = page.getByRole("complementary", { name: "What one group gets" });
    await beside.frameLocator("iframe").getByText("Dear Ruth Penhallow").waitFor();
    const weigh = beside.getByRole("button", { name: "Weigh it with its files" });
    // Brought to its place first: what lies under a pointer that moves there is the frame of the message.
    await weigh.scrollIntoViewIfNeeded();
    await weigh.click();
    await beside.getByText(/^About \d+ kB as it goes out, with rows \d+ kB\.$/).waitFor();
    await page.getByRole("link", { name: "Next: When and how" }).click();
    await page.getByLabel("It runs", { exact: true }).selectOption("weekly");
    await page.getByRole("list", { name: "Next times" }).getByRole("listitem").first().waitFor();
  });

  it("is saved as text that reads well, and rehearsed to me", async () => {
    const { page } = console;
    await page.getByRole("link", { name: "Next: Check and save" }).click();
    await page.getByText("Nothing: every name in it was found").waitFor();
    await page.getByRole("button", { name: "Save the report" }).click();
    await page.getByText("Version 1 is saved.").waitFor();
    const text = await source("door-checks");
    expect(text).toContain('title: "Door checks"');
    expect(text).toContain("rule: FREQ=WEEKLY;BYDAY=FR");
    await page.getByRole("button", { name: "Rehearse to me" }).click();
    await page.getByRole("dialog").getByLabel("Rehearse to").fill("me@lifts.example");
    await page.getByRole("dialog").getByLabel("Period").selectOption("2026-10");
    await page.getByRole("dialog").getByRole("button", { name: "Rehearse" }).click();
    await page.locator("h1").getByText("done").waitFor({ timeout: 240_000 });
    expect(await page.locator("main").innerText()).toMatch(/5 rows = 4 in 3 groups \+ 1 left out/);
    const letters = await service.list<{ subject: string; to: string }>("/api/v1/letters");
    expect(letters.map(({ subject }) => subject).sort()).toEqual(
      ["Alder Court", "Canal Wharf", "Harbour House"].map((site) => `Rehearsal: Door checks: ${site}`),
    );
  });
});

describe("a way out made by clicking alone", () => {
  it("is set up, tried, and takes a report's files after the release, which then stand on the page of the period", async () => {
    const { page, open } = console;
    await open("ways-out");
    await page.getByLabel("A new way out").fill("share");
    await page.getByRole("button", { name: "Set it up" }).click();
    await page.getByLabel("Folder", { exact: true }).fill("for the office");
    await page.getByRole("button", { name: "Save" }).click();
    await page.getByText("Saved. What waits goes by it at once.").waitFor();
    await page.getByRole("button", { name: "Try it" }).click();
    await page.getByText(/could be put there and taken away again: put and read again/).waitFor();
    const text = (await source("door-checks"))
      .replace(/report: door-checks/, "report: door-lists")
      .replace(/^schedule:[\s\S]*/m, "");
    expect((await service.call("PUT", "/api/v1/reports/door-lists", text)).status).toBe(201);
    await open("reports/door-lists/when");
    await page.getByRole("region", { name: "Way out share" }).locator(".bx--toggle-input__label").click();
    await page.getByRole("button", { name: "Folder there" }).click();
    await page.getByRole("textbox", { name: "Folder there" }).click();
    await page.keyboard.type("Doors");
    await page.keyboard.press("Tab");
    await open("reports/door-lists/check");
    await page.getByText("Nothing: every name in it was found").waitFor();
    await page.getByRole("button", { name: "Save as version 2" }).click();
    await page.getByText("Version 2 is saved.").waitFor();
    const { waysOut } = parseReport(await source("door-lists"), "door-lists");
    expect(waysOut).toEqual({ share: { folder: "Doors", over: false } });
    const started = await service.call<{ id: string }>("POST", "/api/v1/runs", {
      report: "door-lists",
      period: "2026-10",
    });
    await service.waitFor(started.body.id, ["held"]);
    await open(`runs/${started.body.id}`);
    await page.getByRole("button", { name: "Release" }).click();
    await page.getByText(/^\d files go by the way out share, where no group has had them\.$/).waitFor();
    await page
      .getByRole("dialog")
      .getByRole("button", { name: /^(?:Send|Let)/ })
      .click();
    await service.waitFor(started.body.id, ["done"]);
    await page.getByRole("link", { name: "Files of the period" }).click();
    await page.getByRole("list", { name: "Groups" }).getByText("Harbour House").first().waitFor();
    const [first] = await service.list<{ way: string | null; state: string }>("/api/v1/outbox?file=Doors");
    expect([first?.way, first?.state]).toEqual(["share", "sent"]);
  });
});

describe("a report that somebody else changes meanwhile", () => {
  it("is not written over without a word", async () => {
    const { page, open } = console;
    await open("reports/door-checks/check");
    await page.getByLabel("Title").fill("Door checks of the month");
    await page.getByText("changed since version 1", { exact: true }).waitFor();
    const theirs = `${(await source("door-checks")).replace('"Door checks"', '"Doors"')}# theirs\n`;
    expect((await service.call("PUT", "/api/v1/reports/door-checks", theirs)).status).toBeLessThan(300);
    await page.getByText("Version 2 was saved meanwhile").waitFor();
    await page.getByRole("button", { name: "Keep mine" }).click();
    await page
      .getByRole("list", { name: "What has changed" })
      .getByText("Title: Doors → Door checks of the month")
      .waitFor();
    await page.getByText("The changed lines of its text").click();
    await page.getByLabel("Changed lines").getByText("# theirs").waitFor();
    const beside = page.getByRole("complementary", { name: "What one group gets" });
    await beside.getByRole("tab", { name: "Message" }).click();
    await beside.getByRole("button", { name: "As in version 2" }).click();
    await beside.getByText("Door checks: ").waitFor();
    await beside.getByRole("button", { name: "As it is now" }).click();
    await page.getByLabel("Why, in a few words").fill("the month is named");
    await page.getByRole("button", { name: "Save as version 3" }).click();
    await page.getByText("Version 3 is saved.").waitFor();
    expect(await source("door-checks")).not.toContain("# theirs");
  });

  it("tells its versions, each with why it was saved, and takes one back", async () => {
    const { page } = console;
    const versions = page.getByRole("list", { name: "Versions" });
    const second = versions.getByRole("listitem").filter({ hasText: "Version 2" }).first();
    await versions.getByText("the month is named").waitFor();
    await second.getByRole("button", { name: "Compare" }).click();
    await second.getByText("Title: Doors → Door checks of the month").waitFor();
    await second.getByRole("button", { name: "Take version 2 back" }).click();
    await page.getByText("changed since version 3", { exact: true }).waitFor();
    expect(await page.getByLabel("Title").inputValue()).toBe("Doors");
    await page.getByRole("button", { name: "Back to version 3" }).click();
    await page.getByText("changed since version 3", { exact: true }).waitFor({ state: "detached" });
  });

  it("begins another as a copy", async () => {
    const { page, open } = console;
    await open("reports/new");
    await page.getByLabel("Title").fill("Doors for the north");
    await page.getByText("a copy of another report").click();
    await page.getByLabel("Report", { exact: true }).selectOption("door-checks");
    await page.getByRole("button", { name: "Make the copy" }).click();
    await page.getByRole("heading", { name: "Doors for the north" }).waitFor();
    await open("reports/doors-for-the-north/text");
    await page.locator(".cm-line").first().waitFor();
    expect(await page.locator(".cm-line").first().textContent()).toBe("report: doors-for-the-north");
    expect(await source("doors-for-the-north")).not.toMatch(/^schedule:/m);
  });

  it("is renamed, archived, brought back and deleted from the list; what hangs on it is said first", async () => {
    const { page, open } = console;
    const choose = async (title: string, what: string): Promise<void> => {
      await page.getByRole("button", { name: `More for ${title}`, exact: true }).click();
      await page.getByRole("menuitem", { name: what }).click();
      await page.getByText("What hangs on it").waitFor();
    };
    await open("reports");
    await choose("Doors for the north", "Rename");
    await page.getByLabel("Title").fill("Doors up north");
    await page.getByLabel("Name", { exact: true }).fill("doors-north");
    await page.getByRole("button", { name: "Rename", exact: true }).click();
    await page.getByRole("link", { name: "Doors up north" }).waitFor();
    await open("reports/doors-for-the-north");
    await page.waitForURL(/#\/reports\/doors-north/);
    await page.getByRole("heading", { name: "Doors up north" }).waitFor();
    await open("reports");
    await choose("Doors up north", "Archive");
    await page.getByText("It leaves the list and runs no more.", { exact: false }).waitFor();
    await page.getByRole("button", { name: "Archive", exact: true }).click();
    await page.getByRole("link", { name: "Doors up north" }).waitFor({ state: "detached" });
    await open("reports/doors-north");
    await page.getByText(/^Archived .* by /).waitFor();
    await open("reports");
    await page.getByText("1 archived report").click();
    await page.getByRole("button", { name: "Bring back" }).click();
    await page.getByRole("link", { name: "Doors up north" }).waitFor();
    await choose("Doors up north", "Delete");
    await page.getByText("Nothing was made with it yet: it is gone for good.").waitFor();
    await page.getByRole("button", { name: "Delete", exact: true }).click();
    await page.getByRole("link", { name: "Doors up north" }).waitFor({ state: "detached" });
    await open("data");
    await choose("visits", "Delete");
    await page.getByText("It cannot be done yet.").waitFor();
    expect(await page.getByRole("button", { name: "Delete", exact: true }).isDisabled()).toBe(true);
    await page.keyboard.press("Escape");
  });

  it("throws one away that was never saved", async () => {
    const { page, open } = console;
    await open("reports/new");
    await page.getByLabel("Title").fill("Never saved");
    await page.getByRole("button", { name: "Make the report" }).click();
    await page.getByText("not saved yet").waitFor();
    await open("reports");
    await page.getByText("Changed in this browser and not saved:").waitFor();
    await open("reports/never-saved/check");
    await page.getByRole("button", { name: "Throw this report away" }).click();
    await page.getByRole("heading", { name: "Reports", exact: true }).waitFor();
    expect(await page.getByText("Changed in this browser and not saved:").count()).toBe(0);
  });

  it("begins another as a text, and says what is wrong with one", async () => {
    const { page, open } = console;
    await open("reports/new");
    await page.getByText("a text", { exact: true }).click();
    const text = page.getByLabel("Its definition, YAML or JSON");
    await text.fill("report: [doors");
    await page.getByRole("button", { name: "Make the report" }).click();
    await page.getByText(/The text cannot be read/).waitFor();
    await text.fill(`${await source("door-checks")}# from a colleague\n`);
    await page.getByRole("button", { name: "Make the report" }).click();
    await page.getByText("not saved yet").waitFor();
    // Its own name is taken.
    expect(page.url()).toMatch(/reports\/doors?-[a-z-]+/);
    await page.getByRole("button", { name: "Throw this report away" }).click();
  });

  it("shows groups that are probably one, merges them where they are chosen, and undoes it", async () => {
    const { page, open } = console;
    await open("reports/site-statement/groups");
    await page.getByText("26 groups from 239 rows").waitFor();
    const beside = page.getByRole("complementary", { name: "What one group gets" });
    await beside.getByLabel("Period").fill("2026-09");
    await page.keyboard.press("Enter");
    await page.getByText("from 239 rows").waitFor({ state: "detached" });
    await beside.getByLabel("Period").fill("");
    await page.keyboard.press("Enter");
    await page.getByText("26 groups from 239 rows").waitFor();
    await page.getByRole("button", { name: "Merge into “Sjöstad Quay”" }).click();
    await page.getByText("25 groups from 239 rows").waitFor();
    await page.getByRole("list", { name: "Merged spellings" }).getByRole("button", { name: "Undo" }).click();
    await page.getByText("26 groups from 239 rows").waitFor();
  });

  it("had no errors on the way", () => {
    expect(console.troubles).toEqual([]);
  });
});
