/** Reports, datasets and templates after they were made: what hangs on them, and what renaming, copying, archiving and deleting do. */
import { mkdirSync, writeFileSync } from "node:fs";
import { join } from "node:path";
import { afterAll, beforeAll, describe, expect, inject, it, vi } from "vitest";
import { type TestService, testService } from "../../../test/setup/service.js";
import { smallOffice } from "../../../test/setup/small-office.js";
import { toldSender } from "../../../test/setup/steps.js";
import { sendWaiting } from "../../dist/outbox/outbox.js";

import { stopRun } from "../../dist/run/release.js";
import { tick } from "../../dist/schedule/tick.js";

interface Kept {
  name: string;
  formerNames: string[];
  archivedAt: string | null;
  hanging: { what: string; count: number; names: string[]; stops: string[] }[];
  keptForRuns: boolean;
}

const VISITS = "site,unit,day\nDock,L1,2026-10-02\nQuay,L2,2026-10-03\n";
let today = new Date("2026-11-02T09:00:00Z");
let service: TestService;
const { load, list, report, plan, refusal, select } = smallOffice(() => service);
const kept = async (path: string): Promise<Kept> => (await service.call<Kept>("GET", `/api/v1/library/${path}`)).body;
const post = async (path: string, body?: unknown): Promise<Kept> => {
  const { status, body: said } = await service.call<Kept>("POST", `/api/v1/library/${path}`, body);
  expect([200, 201], JSON.stringify(said)).toContain(status);
  return said;
};
const names = async (path: string): Promise<string[]> =>
  (await service.list<{ name: string }>(`/api/v1/${path}`)).map((one) => one.name);
const editions = async (name: string): Promise<{ editions: number; name: string }> =>
  (await service.call<{ editions: number; name: string }>("GET", `/api/v1/datasets/${name}`)).body;
const send = async (): Promise<void> => {
  await sendWaiting(service.context, "office", toldSender([{}, {}, {}, {}]).open);
};
const template = async (file: string, text: string): Promise<void> => {
  const made = await service.call("PUT", `/api/v1/templates/${encodeURIComponent(file)}`, text);
  expect([200, 201]).toContain(made.status);
};

beforeAll(async () => {
  service = await testService(inject("databaseUrl"), { CORBIX_WORKERS: "0", CORBIX_INBOX_SETTLE: "0.1" }, () => today);
  await load("visits", VISITS);
  await list("Dock,Ann,ann@dock.example\nQuay,Ben,ben@quay.example");
});
afterAll(() => service?.close());

