import { Exact, groupKey } from "@corbix/core/common";

import { prepareTable } from "@corbix/core/prepare";
import { matchRecipients, readRecipients } from "@corbix/core/recipients";
import { parseReport } from "@corbix/core/report";
import { planRun, proveRun } from "@corbix/core/run";
import { applyAliases, listGroups, nearDoubles, recipientKeys, splitBy, splitTable } from "@corbix/core/split";
import { loadTable, type Table } from "@corbix/core/table";
import fc from "fast-check";
import { describe, expect, it } from "vitest";
import { forAll } from "../support/for-all.js";

const table = (text: string): Table => loadTable(Buffer.from(text), "t.csv").table;
const context = { others: new Map<string, Table>(), today: 46_000, locale: "en-GB" };

describe("preparing", () => {
  it("says for each dropped row which part of the filter dropped it", () => {
    const visits = table("Site,Status,Fee\nDock,open,1\nDock,cancelled,2\n,open,3\nQuay,open,0\n");
    const { table: kept, leftOut } = prepareTable(
      visits,
      { keep: 'status <> "cancelled" and site <> "" and fee > 0' },
      context,
    );
    expect(kept.rowNumbers).toEqual([2]);
    expect(leftOut).toEqual([
      { reason: 'Status is "cancelled"', count: 1, rowNumbers: [3] },
      { reason: "without Site", count: 1, rowNumbers: [4] },
      { reason: "Fee not > 0", count: 1, rowNumbers: [5] },
    ]);
  });

  it("says in plain words what is none of some values, or one of them", () => {
    const visits = table("Site,Status\nDock,open\nQuay,cancelled\nMill,\n");
    const reasons = (keep: string): string[] =>
      prepareTable(visits, { keep }, context).leftOut.map(({ reason, count }) => `${count} ${reason}`);
    expect(reasons('status in ("open")')).toEqual(['1 Status is not "open"', "1 without Status"]);
    expect(reasons('status in ("open", "done")')).toEqual(['1 Status is none of "open", "done"', "1 without Status"]);
    expect(reasons('not (status in ("cancelled", "done"))')).toEqual(['1 Status is one of "cancelled", "done"']);
    expect(reasons('status not in ("cancelled")')).toEqual(['1 Status is one of "cancelled"']);
  });

  it("brings columns by cleaned key and names keys without partner and with two", () => {
    const visits = table("Site,Fee\nHarbour House ,1\nQUAY,2\nMill,3\n");
    const sites = table("Code,Manager\nharbour house,Ann\nQuay,Ben\nQuay,Cid\n");
    const spec = { bring: [{ from: "sites", match: { site: "code" }, columns: ["manager"] }] };
    const { table: brought, findings } = prepareTable(visits, spec, {
      ...context,
      others: new Map([["sites", sites]]),
    });
    expect(brought.columns.at(-1)?.values).toEqual(["Ann", "Ben", null]);
    expect(findings.map((finding) => finding.code)).toEqual(["no-partner", "double-partner"]);
  });

  it("adds columns that later ones may use, and sorts with blanks last", () => {
    const visits = table("Site,Hours,Rate\na,2,10\nb,,5\nc,1,30\n");
    const { table: done } = prepareTable(
      visits,
      { add: { fee: "round(hours * rate, 2)", tax: "round(fee * 8.1%, 2)" }, sort: ["-hours"] },
      context,
    );
    expect(done.columns.map((column) => column.name)).toEqual(["Site", "Hours", "Rate", "fee", "tax"]);
    expect(done.columns[0].values).toEqual(["a", "c", "b"]);
    expect(done.columns[4].values).toEqual([1.62, 2.43, 0]);
  });
});

