import {
  addressFault,
  listAsRows,
  matchRecipients,
  mergeRecipients,
  readCards,
  readRecipients,
  writeCards,
} from "@corbix/core/recipients";
import { splitTable } from "@corbix/core/split";
import { loadTable } from "@corbix/core/table";
import { describe, expect, it } from "vitest";

const table = (text: string) => loadTable(Buffer.from(text), "list.csv").table;
const list = (text: string) => readRecipients(table(text), "list");
const groups = (...names: string[]) =>
  splitTable(table(`Site,Fee,Mail\n${names.map((name) => `${name},1,\n`).join("")}`), ["Site"]).groups;

describe("addresses", () => {
  it.each([
    "ann@dock.example",
    "ann.b+c_d@sub.dock.example",
    "o'neil@dock.example",
    '"ann b"@dock.example',
    "åsa@sjöstad.example",
    "x@xn--sjstad-wxa.example",
    "用户@例子.example",
  ])("takes %s, as RFC 5321 and 6531 do", (address) => {
    expect(addressFault(address)).toBeUndefined();
  });

  it.each([
    ["ann", "no @"],
    ["ann@dock", "no dot"],
    [".ann@dock.example", "no name of a mailbox"],
    ["ann..b@dock.example", "no name of a mailbox"],
    ["ann b@dock.example", "no name of a mailbox"],
    ["ann@-dock.example", "no domain"],
    ["ann@dock..example", "no domain"],
    ["ann@dock.example/x", "no domain"],
    ["ann@[127.0.0.1]", "machine"],
    ["ann@1.2.3.4", "ends with a number"],
    [`${"a".repeat(65)}@dock.example`, "longer than 64"],
    ["ann@dock.example>", "no domain"],
    ["ann@dock.example\r\nBcc: x@y.example", "no "],
  ])("refuses %j and says why", (address, why) => {
    expect(addressFault(address)).toContain(why);
  });

  it("reads several in a cell, whatever parts them, with names that hold commas", () => {
    const { recipients, findings } = list(
      'Group,Addresses\nDock,"""Nyström, Åsa"" <asa@dock.example>; Ben Ode <ben@dock.example>, cid@dock.example"\n',
    );
    expect(recipients[0].to).toEqual([
      { address: "asa@dock.example", name: "Nyström, Åsa" },
      { address: "ben@dock.example", name: "Ben Ode" },
      { address: "cid@dock.example" },
    ]);
    expect(findings).toEqual([]);
  });

  it("points at look-alike, forged, outside and double ones", () => {
    const { findings } = list(
      [
        "Group,Name,Addresses",
        "Dock,Ann,ann@harbourhouse.example",
        "Dock,Ben,ben@harbourhouse.example",
        "Dock,Cid,cid@harbourh0use.example",
        "Mill,Dee,dee@harbourhouse.example",
        "Mill,Eve,eve@harbourhoues.example",
        "Mill,Fay,fay@milling.example; FAY@milling.example",
        "Mill,Gus,fay@milling.example",
        "Quay,Hal,hal@quаy.example",
        "Tower,Ida,ida@tower.example",
        "Tower,Jo,jo@tower.example",
        "Tower,Kim,kim@elsewhere.example",
      ].join("\n"),
    );
    const of = (code: string) => findings.filter((one) => one.code === code).map((one) => one.where);
    expect(of("look-alike-domain")).toEqual(["list, row 4"]);
    expect(of("double-address")).toEqual(["list, row 8"]);
    expect(of("mixed-domain")).toEqual(["list, row 9"]);
    expect(of("outside-domain")).toContain("list, row 12");
    expect(findings.find((one) => one.code === "look-alike-domain")?.what).toContain("harbourhouse.example");
  });
});

