import { plainPeriods } from "@corbix/core/calendar";
import { CorbixError, serialFromParts } from "@corbix/core/common";
import { readRecipients } from "@corbix/core/recipients";
import { checkReport, parseReport } from "@corbix/core/report";
import { planRun, type RunFacts, readRecord } from "@corbix/core/run";
import { loadTable } from "@corbix/core/table";
import { describe, expect, it } from "vitest";
import { demo, makeWorkbook } from "../support/helpers.js";

const failure = (work: () => unknown): CorbixError => {
  try {
    work();
  } catch (error) {
    if (error instanceof CorbixError) return error;
    throw error;
  }
  throw new Error("nothing was thrown");
};
const minimal = { report: "r", title: "R", data: "visits", split: "site" };

describe("a definition", () => {
  it("has its defaults in one place", () => {
    const report = parseReport("report: r\ntitle: R\ndata: visits\nsplit: site\n", "r.yaml");
    expect(report).toMatchObject({
      locale: "en-GB",
      bring: [],
      sort: [],
      delivery: { to: "recipients", from: "office", hold: true },
    });
    expect(Object.isFrozen(report)).toBe(true);
  });

  it("is the same as YAML and as JSON, and keeps the order of what is in it", () => {
    const source = {
      ...minimal,
      add: { zeta: "1", alpha: "zeta + 1" },
      totals: { b: "count(line)", a: "count(line)" },
    };
    const report = parseReport(JSON.stringify(source), "r.json");
    expect(report).toEqual(checkReport(source, "r"));
    expect(Object.keys(report.add)).toEqual(["zeta", "alpha"]);
  });

  it.each([
    [{ ...minimal, title: undefined }, "title"],
    [{ ...minimal, report: "Not A Name" }, "report"],
    [{ ...minimal, splitt: "x" }, "splitt"],
    [{ ...minimal, period: { column: "d", every: "fortnight" } }, "period.every"],
    [{ ...minimal, delivery: { replyTo: "nobody" } }, "delivery.replyTo"],
    [{ ...minimal, files: { a: { template: "a.xlsx", name: "a", pdf: "maybe" } } }, "files.a.pdf"],
  ])("names the field that is wrong: %#", (source, field) => {
    expect(failure(() => checkReport(source, "r.yaml")).message).toContain(field);
  });

  it("tells the line of broken YAML, and bombs of aliases do not go off", () => {
    expect(failure(() => parseReport("report: r\ntitle: [a", "r.yaml")).where).toMatch(/r\.yaml, line 2/);
    const bomb = `a: &a [x,x,x,x,x,x,x,x,x]\n${"bcdefgh"
      .split("")
      .map((name, index) => `${name}: &${name} [${Array(9).fill(`*${"abcdefg"[index]}`).join(",")}]`)
      .join("\n")}`;
    expect(failure(() => parseReport(bomb, "r.yaml")).code).toBe("BAD_DEFINITION");
  });

  it("refuses to attach what is not made", () => {
    const files = { statement: { template: "a.xlsx", name: "a" } };
    const message = (attach: string) => ({
      ...minimal,
      files,
      message: { subject: "s", body: { text: "t" }, attach: [attach] },
    });
    expect(failure(() => checkReport(message("statment"), "r")).advice).toContain('"statement"');
    expect(failure(() => checkReport(message("statement.pdf"), "r")).message).toContain("no PDF is made");
  });
});