describe("splitting", () => {
  it("puts spellings together that differ in blanks and capitals, keeps accents apart and points at them", () => {
    const { groups, findings } = splitTable(
      table("Site,Fee\nHarbour House,1\nharbour  house ,2\nSjöstad Quay,3\nSjostad Quay,4\n"),
      ["site"],
    );
    expect(groups.map((group) => group.rows.length)).toEqual([2, 1, 1]);
    expect(findings.find((finding) => finding.code === "near-double")?.what).toContain("Sjostad Quay");
  });

  it("takes Dock 1 and Dock 2 for two docks", () => {
    expect(splitTable(table("Site,Fee\nDock number 1,1\nDock number 2,2\n"), ["site"]).findings).toEqual([]);
  });

  it("loses no row and no cent, for any table and any filter", () => {
    forAll(60, (random) => {
      const names = ["Dock", "dock ", "Quay", "", "Mill", "Zürich", "Zurich"];
      const count = 1 + random(80);
      const cents: number[] = [];
      const lines = Array.from({ length: count }, () => {
        cents.push(random(2_000_000) - 500_000);
        return `${names[random(names.length)]},${(cents[cents.length - 1] / 100).toFixed(2)},${["open", "cancelled", ""][random(3)]}`;
      });
      const master = table(`Site,Fee,Status\n${lines.join("\n")}\n`);
      const report = parseReport(
        "{ report: r, title: R, data: d, split: site, keep: 'status <> \"cancelled\"', totals: { fees: sum(line.fee), n: count(line) } }",
        "r.yaml",
      );
      const facts = { id: "x", date: 46_000, sender: "a@b.example", locale: "en-GB" };
      const { plan } = planRun({
        report,
        table: master,
        others: new Map(),
        recipients: [],
        templates: new Map(),
        facts,
      });
      const leftOut = plan.rows.leftOut.reduce((sum, entry) => sum + entry.count, 0);
      expect(plan.rows.inGroups + leftOut).toBe(master.rowCount);
      const rows = plan.parcels.flatMap((parcel) => parcel.group.rows.map((row) => plan.table.rowNumbers[row]));
      expect(new Set(rows).size).toBe(rows.length);
      // The oracle counts in whole cents.
      const status = master.columns[2].values;
      const site = master.columns[0].values;
      const expected = new Map<string, bigint>();
      for (let row = 0; row < master.rowCount; row++) {
        if (status[row] === "cancelled" || groupKey(String(site[row] ?? "")) === "") continue;
        const key = groupKey(String(site[row]));
        expected.set(key, (expected.get(key) ?? 0n) + BigInt(Math.round(Number(master.columns[1].values[row]) * 100)));
      }
      for (const parcel of plan.parcels)
        expect(new Exact(parcel.totals.fees).times(100).toString()).toBe(String(expected.get(parcel.group.key)));
      expect(plan.totals.every((total) => total.agrees)).toBe(true);
    });
  });
});

describe("recipients", () => {
  const list = readRecipients(
    table(
      'Site;Name;Addresses;Copies;Language\nDock;Ann;"ann@dock.example, Ben <ben@dock.example>; ann@dock.example";boss@dock.example;en\nQuay;Cid;nonsense;;\n;Dee;dee@x.example;;\n',
    ),
    "people.csv",
  );

  it("takes several addresses of a cell, each once, with their names", () => {
    expect(list.recipients[0].to).toEqual([
      { address: "ann@dock.example" },
      { address: "ben@dock.example", name: "Ben" },
    ]);
    expect(list.recipients[0].copies).toEqual([{ address: "boss@dock.example" }]);
    expect(list.recipients[0]).toMatchObject({ language: "en", fields: {} });
  });

  it("names rows without a usable address or group", () => {
    expect(list.findings.map((finding) => finding.code)).toEqual([
      "bad-address",
      "recipient-without-address",
      "recipient-without-group",
    ]);
  });

  it("finds groups without people, and people without groups", () => {
    const { groups } = splitTable(table("Site,Fee\n dock ,1\nMill,2\n"), ["site"]);
    const extra = readRecipients(table("Group,Address\nGranary,g@x.example\n"), "p").recipients;
    const { byGroup, findings } = matchRecipients(groups, [...list.recipients, ...extra]);
    expect([...byGroup.keys()]).toEqual(["dock"]);
    expect(findings.map((finding) => finding.code)).toEqual(["group-without-recipient", "recipient-without-rows"]);
  });

  it("tells of people without rows only where their group is the report's own, or nearly one nobody receives for", () => {
    const { groups } = splitTable(table("Site,Fee\n dock ,1\nMill,2\n"), ["site"]);
    const others = "Group,Name,Address\nGranary,Gil,g@x.example\nMil,Mo,m@x.example\nQuay,Quin,q@x.example\n";
    const shared = [...list.recipients, ...readRecipients(table(others), "p").recipients];
    const told = (known?: readonly string[]) =>
      matchRecipients(groups, shared, known ? { known: new Set(known) } : {})
        .findings.filter((finding) => finding.code === "recipient-without-rows")
        .map((finding) => [/^"(\w+)"/.exec(finding.what)?.[1], /Nobody receives/.test(finding.advice)]);
    expect(told(["quay", "dock", "mill"])).toEqual([
      ["Mo", true],
      ["Quin", false],
    ]);
    // A report that never ran knows no groups of its own: everybody may be meant.
    expect(told().map(([name]) => name)).toEqual(["Gil", "Mo", "Quin"]);
  });

  it("does not say of groups that are there, but were not chosen, that they have no rows", () => {
    const { groups } = splitTable(table("Site,Fee\nDock,1\nMill,2\n"), ["site"]);
    const people = readRecipients(table("Group,Address\nMill,m@x.example\n"), "p").recipients;
    const present = new Set(groups.map((group) => group.key));
    const { findings } = matchRecipients(groups.slice(0, 1), people, { present });
    expect(findings.map((finding) => finding.code)).toEqual(["group-without-recipient"]);
  });

  it("refuses addresses that would start another header or another recipient", () => {
    for (const address of [
      "a@b.example\nBcc: c@d.example",
      "a@b.example c@d.example",
      "@b.example",
      "a@b",
      "a@@b.example",
      "<a@b.example",
    ]) {
      const quoted = `"${address}"`;
      expect(
        readRecipients(table(`Group,Address\nDock,${quoted}\n`), "p")
          .recipients.flatMap((one) => one.to.map((to) => to.address))
          .every((one) => /^[^\s<>]+@[^\s<>]+$/.test(one)),
      ).toBe(true);
    }
  });
});

