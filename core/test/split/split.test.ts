import { Exact, groupKey } from "@corbix/core/common";

import { prepareTable } from "@corbix/core/prepare";
import { matchRecipients, readRecipients } from "@corbix/core/recipients";
import { parseReport } from "@corbix/core/report";
import { planRun, proveRun } from "@corbix/core/run";
import { splitTable } from "@corbix/core/split";
import { loadTable, type Table } from "@corbix/core/table";
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