describe("the list", () => {
  const rich = [
    "Site,Name,Addresses,Copies,Blind copies,Role,Dataset,Language,Active from,Active until,Never send,Floor",
    "Dock; Mill,Ann,ann@dock.example,boss@dock.example,,,,de,,,,3",
    "*,Office,office@lifts.example,,,blind copy,,,,,,",
    "Dock,Ben,ben@dock.example,,,copy,visits,,,,,",
    "Quay,Cid,cid@quay.example,,,,,,2027-01-01,,,",
    "Tower,Dee,dee@tower.example,,,,,,,2025-12-31,,",
    "Granary,Eve,eve@granary.example,,,,,,,,yes,",
  ].join("\n");

  it("knows groups of several or all, roles, datasets, languages, times and who is never sent to", () => {
    const { recipients } = list(rich);
    expect(recipients.map((one) => one.group)).toEqual(["Dock", "Mill", "*", "Dock", "Quay", "Tower", "Granary"]);
    expect(recipients[0]).toMatchObject({ language: "de", fields: { Floor: "3" }, row: 2 });
    const { byGroup, nobody } = matchRecipients(
      groups("Dock", "Mill", "Quay", "Tower", "Granary", "Other"),
      recipients,
      {
        dataset: "visits",
        date: 46_328,
      },
    );
    expect(byGroup.get("dock")?.map((one) => [one.name, one.role ?? "to", one.why])).toEqual([
      ["Ann", "to", 'row 2 of the list stands for "Dock"'],
      ["Office", "blind", "row 3 of the list stands for all groups"],
      ["Ben", "copy", 'row 4 of the list stands for "Dock"'],
    ]);
    expect(nobody.get("other")).toBe("there are only people who get copies");
    const alone = matchRecipients(
      groups("Quay", "Tower", "Granary", "Other"),
      recipients.filter((one) => one.key !== "*"),
      {
        date: 46_328,
      },
    );
    expect(["quay", "tower", "granary", "other"].map((key) => alone.nobody.get(key))).toEqual([
      'row 5 ("Cid") is active from 2027-01-01 on',
      'row 6 ("Dee") was active until 2025-12-31',
      'row 7 ("Eve") is never to be sent to',
      "no row of the list names it",
    ]);
    expect(alone.findings.filter((one) => one.code === "group-without-recipient")).toHaveLength(4);
  });

  it("is narrowed and overridden by a report, per group too, or found in a column of the rows", () => {
    const { recipients } = list(
      "Group,Name,Addresses,Duty\nDock,Ann,ann@dock.example,manager\nDock,Ben,ben@dock.example,clerk\nMill,Cid,cid@mill.example,clerk\n",
    );
    const narrowed = matchRecipients(groups("Dock", "Mill"), recipients, { narrow: { duty: "Manager" } });
    expect(narrowed.byGroup.get("dock")?.map((one) => one.name)).toEqual(["Ann"]);
    expect(narrowed.nobody.get("mill")).toBe('row 4 ("Cid") has "clerk" as duty');
    const instead = matchRecipients(groups("Dock", "Mill"), recipients, {
      instead: [{ group: " MILL ", to: "Zoe <zoe@mill.example>", copies: "cid@mill.example" }],
    });
    expect(instead.byGroup.get("mill")).toMatchObject([
      { name: "Zoe", copies: [{ address: "cid@mill.example" }], why: 'the report names them for "Mill"' },
    ]);
    const rows = table(
      "Site,Mail,Who\nDock,a@dock.example,Al\nDock,a@dock.example,Al\nDock,b@dock.example,Al\nMill,,Bo\n",
    );
    const split = splitTable(rows, ["Site"]);
    const found = matchRecipients(split.groups, recipients, {
      column: { column: "mail", name: "who", besides: false },
      table: rows,
    });
    expect(found.byGroup.get("dock")).toMatchObject([
      { name: "Al", to: [{ address: "a@dock.example" }, { address: "b@dock.example" }] },
    ]);
    expect(found.byGroup.get("mill")?.[0].why).toBe('row 4 of the list stands for "Mill"');
  });

  it("shows what an import changes before it does, and merges or replaces", () => {
    const before = list(
      "Group,Name,Addresses\nDock,Ann,ann@dock.example\nMill,Ben,ben@mill.example\nQuay,Cid,cid@quay.example\n",
    ).recipients;
    const file = list(
      "Group,Name,Addresses\nDock,Ann,ann@new.example\nMill,Benjamin,BEN@mill.example\nTower,Dee,dee@tower.example\n",
    ).recipients;
    const merged = mergeRecipients(before, file, "merge");
    expect(merged.changes.map((one) => [one.kind, one.name, one.fields.join()])).toEqual([
      ["changed", "Ann", "addresses"],
      ["changed", "Benjamin", "name,addresses"],
      ["added", "Dee", ""],
    ]);
    expect(merged.recipients.map((one) => [one.name, one.row])).toEqual([
      ["Ann", 2],
      ["Benjamin", 3],
      ["Cid", 4],
      ["Dee", 5],
    ]);
    const replaced = mergeRecipients(before, file, "replace");
    expect(replaced.changes.at(-1)).toMatchObject({ kind: "removed", name: "Cid" });
    expect(replaced.recipients.map((one) => one.name)).toEqual(["Ann", "Benjamin", "Dee"]);
    expect(mergeRecipients(before, before, "replace")).toMatchObject({ changes: [], unchanged: 3 });
  });

  it("goes out as a table or as vCards and comes back the same", () => {
    const { recipients } = list(rich);
    const { header, rows } = listAsRows(recipients);
    const text = [header, ...rows]
      .map((row) => row.map((cell) => `"${cell.replaceAll('"', '""')}"`).join(","))
      .join("\n");
    const again = list(text).recipients;
    expect(again.map(({ row: _, ...one }) => one)).toEqual(recipients.map(({ row: _, ...one }) => one));
    const cards = readCards(writeCards(recipients), "people.vcf");
    expect(cards.recipients.map((one) => [one.group, one.name, one.to[0].address, one.language])).toEqual(
      recipients.map((one) => [one.group, one.name, one.to[0].address, one.language]),
    );
  });

  it("reads vCards of other programs, and names cards it cannot use", () => {
    const { recipients, findings } = readCards(
      "BEGIN:VCARD\nVERSION:3.0\nFN:Åsa Nyström\nEMAIL;TYPE=INTERNET:asa@dock.example\nEMAIL:b@dock.example\nCATEGORIES:Dock,Mill\nORG:Dock Ltd\nEND:VCARD\nBEGIN:VCARD\nVERSION:4.0\nFN:Ben\nCATEGORIES:Mill\nEND:VCARD\n",
      "people.vcf",
    );
    expect(recipients.map((one) => one.key)).toEqual(["dock", "mill"]);
    expect(recipients[0]).toMatchObject({ name: "Åsa Nyström", fields: { Organisation: "Dock Ltd" } });
    expect(findings).toMatchObject([{ code: "recipient-without-address", where: "people.vcf, card 2" }]);
    expect(readCards("nonsense", "x.vcf").findings[0].code).toBe("bad-cards");
  });
});