describe("the proof", () => {
  const plan = { rows: { master: 3, inGroups: 3, leftOut: [] }, totals: [], findings: [] };
  const parcel = {
    key: "dock",
    label: "Dock",
    plannedFiles: 1,
    people: 1,
    messages: 1,
    files: [{ path: "a.pdf", size: 10, plannedRowsDigest: "x", rowsDigest: "x" }],
  };

  it("lets a whole run go", () => {
    const proof = proveRun(plan, [parcel]);
    expect(proof.mayBeReleased).toBe(true);
    expect(proof.sentences).toContain("3 rows = 3 in 1 group + 0 left out.");
  });

  it.each([
    ["an empty file", { files: [{ ...parcel.files[0], size: 0 }] }, "file-empty"],
    ["a missing file", { files: [] }, "file-missing"],
    ["a file of other rows", { files: [{ ...parcel.files[0], rowsDigest: "y" }] }, "wrong-rows"],
  ])("stops at %s", (_, change, code) => {
    const proof = proveRun(plan, [{ ...parcel, ...change }]);
    expect(proof.mayBeReleased).toBe(false);
    expect(proof.findings.map((finding) => finding.code)).toContain(code);
  });
});

describe("groups of several columns", () => {
  const by = (csv: string, ...columns: string[]) => splitTable(table(csv), columns);

  it("are one for each combination that has rows, and rows with any of the values blank are nobody's", () => {
    const { groups, blankRows } = by(
      "Site,Level,Fee\nDock,2,1\ndock,2,2\nDock,10,3\n,2,4\nQuay,,5\nDock,2,6\n",
      "Site",
      "Level",
    );
    expect(groups.map(({ key, label, rows, spellings }) => [key, label, rows, spellings])).toEqual([
      ["dock / 2", "Dock / 2", [0, 1, 5], ["Dock / 2", "dock / 2"]],
      ["dock / 10", "Dock / 10", [2], ["Dock / 10"]],
    ]);
    expect(blankRows).toEqual([3, 4]);
  });

  it("that would be called alike stay apart, and stop: nobody gets the rows of both", () => {
    const { groups, findings } = by(
      "Site,Part,Fee\nNorth / East,Dock,1\nNorth,East / Dock,2\nNorth / East,Dock,3\nMill,A,4\n",
      "Site",
      "Part",
    );
    expect(groups.map(({ label, rows }) => [label, rows])).toEqual([
      ["Mill / A", [3]],
      ["North / East / Dock", [0, 2]],
      ["North / East / Dock", [1]],
    ]);
    expect(new Set(groups.map((group) => group.key)).size).toBe(3);
    const [stop] = findings.filter((one) => one.severity === "stop");
    expect(stop).toMatchObject({ code: "groups-called-alike", where: "split by Site, Part", count: 2 });
    expect(stop.what).toContain('2 different groups would be called "North / East / Dock"');
    const { recipients } = readRecipients(table("Group,Addresses\nNorth / East / Dock,ann@dock.example\n"), "list");
    expect([...matchRecipients(groups, recipients).byGroup.keys()]).toEqual([]);
    // One such group alone is called as it is, and is received for.
    const alone = by("Site,Part,Fee\nNorth / East,Dock,1\n", "Site", "Part");
    expect([alone.findings, [...matchRecipients(alone.groups, recipients).byGroup.keys()]]).toEqual([
      [],
      ["north / east / dock"],
    ]);
  });

  it("lose no row and mix none, whatever stands in the columns", () => {
    const value = fc.constantFrom("A", "a", "B", "A / B", "/", "", " ", "A / ", "B // A");
    fc.assert(
      fc.property(fc.array(fc.tuple(value, value), { minLength: 1, maxLength: 25 }), (rows) => {
        const text = `One,Two,Three\n${rows.map(([a, b], at) => `"${a}","${b}",${at}`).join("\n")}\n`;
        const source = table(text);
        const { groups, blankRows } = splitTable(source, ["One", "Two"]);
        expect([...groups.flatMap((group) => group.rows), ...blankRows].sort((a, b) => a - b)).toEqual([
          ...source.rowNumbers.keys(),
        ]);
        expect(new Set(groups.map((group) => group.key)).size).toBe(groups.length);
        const cell = (column: number, row: number) => groupKey(String(source.columns[column].values[row] ?? ""));
        for (const { rows: own } of groups)
          for (const row of own) expect([cell(0, row), cell(1, row)]).toEqual([cell(0, own[0]), cell(1, own[0])]);
      }),
    );
  });
});