describe("a plan", () => {
  const table = loadTable(demo("visits-2026.xlsx"), "visits").table;
  const recipients = readRecipients(loadTable(demo("recipients.csv"), "r").table, "r").recipients;
  const facts: RunFacts = {
    id: "x",
    date: serialFromParts(2026, 11, 2),
    sender: "a@b.example",
    locale: "en-GB",
    period: plainPeriods("month").parse("2026-10"),
  };
  const spec = {
    ...minimal,
    period: { column: "visit_date", every: "month" },
    keep: 'result <> "cancelled"',
    totals: { n: "count(line)", mean: "average(line.hours)" },
  };
  const plan = async (change: object = {}, only?: readonly string[]) => {
    const small = await makeWorkbook((_, sheet) => sheet.addRow(["{{ site }}"]));
    const report = checkReport({ ...spec, ...change }, "r");
    return planRun({
      report,
      table,
      others: new Map(),
      recipients,
      templates: new Map([["a.xlsx", small]]),
      facts,
      ...(only ? { only } : {}),
    }).plan;
  };

  it("accounts for every row: in a group, or left out with a reason", async () => {
    const { rows, parcels } = await plan();
    expect(rows.master).toBe(rows.inGroups + rows.leftOut.reduce((sum, entry) => sum + entry.count, 0));
    expect(rows.leftOut.map((entry) => entry.reason)).toEqual([
      "Visit date not in 2026-10",
      'Result is "cancelled"',
      "without site",
    ]);
    expect(parcels.reduce((sum, parcel) => sum + parcel.group.rows.length, 0)).toBe(rows.inGroups);
  });

  it("makes a file only where its condition holds, and attaches only what is made", async () => {
    const files = {
      a: { template: "a.xlsx", name: "{{ site }}", when: 'count(line where line.result = "fail") > 0', pdf: "too" },
    };
    const message = { subject: "s", body: { text: "t" }, attach: ["a", "a.pdf"] };
    const { parcels } = await plan({ files, message });
    const result = table.columns.findIndex((column) => column.name === "Result");
    expect(parcels.some((parcel) => parcel.files.length === 0)).toBe(true);
    expect(parcels.some((parcel) => parcel.files.length === 2)).toBe(true);
    for (const parcel of parcels) expect(parcel.attachments).toEqual(parcel.files.map((file) => file.path));
    expect(result).toBeGreaterThan(0);
  });

  it("gives names that collide a number, in any letters", async () => {
    const { parcels } = await plan({
      files: { a: { template: "a.xlsx", name: "same", folder: "../{{ period.key }}/x" } },
    });
    const paths = parcels.flatMap((parcel) => parcel.files.map((file) => file.path));
    expect(paths.slice(0, 2)).toEqual(["2026-10/x/same.xlsx", "2026-10/x/same (2).xlsx"]);
    expect(new Set(paths.map((path) => path.toLowerCase())).size).toBe(paths.length);
  });

  it("counts groups that were not chosen as left out, and refuses one that is not there", async () => {
    const { rows, parcels, totals } = await plan({}, ["harbour house"]);
    expect(parcels.map((parcel) => parcel.group.label)).toEqual(["Harbour House"]);
    expect(rows.leftOut.at(-1)?.reason).toBe("in groups that were not chosen");
    expect(totals[0].agrees).toBe(true);
    await expect(plan({}, ["harbor house"])).rejects.toThrow("Cannot find the group");
  });

  it("adds up sums and counts only: a mean over all is no sum of means", async () => {
    const [count, mean] = (await plan()).totals;
    expect(count.parcels).toBeDefined();
    expect(mean.parcels).toBeUndefined();
  });

  it("refuses a line field in a file's name, a period without dates, and a template that is not there", async () => {
    await expect(plan({ files: { a: { template: "a.xlsx", name: "{{ line.unit }}" } } })).rejects.toThrow(
      "a group has many lines",
    );
    await expect(plan({ period: { column: "site", every: "month" } })).rejects.toThrow("expected dates");
    await expect(plan({ files: { a: { template: "b.xlsx", name: "x" } } })).rejects.toThrow(
      "Cannot find the template `b.xlsx`",
    );
  });
});

describe("a record", () => {
  const about = { today: 46_000, locale: "en-GB" };

  it("turns dates, lists and nested fields into what templates take", () => {
    const { env, scope } = readRecord(
      {
        site: "Dock",
        day: "2026-10-05",
        recipient: { name: "Ann" },
        lines: [{ fee: 1 }, { fee: 2, day: "2026-01-01" }],
      },
      about,
      "r",
    );
    expect(scope.names).toEqual(["site", "day"]);
    expect(scope.columns).toEqual([
      expect.objectContaining({ name: "fee", type: "number" }),
      expect.objectContaining({ name: "day", type: "date" }),
    ]);
    expect(env.lines).toEqual([0, 1]);
    expect(env.spaces.recipient.get("name")).toBe("Ann");
  });

  it.each([[[1, 2]], ["text"], [{ lines: "x" }], [{ lines: [1] }], [{ deep: { er: { est: 1 } } }]])(
    "refuses %j",
    (value) => {
      expect(failure(() => readRecord(value, about, "r.json")).where).toContain("r.json");
    },
  );
});
