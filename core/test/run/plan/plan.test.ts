/** What is known of a run before a file is made: whose rows, where the others went, and what keeps it from going out. */
import { CorbixError } from "@corbix/core/common";
import { checkAgainst, notReadReasons, type Plan } from "@corbix/core/run";
import fc from "fast-check";
import { describe, expect, it } from "vitest";
import { makeWorkbook } from "../../support/helpers.js";
import { inputOf, planOf, type SmallRun } from "../../support/small-run.js";

const ROWS =
  "Site,Unit,Day,Fee\nDock,L1,2026-10-02,10\nQuay,L2,2026-10-05,20.5\nDock,L3,2026-09-30,4\n,L4,2026-10-07,7\nMill,L5,2026-10-09,1\n";
const BY_SITE = "split: Site\ntotals: { fees: sum(line.fee) }\n";

const run = (more: Partial<SmallRun> = {}): SmallRun => ({ report: BY_SITE, rows: ROWS, ...more });
const groups = (plan: Plan) => plan.parcels.map(({ group, number }) => `${number} ${group.label}:${group.rows.length}`);
const leftOut = (plan: Plan) => plan.rows.leftOut.map(({ reason, count }) => `${count} ${reason}`);
const codes = (plan: Plan) => plan.findings.map((one) => `${one.severity} ${one.code}`);
const thrown = (work: () => unknown): string[] => {
  try {
    work();
  } catch (error) {
    if (error instanceof CorbixError) return [error.code, error.where ?? "", error.message, error.advice ?? ""];
    throw error;
  }
  throw new Error("nothing was thrown");
};