describe("names of groups", () => {
  it("are the most frequent spelling, the first among equals, and the others are told", () => {
    const { groups, findings } = splitTable(table("Site,Fee\ndock,1\nDock,2\nDOCK,3\nDock,4\nQuay,5\n"), ["Site"]);
    expect(groups.map((group) => [group.label, group.spellings])).toEqual([
      ["Dock", ["Dock", "dock", "DOCK"]],
      ["Quay", ["Quay"]],
    ]);
    expect(findings).toEqual([
      {
        code: "several-spellings",
        severity: "note",
        where: "split by Site",
        what: '"Dock" is also written "dock", "DOCK"; the rows were put together.',
        advice: "Nothing to do.",
        count: 3,
      },
    ]);
  });

  it("are sorted as people sort: numbers by size, capitals as small letters", () => {
    const { groups } = splitTable(table("Site,Fee\nLift 10,1\nlift 9,2\nÄrger,3\nzebra,4\nArm,5\n"), ["Site"]);
    expect(groups.map((group) => group.label)).toEqual(["Ärger", "Arm", "lift 9", "Lift 10", "zebra"]);
  });

  it("are those that aliases say, in the columns they speak of only", () => {
    const csv = "Site,Part,Fee\nWeir,Weir,1\nQuay,Dock,2\nquay,Weir,3\n";
    const aliases = [{ column: "site", from: " WEIR", to: "Quay" }];
    const { groups } = splitTable(table(csv), ["Site"], aliases);
    expect(groups.map(({ key, label, rows, spellings }) => [key, label, rows, spellings])).toEqual([
      ["quay", "Quay", [0, 1, 2], ["Weir", "Quay", "quay"]],
    ]);
    expect(splitTable(table(csv), ["Part"], aliases).groups.map((group) => group.label)).toEqual(["Dock", "Weir"]);
    const both = splitTable(table(csv), ["Site", "Part"], aliases).groups.map((group) => group.label);
    expect(both).toEqual(["Quay / Dock", "Quay / Weir"]);
    const applied = applyAliases(table(csv), aliases);
    expect(applied.columns.map((column) => column.values)).toEqual([
      ["Quay", "Quay", "quay"],
      ["Weir", "Dock", "Weir"],
      [1, 2, 3],
    ]);
    const source = table(csv);
    expect(applyAliases(source, [])).toBe(source);
    expect(applyAliases(source, [{ column: "Fee", from: "1", to: "9" }]).columns[2].values).toEqual([1, 2, 3]);
    expect(applyAliases(source, [{ column: "Other", from: "Weir", to: "x" }]).columns[0]).toBe(source.columns[0]);
  });

  it.each([
    [["Sjöstad Quay", "Sjostad Quay"], "they differ only by accents or punctuation"],
    [["St. Anne's", "St Annes"], "they differ only by accents or punctuation"],
    [["Harbour House", "Harbor House"], "they differ by one letter"],
    [["Harbour House", "Harbour Mouse"], "they differ by one letter"],
    [["Dock 1", "Dock 2"], undefined],
    [["Dock", "Duck"], undefined],
    [["Harbour House", "Harbor Hause"], undefined],
  ])("%j: %s", (names, why) => {
    const rows = names.flatMap((name, at) => (at === 0 ? [name, name] : [name]));
    const { groups, findings } = splitTable(table(`Site,Fee\n${rows.map((name) => `${name},1`).join("\n")}\n`), [
      "Site",
    ]);
    const near = nearDoubles(groups);
    expect(near.map((one) => [one.more.label, one.fewer.label, one.why])).toEqual(
      why ? [[names[0], names[1], why]] : [],
    );
    if (why)
      expect(findings.find((one) => one.code === "near-double")?.what).toBe(
        `"${names[1]}" (1 row) and "${names[0]}" (2 rows) are two groups, but nearly the same: ${why}.`,
      );
  });

  it("are looked through for near doubles in thousands too, among those that begin alike", () => {
    const names = Array.from({ length: 1_600 }, (_, at) => `Site ${String.fromCharCode(97 + (at % 26))}${at}`);
    const { groups } = splitTable(
      table(`Site,Fee\n${[...names, "Harbour House", "Harbor House"].map((name) => `${name},1`).join("\n")}\n`),
      ["Site"],
    );
    expect(nearDoubles(groups).map((one) => one.why)).toEqual(["they differ by one letter"]);
  });
});