describe("a report that is renamed", () => {
  it("goes on where it was: nothing goes twice, old addresses lead to it, its versions say the new name", async () => {
    await report("monthly", "data: visits\nperiod: { column: day, every: month }\n# kept\n");
    await plan({ report: "monthly", period: "2026-10" });
    await send();
    const after = await post("reports/monthly/rename", { to: "site-visits" });
    expect(after).toMatchObject({ name: "site-visits", formerNames: ["monthly"] });
    expect(await names("reports")).toEqual([
      "office-months",
      "site-statement",
      "site-visits",
      "unit-figures",
      "visit-enquiry",
    ]);
    const shown = (
      await service.call<{ name: string; number: number; source: string }>("GET", "/api/v1/reports/monthly")
    ).body;
    expect(shown).toMatchObject({ name: "site-visits", number: 2 });
    expect(shown.source).toMatch(/^report: site-visits\n[\s\S]*# kept\n/);
    expect((await names("reports/monthly/versions?limit=1")).length).toBe(2);
    const prospect = await service.call<{ counts: object }>(
      "GET",
      "/api/v1/reports/site-visits/prospect?period=2026-10",
    );
    expect(prospect.body.counts).toEqual({ groups: 2, go: 0, some: 0, had: 2, none: 0 });
    const again = await plan({ report: "monthly", period: "2026-10" }, { release: false });
    const run = (await service.call<{ report: string }>("GET", `/api/v1/runs/${again}`)).body;
    expect(run.report).toBe("site-visits");
    await stopRun(service.context, again, "test");
    expect(await select("SELECT DISTINCT report FROM ledger")).toEqual([{ report: "site-visits" }]);
  });

  it("is not while a run of it is not over, nor to a name that is taken or none", async () => {
    const run = await plan({ report: "site-visits", period: "2026-10" }, { release: false });
    expect(await refusal("POST", "/api/v1/library/reports/site-visits/rename", { to: "other" })).toMatchObject({
      status: 409,
      title: `Cannot rename the report \`site-visits\`: a run of it is not over (${run}).`,
      advice: "Release or stop it first.",
    });
    await stopRun(service.context, run, "test");
    await report("other", "data: visits");
    const held = await plan({ report: "site-visits", period: "2026-10" }, { release: false });
    const both = { to: "third-name", title: "Another title" };
    expect((await refusal("POST", "/api/v1/library/reports/site-visits/rename", both)).status).toBe(409);
    const { title } = (await service.call<{ title: string }>("GET", "/api/v1/reports/site-visits")).body;
    expect(title).toBe("monthly");
    await stopRun(service.context, held, "test");
    for (const to of ["other", "Not A Name"])
      expect((await refusal("POST", "/api/v1/library/reports/site-visits/rename", { to })).status).toBeGreaterThan(399);
    expect(
      await refusal("PUT", "/api/v1/reports/monthly", "report: monthly\ntitle: x\ndata: visits\nsplit: site\n"),
    ).toMatchObject({ status: 409, title: "Cannot keep anything as `monthly`: it is called `site-visits` now." });
    await post("reports/site-visits/rename", { to: "monthly" });
    expect((await kept("reports/site-visits")).name).toBe("monthly");
    await post("reports/monthly/rename", { to: "site-visits" });
    expect(await names("reports")).toEqual([
      "office-months",
      "other",
      "site-statement",
      "site-visits",
      "unit-figures",
      "visit-enquiry",
    ]);
  });
});

describe("renaming, saving and starting at the same moment", () => {
  it("leave nothing behind under the old name", async () => {
    for (let turn = 1; turn <= 8; turn++) {
      const [from, to] = [`turn-${turn}`, `turned-${turn}`];
      await report(from, "data: visits");
      const text = `report: ${from}\ntitle: again\ndata: visits\nsplit: site\n`;
      await Promise.all([
        service.call("PUT", `/api/v1/reports/${from}`, text),
        service.call("POST", `/api/v1/library/reports/${from}/rename`, { to }),
        service.call("POST", "/api/v1/runs", { report: from }),
      ]);
      const left = await select(
        "SELECT name FROM report_versions WHERE name = $1 UNION ALL SELECT report FROM runs WHERE report = $1",
        [from],
      );
      const isRenamed = (await select("SELECT 1 FROM report_versions WHERE name = $1", [to])).length > 0;
      // A run that was first keeps the report from being renamed.
      expect(left.length === 0).toBe(isRenamed);
      await service.call("DELETE", `/api/v1/library/reports/${isRenamed ? to : from}`);
    }
    await select("UPDATE runs SET state = 'failed' WHERE state = 'planning'");
  });
});

describe("a dataset that is renamed", () => {
  it("is followed by the reports that are made from it, and by files that come under the old name", async () => {
    const before = (await service.call<{ number: number }>("GET", "/api/v1/reports/site-visits")).body.number;
    const held = (await editions("visits")).editions;
    const people = "Group,Name,Addresses,Dataset\nDock,Ann,ann@dock.example,visits\nQuay,Ben,ben@quay.example,\n";
    await service.call("PUT", "/api/v1/recipients?file=list.csv", people);
    const receivers = async (): Promise<string[]> =>
      (await service.list<{ group: string; people: unknown[] }>("/api/v1/reports/site-visits/matching"))
        .filter((one) => one.people.length > 0)
        .map((one) => one.group);
    expect(await receivers()).toEqual(["Dock", "Quay"]);
    await post("datasets/visits/rename", { to: "inspections" });
    const shown = (await service.call<{ number: number; data: string }>("GET", "/api/v1/reports/site-visits")).body;
    expect(shown).toMatchObject({ number: before + 1, data: "inspections" });
    expect(await names("datasets")).toEqual(["inspections"]);
    await load("visits", `${VISITS}Mole,L3,2026-10-04\n`);
    // Who is in the list for this dataset only still gets theirs, also when the list comes again as it was kept elsewhere.
    expect(await receivers()).toEqual(["Dock", "Quay"]);
    await service.call("PUT", "/api/v1/recipients?file=list.csv", people);
    expect(await receivers()).toEqual(["Dock", "Quay"]);
    const folder = join(service.data, "inbox", "visits");
    mkdirSync(folder, { recursive: true });
    writeFileSync(join(folder, "next.csv"), `${VISITS}Mole,L3,2026-10-04\nPier,L4,2026-10-05\n`);
    await vi.waitFor(async () => expect((await editions("inspections")).editions).toBe(held + 2), { timeout: 30_000 });
    expect(await names("datasets")).toEqual(["inspections"]);
    expect(await editions("visits")).toMatchObject({ name: "inspections", editions: held + 2 });
    const id = await plan({ report: "site-visits", period: "2026-10" }, { release: false });
    const run = (await service.call<{ counts: object; state: string }>("GET", `/api/v1/runs/${id}`)).body;
    expect(run.state).toBe("held");
    await stopRun(service.context, id, "test");
    const definition = "report: third\ntitle: Third\ndata: visits\nsplit: site\n";
    expect((await refusal("PUT", "/api/v1/reports/third", definition)).title).toContain("Cannot find the dataset");
  });
});

describe("a template that is renamed", () => {
  it("is followed by reports, unless its name stands in a text that shows it", async () => {
    await template("terms.txt", "Terms of the office");
    await template("mail.html", "<p>Dear {{ recipient.name }}</p>");
    const definition = (file: string): string =>
      `report: third\ntitle: Third\ndata: inspections\nsplit: site\nmessage: { subject: "For {{ site }}", body: { template: ${file} }, attach: [{ fixed: terms.txt }] }\n`;
    expect((await service.call("PUT", "/api/v1/reports/third", definition("mail.html"))).status).toBe(201);
    await plan({ report: "third" }, { release: false }).then((run) => stopRun(service.context, run, "test"));
    expect((await kept("templates/mail.html")).keptForRuns).toBe(true);
    await post("templates/mail.html/rename", { to: "covering mail.html" });
    // The run has it by the name it had.
    expect((await kept("templates/mail.html")).keptForRuns).toBe(true);
    const { source } = (await service.call<{ source: string }>("GET", "/api/v1/reports/third")).body;
    expect(source).toBe(definition("covering mail.html"));
    expect((await refusal("POST", "/api/v1/library/templates/terms.txt/rename", { to: "terms.docx" })).status).toBe(
      400,
    );
    await template("old-terms.txt", "Terms of before");
    await template("covering mail.html", "<p>Dear {{ recipient.name }}, not old-terms.txt.</p>");
    expect((await kept("templates/terms.txt")).hanging.map(({ what }) => what)).not.toContain("texts");
    await template("covering mail.html", "<p>Dear {{ recipient.name }}, terms.txt is attached.</p>");
    expect(await refusal("POST", "/api/v1/library/templates/terms.txt/rename", { to: "rules.txt" })).toMatchObject({
      status: 409,
      title: "Cannot rename the template `terms.txt`: its name stands in the text of covering mail.html.",
    });
  });
});

describe("what is archived", () => {
  it("is in no list, runs by nothing and takes nothing in, and is back as it was", async () => {
    await report(
      "weekly",
      'data: inspections\nperiod: { column: day, every: month }\nschedule: { rule: "FREQ=DAILY", at: "07:00", zone: UTC, from: 2026-01-01 }',
    );
    expect((await kept("reports/weekly")).hanging.map(({ what }) => what)).toEqual(["versions", "schedule"]);
    await post("reports/weekly/archive");
    expect(await names("reports")).not.toContain("weekly");
    expect(await names("library/reports")).toEqual(["weekly"]);
    today = new Date("2026-11-05T09:00:00Z");
    await tick(service.context);
    expect(await select("SELECT 1 FROM runs WHERE report = 'weekly'")).toEqual([]);
    expect(await refusal("POST", "/api/v1/runs", { report: "weekly" })).toMatchObject({
      status: 409,
      title: "Cannot use `weekly`: it is archived.",
    });
    expect((await kept("datasets/inspections")).hanging).toContainEqual({
      what: "archivedReports",
      count: 1,
      names: ["weekly"],
      stops: ["delete"],
    });
    await post("reports/weekly/bring-back");
    expect(await names("reports")).toContain("weekly");
    const { nextTimes } = (await service.call<{ nextTimes: { at: string }[] }>("GET", "/api/v1/reports/weekly")).body;
    expect(nextTimes[0]?.at).toBe("2026-11-06T07:00:00.000Z");
    today = new Date("2026-11-06T08:00:00Z");
    await tick(service.context);
    const [run] = await select<{ id: string }>("SELECT id FROM runs WHERE report = 'weekly'");
    await stopRun(service.context, run?.id ?? "", "test");
  });

  it("is not as long as a report needs it; a dataset takes no file then", async () => {
    expect(await refusal("POST", "/api/v1/library/datasets/inspections/archive")).toMatchObject({
      status: 409,
      advice: "Archive or change that report first.",
    });
    await load("costs", "site,amount\nDock,3\n");
    await post("datasets/costs/archive");
    expect(await refusal("POST", "/api/v1/datasets/costs/editions?file=c.csv", "site,amount\nDock,4\n")).toMatchObject({
      status: 409,
      title: "Cannot load anything into `costs`: it is archived.",
    });
    await post("datasets/costs/bring-back");
    await load("costs", "site,amount\nDock,4\n");
  });
});

describe("what is deleted", () => {
  it("is gone where nothing was made with it, and its name is free", async () => {
    const deleted = await service.call<{ keptForRuns: boolean }>("DELETE", "/api/v1/library/datasets/costs");
    expect(deleted.body).toEqual({ name: "costs", keptForRuns: false });
    expect(await select("SELECT 1 FROM datasets WHERE name = 'costs'")).toEqual([]);
    await load("costs", "site,amount\nDock,5\n");
    expect((await service.call<{ editions: number }>("GET", "/api/v1/datasets/costs")).body.editions).toBe(1);
  });

  it("stays for its runs alone, and what was delivered is not again when it is saved anew", async () => {
    const runs = await names("reports/site-visits/versions");
    expect(runs.length).toBeGreaterThan(0);
    const { body } = await service.call<{ keptForRuns: boolean }>("DELETE", "/api/v1/library/reports/site-visits");
    expect(body.keptForRuns).toBe(true);
    expect((await service.call("GET", "/api/v1/reports/site-visits")).status).toBe(404);
    expect(await names("reports")).not.toContain("site-visits");
    const told = await service.list<{ report: string; id: string }>("/api/v1/runs?report=site-visits");
    expect(told.length).toBeGreaterThan(0);
    expect((await service.call("GET", `/api/v1/runs/${told[0]?.id}`)).status).toBe(200);
    await report("site-visits", "data: inspections\nperiod: { column: day, every: month }");
    const prospect = await service.call<{ items: { group: string; says: string }[] }>(
      "GET",
      "/api/v1/reports/site-visits/prospect?period=2026-10",
    );
    expect(prospect.body.items.filter((one) => one.says === "had").map((one) => one.group)).toEqual(["Dock", "Quay"]);
  });

  it("is not as long as a report or a run needs it", async () => {
    expect((await refusal("DELETE", "/api/v1/library/datasets/inspections")).status).toBe(409);
    expect((await refusal("DELETE", "/api/v1/library/templates/terms.txt")).status).toBe(409);
    expect((await refusal("DELETE", "/api/v1/library/templates/nothing.txt")).status).toBe(404);
  });
});

describe("a copy", () => {
  it("of a report has its own bodies and starts nothing by itself", async () => {
    await report(
      "daily",
      'data: inspections\nstartOnData: true\nschedule: { rule: "FREQ=DAILY", at: "07:00", zone: UTC, from: 2026-01-01 }',
    );
    await post("reports/daily/copy", { to: "daily-two" });
    const copy = (
      await service.call<{ title: string; schedule: unknown; nextTimes: string[] }>("GET", "/api/v1/reports/daily-two")
    ).body;
    expect(copy).toMatchObject({ title: "daily (copy)", schedule: null, nextTimes: [] });
    await post("reports/third/copy", { to: "fourth", title: "Fourth" });
    const fourth = (await service.call<{ source: string; title: string }>("GET", "/api/v1/reports/fourth")).body;
    expect(fourth.title).toBe("Fourth");
    expect(fourth.source).toContain("template: covering mail-fourth.html");
    expect(await names("templates")).toContain("covering mail-fourth.html");
    expect((await refusal("POST", "/api/v1/library/reports/third/copy", { to: "fourth" })).status).toBe(409);
  });

  it("of a dataset has its settings and its newest rows", async () => {
    const before = (await editions("inspections")).editions;
    await service.call("PUT", "/api/v1/datasets/inspections/settings", {
      key: ["unit"],
      mailbox: { name: "in", senders: ["a@b.example"] },
    });
    await post("datasets/inspections/copy", { to: "trial" });
    const rows = (await service.call<{ rows: unknown[] }>("GET", "/api/v1/datasets/trial/editions/1/rows")).body;
    expect(rows.rows).toHaveLength(4);
    const settings = (await service.call<{ key: string[]; mailbox: unknown }>("GET", "/api/v1/datasets/trial/settings"))
      .body;
    expect(settings).toMatchObject({ key: ["unit"] });
    expect(settings.mailbox ?? null).toBeNull();
    await load("trial", VISITS);
    expect((await editions("inspections")).editions).toBe(before);
  });
});