describe("the plan of a run", () => {
  it("accounts for every row: in a group, without a key, outside the period", () => {
    const plan = planOf(run({ report: `${BY_SITE}period: { column: Day, every: month }\n`, period: "2026-10" }));
    expect(groups(plan)).toEqual(["1 Dock:1", "2 Mill:1", "3 Quay:1"]);
    expect(leftOut(plan)).toEqual(["1 Day not in 2026-10", "1 without Site"]);
    expect(plan.rows).toMatchObject({ master: 5, inGroups: 3 });
    expect(plan.totals).toEqual([{ name: "fees", master: "38.5", parcels: "31.5", leftOut: "7", agrees: true }]);
    expect(plan.parcels.map((one) => one.totals.fees)).toEqual(["10", "1", "20.5"]);
  });

  it.each([
    ["split: { one: All sites }", ["1 All sites:5"]],
    ["", ["1 Small:5"]],
    ["split: { row: [Unit] }", ["1 L1:1", "2 L2:1", "3 L3:1", "4 L4:1", "5 L5:1"]],
  ])("adds up for groups that no column makes: %s", (split, all) => {
    const plan = planOf(run({ report: `${split}\ntotals: { fees: sum(line.fee) }\n` }));
    expect(groups(plan)).toEqual(all);
    expect(plan.totals).toEqual([{ name: "fees", master: "42.5", parcels: "42.5", leftOut: "0", agrees: true }]);
    expect(codes(plan).filter((code) => code.startsWith("stop"))).toEqual([]);
  });

  it("knows the people of the rows' own column, of another column's value, and the same for all", () => {
    const rows = "Site,Region,Mail,Person\nDock,North,d@x.example,Dora\nQuay,South,,\n";
    const people = "Group,Name,To\nNorth,Nora,nora@x.example\nDock,Ann,ann@x.example\nQuay,Ben,ben@x.example\n";
    const named = (to: string): string[][] =>
      planOf({ report: `split: Site\ndelivery: { to: ${to} }\n`, rows, people }).parcels.map(({ recipients }) =>
        recipients.map(({ name }) => name),
      );
    expect(named("recipients")).toEqual([["Ann"], ["Ben"]]);
    expect(named("{ column: mail }")).toEqual([["d@x.example"], ["Ben"]]);
    expect(named("{ column: mail, name: person, besides: true }")).toEqual([["Dora", "Ann"], ["Ben"]]);
    expect(named("{ by: region }")).toEqual([["Nora"], []]);
    expect(named("{ addresses: [chief@x.example] }")).toEqual([["chief@x.example"], ["chief@x.example"]]);
    expect(named("{ addresses: [chief@x.example], name: Chief }")).toEqual([["Chief"], ["Chief"]]);
    expect(thrown(() => named("{ by: regon }"))).toEqual([
      "BAD_DEFINITION",
      "delivery, to",
      "Cannot find the column `regon`.",
      'Did you mean "Region"?',
    ]);
  });

  it("counts rows that were never read, since none of them is of the period, with those that were", () => {
    const notRead = [{ reason: "Day not in 2026-10", count: 40, rowNumbers: [900, 901] }];
    const report = `${BY_SITE}period: { column: Day, every: month }\n`;
    const plan = planOf(run({ report, period: "2026-10", more: { notRead } }));
    expect(plan.rows.master).toBe(45);
    expect(plan.rows.leftOut[0]).toEqual({ reason: "Day not in 2026-10", count: 41, rowNumbers: [4, 900, 901] });
    expect(codes(plan)).not.toContain("stop rows-do-not-add-up");
  });

  it("tells rows without a day from those of other days, read or not", () => {
    const rows = "Site,Unit,Day,Fee\nDock,L1,2026-10-02,10\nQuay,L2,,20\nMill,L3,2026-09-30,4\n";
    const plan = planOf(run({ report: `${BY_SITE}period: { column: Day, every: month }\n`, period: "2026-10", rows }));
    expect(leftOut(plan)).toEqual(["1 Day not in 2026-10", "1 without Day"]);
    const period = inputOf(run({ period: "2026-10" })).facts.period as NonNullable<
      Parameters<typeof notReadReasons>[1]
    >;
    const told = (outside: number, blank: number) =>
      notReadReasons("Day", period, { outside, blank, rowNumbers: [5, 6] });
    expect(told(2, 0)).toEqual([{ reason: "Day not in 2026-10", count: 2, rowNumbers: [5, 6] }]);
    // Of pieces that hold both it is not known which rows are which.
    expect(told(2, 1)).toEqual([
      { reason: "Day not in 2026-10", count: 2, rowNumbers: [] },
      { reason: "without Day", count: 1, rowNumbers: [] },
    ]);
    expect(told(0, 0)).toEqual([]);
  });

  it("takes only the rows that were sent on, and only the groups that were chosen, keeping their numbers", () => {
    const onlyRows = { rowNumbers: new Set([2, 4, 6]), why: "not among the rows found" };
    const found = planOf(run({ more: { onlyRows } }));
    expect([groups(found), leftOut(found)]).toEqual([["1 Dock:2", "2 Mill:1"], ["2 not among the rows found"]]);
    const chosen = planOf(run({ more: { only: ["quay"] } }));
    expect([groups(chosen), leftOut(chosen)]).toEqual([
      ["3 Quay:1"],
      ["1 without Site", "3 in groups that were not chosen"],
    ]);
    expect(chosen.groupNames).toEqual(["Dock", "Mill", "Quay"]);
    expect(chosen.totals[0]).toMatchObject({ master: "42.5", parcels: "20.5", leftOut: "22", agrees: true });
  });

  it.each([
    [["qay"], "Cannot find the group `qay`.", "Quay"],
    [["qay", "doc"], "Cannot find the groups `qay`, `doc`.", "Quay"],
  ])("names groups there are not: %j", (only, message, near) => {
    const [code, where, what, advice] = thrown(() => planOf(run({ more: { only } })));
    expect([code, where, what]).toEqual(["UNKNOWN_NAME", "groups", message]);
    expect(advice).toContain(near);
  });

  it("leaves out rows that have gone out before, each with its reason, and groups that have no others", () => {
    const delivered: SmallRun["more"] = {
      delivered: (table, group) =>
        new Map(
          group.rows.flatMap((row) => {
            const unit = String(table.columns[1].values[row]);
            return unit === "L1" || unit === "L5" ? [[row, `delivered in ${unit === "L1" ? "run 7" : "run 8"}`]] : [];
          }),
        ),
    };
    const plan = planOf(run({ more: delivered }));
    expect(groups(plan)).toEqual(["1 Dock:1", "2 Quay:1"]);
    expect(leftOut(plan)).toEqual(["1 without Site", "1 delivered in run 7", "1 delivered in run 8"]);
    expect(plan.totals[0]).toMatchObject({ master: "42.5", parcels: "24.5", leftOut: "18", agrees: true });
    const all = planOf(run({ more: { delivered: (_, group) => new Map(group.rows.map((row) => [row, "run 7"])) } }));
    expect(codes(all)).toEqual(["note nothing-to-send"]);
    const limit = planOf(run({ report: `${BY_SITE}keep: fee > 1000000\n` }));
    expect(codes(limit)).toEqual(["note nothing-to-send"]);
    expect(codes(planOf(run({ report: `${BY_SITE}keep: fee > 1000000\nwhenNothing: stop\n` })))).toEqual([
      "stop no-groups",
    ]);
    expect(thrown(() => planOf(run({ more: { delivered: () => new Map(), only: ["x"] } })))[0]).toBe("UNKNOWN_NAME");
  });

  it("stops where no rows are left at all", () => {
    const plan = planOf(run({ rows: "Site,Unit,Day,Fee\n,L1,2026-10-01,3\n" }));
    expect(codes(plan)).toEqual(["stop no-groups"]);
    expect(plan.totals[0]).toMatchObject({ master: "3", parcels: "0", leftOut: "3", agrees: true });
  });

  it("stops where rows and totals do not come out, with all their numbers", () => {
    // Whoever knows what has gone out says so of another group's row.
    const plan = planOf(run({ more: { delivered: () => new Map([[1, "delivered in run 7"]]) } }));
    expect(
      plan.findings.filter((one) => one.severity === "stop").map((one) => [one.code, one.where, one.what]),
    ).toEqual([
      ["rows-do-not-add-up", "rows", "5 rows came in, but 3 are in groups and 4 left out."],
      ["total-does-not-add-up", "total fees", "fees is 42.5 in the master, but 15 in the parcels and 68.5 left out."],
    ]);
    const stacked = "prepare: [{ stack: { columns: [First, Second], name: Visit, value: Day } }]\n";
    const twoDays = "Site,Unit,First,Second\nDock,L1,a,b\nQuay,L2,c,d\n";
    const made = planOf({
      report: `split: Site\n${stacked}`,
      rows: twoDays,
      more: { delivered: () => new Map([[0, "delivered in run 7"]]) },
    });
    expect(made.findings.filter((one) => one.severity === "stop").map((one) => one.what)).toEqual([
      "2 rows came in and 2 were made, but 3 are in groups and 2 left out.",
    ]);
  });

  it("gives totals that are no sums over all rows kept only, and says so of none of the groups", () => {
    const report = "split: Site\ntotals: { largest: max(line.fee), mean: average(line.fee), visits: count(line) }\n";
    expect(planOf(run({ report })).totals).toEqual([
      { name: "largest", master: "20.5", parcels: undefined, leftOut: "0", agrees: true },
      { name: "mean", master: "8.5", parcels: undefined, leftOut: "0", agrees: true },
      { name: "visits", master: "5", parcels: "4", leftOut: "1", agrees: true },
    ]);
  });

  it("lets no rounding of quotients stop a run, and no sum that goes with a fixed amount", () => {
    const report =
      "split: Site\ntotals: { net: sum(line.fee) / 1.077, thirds: (sum(line.fee) - count(line)) / 3, half: -sum(line.fee) * 0.5, fixed: sum(line.fee) + 100, ratio: sum(line.fee) / count(line) }\n";
    const rows = `Site,Fee\n${Array.from({ length: 90 }, (_, at) => `S${at % 11},${(at * 7.13 + 0.01).toFixed(2)}`).join("\n")}\n`;
    const plan = planOf({ report, rows });
    expect(codes(plan).filter((code) => code.startsWith("stop"))).toEqual([]);
    expect(plan.totals.map((one) => [one.name, one.agrees, one.parcels !== undefined])).toEqual([
      ["net", true, true],
      ["thirds", true, true],
      ["half", true, true],
      ["fixed", true, false],
      ["ratio", true, false],
    ]);
  });

  it("gives files that would be called alike different names, and keeps what a value says from making folders", async () => {
    const template = await makeWorkbook((_, sheet) => sheet.addRow(["{{ line.unit }}"]));
    const files =
      "files:\n  one: { name: 'Visits', folder: '{{ site }}', template: t.xlsx, pdf: too }\n  two: { name: visits, folder: '{{ site }}', template: t.xlsx, pdf: only }\n  big: { name: Big, template: t.xlsx, when: sum(line.fee) > 12 }\n";
    const rows = "Site,Unit,Fee\nA/B,L1,10\nQuay,L2,20\n";
    const plan = planOf({
      report: `split: Site\n${files}message: { subject: s, body: { text: t }, attach: [one, two.pdf, one.pdf, big] }\n`,
      rows,
      templates: { "t.xlsx": template },
    });
    expect(plan.parcels.map((one) => one.files.map((file) => file.path))).toEqual([
      ["A-B/Visits.xlsx", "A-B/Visits.pdf", "A-B/visits (2).pdf"],
      ["Quay/Visits.xlsx", "Quay/Visits.pdf", "Quay/visits (2).pdf", "Big.xlsx"],
    ]);
    expect(plan.parcels.map((one) => one.attachments)).toEqual([
      ["A-B/Visits.xlsx", "A-B/visits (2).pdf", "A-B/Visits.pdf"],
      ["Quay/Visits.xlsx", "Quay/visits (2).pdf", "Quay/Visits.pdf", "Big.xlsx"],
    ]);
  });

  it("says which files from outside go with a message; what comes from data is a letter, no pattern", () => {
    const attach =
      "message: { subject: s, body: { text: t }, attach: [{ fixed: terms.pdf }, { found: 'plans/{{ site }}-*.pdf', needed: group }, { found: 'all/{{ period.key }}.pdf', forAll: true, needed: false }] }\n";
    const plan = planOf({
      report: `split: Site\nperiod: { column: Day, every: month }\n${attach}`,
      rows: "Site,Day\nA*/B,2026-10-01\n",
      period: "2026-10",
      templates: { "terms.pdf": Buffer.from("%PDF") },
    });
    expect(plan.parcels[0].enclosed).toEqual([
      { kind: "fixed", name: "terms.pdf", pattern: "terms.pdf", needed: true, forAll: true },
      { kind: "found", name: "plans/A*/B-*.pdf", pattern: "plans/A\\*-B-*.pdf", needed: "group", forAll: false },
      { kind: "found", name: "all/2026-10.pdf", pattern: "all/2026-10.pdf", needed: false, forAll: true },
    ]);
  });

  it.each([
    ["{{ period.label }}", "period.label"],
    ["{{ upper(period.label) }}", "a function of the period"],
    ['{{ "x" & run.id }}', "a text and the run"],
    ["{{ Period.key }}", "the period in capitals"],
    ["{{ groups.count }}", "the number of groups"],
    ["all", "no mark"],
    ['{{ "site" }}', "a text that looks like a column"],
    ["{{ today() }}", "the day"],
  ])("refuses to look for a file whose name says nothing of the group: %s", (found, _) => {
    const attach = `message: { subject: s, body: { text: t }, attach: [{ found: '${found}*.pdf' }] }\n`;
    const report = `split: Site\nperiod: { column: Day, every: month }\n${attach}`;
    const rows = "Site,Day\nDock,2026-10-01\n";
    const [code, where, what] = thrown(() => planOf({ report, rows, period: "2026-10" }));
    expect([code, where]).toEqual(["BAD_DEFINITION", "message, attach"]);
    expect(what).toContain("every group would get the same file");
  });

  it.each([
    "{{ site }}",
    "{{ lower(site) }}",
    "{{ period.key }}/{{ group.number }}",
    "{{ recipient.name }}",
    "{{ sum(line.fee) }}",
  ])("looks for a file by whatever is the group's: %s", (found) => {
    const attach = `message: { subject: s, body: { text: t }, attach: [{ found: "${found}.pdf" }] }\n`;
    expect(planOf(run({ report: `split: Site\n${attach}` })).parcels).toHaveLength(3);
  });

  it("warns where a template's own formulas look for a name that is written in several ways", async () => {
    const template = await makeWorkbook((_, sheet) => sheet.addRow(["x"]));
    const rows = "Site,Unit\nSt. Anne's,L1\nST. ANNE'S,L2\nSt. Annes,L3\nSt. Anne\u2019s,L4\nDock,L5\nDOCK,L6\n";
    const report =
      "split: Site\nfiles: { f: { name: '{{ site }}', template: t.xlsx, cells: { 'Sheet one!B1': '{{ group.label }}' } } }\n";
    const plan = planOf({ report, rows, templates: { "t.xlsx": template } });
    const misses = plan.findings.filter((one) => one.code === "selector-misses-spelling");
    expect(misses.map((one) => one.where)).toEqual(["group St. Anne's"]);
    const plain = planOf({
      report: report.replace(", cells: { 'Sheet one!B1': '{{ group.label }}' }", ""),
      rows,
      templates: { "t.xlsx": template },
    });
    expect(codes(plain)).not.toContain("warn selector-misses-spelling");
  });

  it("says of a mark in a file's name that came out blank where and how often", () => {
    const report = "split: Site\nfiles: { f: { name: 'To {{ chief }} of {{ chief }}', table: {} } }\n";
    const plan = planOf({ report, rows: "Site,Unit,Chief\nDock,L1,\nQuay,L2,Ann\n" });
    const [blank] = plan.findings.filter((one) => one.code === "blank-in-text");
    expect(blank).toMatchObject({ severity: "warn", where: "files, f, name", count: 2 });
    expect(blank.what).toContain("is blank for Dock, 2 times");
    expect(blank.advice).toContain('coalesce(chief, "…")');
  });

  it("sends to the addresses that the rows carry, with their names, and to the list besides", () => {
    const rows = "Site,Mail,Who\nDock,ann@dock.example,Ann\nDock,ann@dock.example,Ann\nQuay,,\nMill,m@mill.example,\n";
    const people = "Site,Name,Addresses\nDock,Ben,ben@dock.example\nQuay,Cleo,cleo@quay.example\n";
    const to = (more: string) =>
      planOf({
        report: `split: Site\nmessage: { subject: s, body: { text: t } }\ndelivery: { to: { column: Mail${more} } }\n`,
        rows,
        people,
      });
    const who = (plan: Plan) =>
      plan.parcels.map((one) => one.recipients.map((each) => `${each.name} ${each.to[0].address}`));
    expect(who(to(", name: Who"))).toEqual([
      ["Ann ann@dock.example"],
      ["m@mill.example m@mill.example"],
      ["Cleo cleo@quay.example"],
    ]);
    expect(who(to(", name: Who, besides: true"))).toEqual([
      ["Ann ann@dock.example", "Ben ben@dock.example"],
      ["m@mill.example m@mill.example"],
      ["Cleo cleo@quay.example"],
    ]);
    expect(to("").parcels[0].recipients[0].why).toBe("the column Mail of its rows holds the address");
    const nobody = planOf({ report: "split: Site\ndelivery: { to: { column: Mail } }\n", rows });
    expect(nobody.parcels[2].nobody).toBe("the column Mail holds no address for it and no row of the list names it");
    expect(thrown(() => to(", name: Whoo"))).toEqual([
      "BAD_DEFINITION",
      "delivery, to",
      expect.stringContaining("`Whoo`"),
      expect.stringContaining("Who"),
    ]);
  });

  it.each([
    ["split: Sitte\n", "split"],
    ["split: Site\nperiod: { column: Dya, every: month }\n", "period, column"],
    ["split: Site\nonce: { per: [Unti] }\n", "once, per"],
    ["split: Site\ndelivery: { to: { column: Mial } }\n", "delivery, to"],
    ["split: Site\ntotals: { fees: sum(line.fees) }\n", "totals, fees, `sum(line.fees)`, character 5"],
  ])("names the place of a column there is not: %j", (report, where) => {
    const input = inputOf(run({ report, rows: "Site,Unit,Day,Fee,Mail\nDock,L1,2026-10-02,10,a@b.example\n" }));
    const [, place] = thrown(() => checkAgainst(input.report, input.table.columns, new Map(), new Map()));
    expect(place).toBe(where);
  });

  it("refuses a period of a column that holds no dates", () => {
    const [code, where, what] = thrown(() =>
      planOf(run({ report: `${BY_SITE}period: { column: Fee, every: month }\n`, period: "2026-10" })),
    );
    expect([code, where]).toEqual(["BAD_DEFINITION", "period, column"]);
    expect(what).toContain("`Fee`");
  });

  it("adds up whatever the rows, the groups chosen and the rows delivered before", () => {
    const row = fc.record({
      site: fc.constantFrom("Dock", "dock", "Quay", "Mill", ""),
      fee: fc.integer({ min: -10_000, max: 10_000 }).map((cents) => cents / 100),
      day: fc.integer({ min: 1, max: 60 }),
      isGone: fc.boolean(),
    });
    const only = fc.option(fc.subarray(["dock", "quay", "mill"], { minLength: 1 }), { nil: undefined });
    fc.assert(
      fc.property(fc.array(row, { minLength: 1, maxLength: 30 }), only, (rows, wanted) => {
        const day = (at: number) => new Date(Date.UTC(2026, 8, 1 + at)).toISOString().slice(0, 10);
        const csv = `Site,Fee,Day,Unit\n${rows.map((one, at) => `${one.site},${one.fee},${day(one.day)},L${at}`).join("\n")}\n`;
        const isOf = (one: (typeof rows)[number]) => day(one.day).startsWith("2026-10");
        const present = new Set(
          rows.filter((one) => one.site !== "" && isOf(one)).map((one) => one.site.toLowerCase()),
        );
        const chosen = wanted?.filter((key) => present.has(key));
        const plan = planOf({
          report: `${BY_SITE}period: { column: Day, every: month }\n`,
          rows: csv,
          period: "2026-10",
          more: {
            delivered: (table, group) =>
              new Map(
                group.rows.flatMap((at) =>
                  rows[Number(String(table.columns[3].values[at]).slice(1))].isGone ? [[at, "gone out before"]] : [],
                ),
              ),
            ...(chosen ? { only: chosen } : {}),
          },
        });
        const due = rows.filter(
          (one) => one.site !== "" && isOf(one) && !one.isGone && (!chosen || chosen.includes(one.site.toLowerCase())),
        );
        const kept = rows.filter(isOf);
        const cents = (some: typeof rows) => some.reduce((sum, one) => sum + Math.round(one.fee * 100), 0);
        expect(plan.rows.inGroups).toBe(due.length);
        expect(plan.rows.leftOut.reduce((sum, one) => sum + one.count, 0)).toBe(rows.length - due.length);
        expect(Math.round(Number(plan.totals[0].parcels) * 100)).toBe(cents(due));
        expect(Math.round(Number(plan.totals[0].master) * 100)).toBe(cents(kept));
        expect(codes(plan).filter((code) => code.includes("add-up"))).toEqual([]);
      }),
      { numRuns: 60 },
    );
  });

  it("gives memory a chance while thousands of groups are planned", () => {
    let looks = 0;
    const rows = `Site\n${Array.from({ length: 600 }, (_, at) => `Site ${at}`).join("\n")}\n`;
    const plan = planOf({ report: "split: Site\n", rows, more: { meanwhile: () => void looks++ } });
    expect([plan.parcels.length, looks]).toEqual([600, 3]);
  });
});