describe("the groups of a dataset", () => {
  const csv = "Site,Fee\nDock,1\nQuay,2\ndock,3\n,4\nMill,5\n";

  it("are counted, and told whether they are new and received for", () => {
    const list = listGroups(table(csv), ["site"], {
      before: table("Site,Fee\nDock,1\nQuay,2\nOld Mill,3\n"),
      recipientKeys: recipientKeys([{ group: " DOCK " }, { group: "Mill" }]),
    });
    expect(list.by).toEqual(["Site"]);
    expect(list.groups.map((one) => [one.key, one.label, one.count, one.isNew, one.hasRecipients])).toEqual([
      ["dock", "Dock", 2, false, true],
      ["mill", "Mill", 1, true, true],
      ["quay", "Quay", 1, false, false],
    ]);
    expect([list.gone, list.blank]).toEqual([["Old Mill"], { count: 1, rowNumbers: [5] }]);
    const told = list.findings.map((one) => [one.code, one.severity, one.what, one.count]);
    expect(told).toEqual([
      ["several-spellings", "note", '"Dock" is also written "dock"; the rows were put together.', 2],
      ["blank-keys", "warn", "1 row has no Site (row 5); it belongs to nobody.", 1],
      ["group-without-recipient", "warn", 'Nobody to receive for 1 group: "Quay".', 1],
      ["group-new", "note", 'New since the edition before, 1 group: "Mill".', 1],
      ["group-gone", "note", 'No rows any more, 1 group of the edition before: "Old Mill".', 1],
    ]);
    expect(list.findings[1].cells).toEqual({ column: "Site", rows: [5] });
  });

  it("say nothing of lists and editions there are not", () => {
    const list = listGroups(table("Site,Fee\nDock,1\nQuay,2\n"), ["Site"]);
    expect(list.groups.map((one) => [one.isNew, one.hasRecipients])).toEqual([
      [false, null],
      [false, null],
    ]);
    expect([list.gone, list.blank.count, list.near, list.findings]).toEqual([[], 0, [], []]);
  });

  it("name the first of many, and rows of several columns by all of them", () => {
    const names = Array.from({ length: 11 }, (_, at) => `Dock ${at + 1}`);
    const many = listGroups(
      table(`Site,Part,Fee\n${names.map((name) => `${name},a,1`).join("\n")}\n${"x,,1\n".repeat(7)}`),
      ["site", "part"],
      {
        recipientKeys: new Set(),
      },
    );
    expect(many.findings.map((one) => one.what)).toEqual([
      "7 rows have no Site or Part (row 13, 14, 15, 16, 17, …); they belong to nobody.",
      `Nobody to receive for 11 groups: ${names
        .slice(0, 8)
        .map((name) => `"${name} / a"`)
        .join(", ")}, ….`,
    ]);
    expect(() => listGroups(table(csv), ["Sit"])).toThrow("Cannot find the column");
  });

  it("give near doubles to be merged, the fewer into the more, and merged ones no more", () => {
    const near = table("Site,Fee\nHarbour House,1\nHarbour House,2\nHarbor House,3\n");
    expect(listGroups(near, ["Site"]).near).toEqual([
      { from: "Harbor House", to: "Harbour House", why: "they differ by one letter" },
    ]);
    const merged = listGroups(near, ["Site"], {
      aliases: [{ column: "Site", from: "Harbor House", to: "Harbour House" }],
    });
    expect([merged.near, merged.groups.map((one) => one.count)]).toEqual([[], [3]]);
  });
});

describe("groups that are not made by a column alone", () => {
  const visits = table("Site,Day,Fee\nDock,2026-10-02,1\nQuay,2026-10-02,2\nDock,2026-10-30,3\n");

  it("is one group of all rows, by the name the report gives it; none where there are no rows", () => {
    const { groups, blankRows, findings } = splitBy(visits, { one: " All sites " });
    expect(groups).toEqual([{ key: "all sites", label: "All sites", spellings: ["All sites"], rows: [0, 1, 2] }]);
    expect([blankRows, findings]).toEqual([[], []]);
    expect(splitBy(table("Site,Fee\n"), { one: "All sites" }).groups).toEqual([]);
  });

  it("is a group for each row, named by columns, days as days", () => {
    const { groups, findings } = splitBy(visits, { row: ["Site", "Day"] });
    expect(groups.map(({ label, rows }) => [label, rows])).toEqual([
      ["Dock / 2026-10-02", [0]],
      ["Dock / 2026-10-30", [2]],
      ["Quay / 2026-10-02", [1]],
    ]);
    expect(findings).toEqual([]);
    expect(splitBy(visits, ["Day"]).groups.map(({ label }) => label)).toEqual(["2026-10-02", "2026-10-30"]);
  });

  it("calls moments and times as they are, too", () => {
    const some = table("Site,At,Opens\nDock,2026-10-02 07:30,07:30\nQuay,2026-10-02 16:00,16:00\n");
    expect(some.columns.map(({ type }) => type)).toEqual(["text", "datetime", "time"]);
    const labels = (by: string): string[] => splitBy(some, by).groups.map(({ label }) => label);
    expect(labels("At")).toEqual(["2026-10-02T07:30:00", "2026-10-02T16:00:00"]);
    expect(labels("Opens")).toEqual(["07:30:00", "16:00:00"]);
  });

  it("stops where two rows would be called alike, and leaves out those without a name", () => {
    const some = table("Site,Fee\nDock,1\n dock ,2\n,3\nQuay,4\nQuay 2,5\nQuais,6\n");
    const { findings, blankRows } = splitBy(some, { row: ["Site"] });
    expect(blankRows).toEqual([2]);
    expect(findings.map(({ code, severity, what }) => [code, severity, what])).toEqual([
      ["rows-called-alike", "stop", '2 rows are called "Dock" (row 2, 3): a group for each row needs a name for each.'],
    ]);
  });

  it("loses no row, whatever the rule", () => {
    const cell = fc.tuple(fc.constantFrom("a", "A ", "b", ""), fc.constantFrom("1", "2", ""));
    const check = (cells: [string, string][]): void => {
      const some = table(`One,Two\n${cells.map((row) => row.join(",")).join("\n")}\n`);
      for (const rule of ["One", ["One", "Two"], { one: "All" }, { row: ["Two", "One"] }]) {
        const { groups, blankRows } = splitBy(some, rule);
        expect([...groups.flatMap(({ rows }) => rows), ...blankRows].sort((a, b) => a - b)).toEqual(
          Array.from({ length: some.rowCount }, (_, row) => row),
        );
      }
    };
    fc.assert(fc.property(fc.array(cell), check));
  });
});
