import type { Report } from "@corbix/core/report";
import { lookAtDraft } from "@corbix/core/run";
import { describe, expect, it } from "vitest";
import { inputOf } from "../support/small-run.js";

const ROWS = "Site,Fee,Result\nDock,10,passed\nQuay,20,failed\nDock,5,failed\nPier,1,passed\n";
const PEOPLE = "Group,Name,To\nDock,Ann,ann@dock.example\nQuay,Ben,ben@quay.example\n";
const look = (report: string, wish = {}) =>
  lookAtDraft(inputOf({ report: `split: Site\n${report}`, rows: ROWS, people: PEOPLE }), wish);
const FILES = 'files:\n  list:\n    name: "{{ group.key }}"\n    table: {}\n';
const MESSAGE =
  'message:\n  subject: "Visits of {{ group.key }}"\n  body: { text: "{{ count(line) }} visits" }\n  attach: [list]\n';

describe("a definition while it is written", () => {
  it("shows what every step does, all groups, and what one of them gets", () => {
    const found = look(`keep: Result = "failed" or Fee > 5\n${FILES}${MESSAGE}totals: { Fees: sum(line.fee) }\n`, {
      group: "Dock",
    });
    expect(found.problems).toEqual([]);
    expect(found.steps.map(({ kind, rowsIn, rowsOut }) => [kind, rowsIn, rowsOut])).toEqual([["keep", 4, 3]]);
    expect(
      found.groups.map(({ label, rows, people, nobody, totals }) => [label, rows, people, nobody, totals]),
    ).toEqual([
      ["Dock", 2, 1, undefined, { Fees: "15" }],
      ["Quay", 1, 1, undefined, { Fees: "20" }],
    ]);
    expect(found.parcel).toMatchObject({
      label: "Dock",
      cells: [
        ["Dock", 10, "passed"],
        ["Dock", 5, "failed"],
      ],
      files: [{ file: "list", kind: "xlsx", path: "Dock.xlsx" }],
      attachments: ["Dock.xlsx"],
      messages: [{ subject: "Visits of Dock", people: ["ann@dock.example"] }],
    });
  });

  it("shows one of middling size where none is named, or the named one is gone", () => {
    expect(look("").parcel?.rows).toBe(1);
    expect(look('keep: Site <> "Dock"', { group: "Dock" }).parcel?.label).not.toBe("Dock");
    expect(look("keep: Fee > 999")).toMatchObject({ parcel: undefined, groupCount: 0 });
  });

  it("lists the groups that are looked for, and says how many there are", () => {
    expect(look("", { search: "UA" })).toMatchObject({ groups: [{ label: "Quay" }], groupCount: 3 });
  });

  it("counts those that nobody receives for among all groups, not among those listed", () => {
    expect(look("", { search: "UA" }).groupsWithoutPeople).toBe(1);
    const sites = Array.from({ length: 700 }, (_, at) => `Site ${at},1,passed`);
    const many = inputOf({ report: "split: Site", rows: `Site,Fee,Result\n${sites.join("\n")}\n`, people: PEOPLE });
    const found = lookAtDraft(many);
    expect([found.groups.length, found.groupCount, found.groupsWithoutPeople]).toEqual([500, 700, 700]);
  });

  it("counts what each condition alone leaves out, and which rows, and says what is wrong with one", () => {
    const conditions = ['Result = "passed"', "Fee >= 10", "Fee >= 10 or Site = `x`", "Fe > 1", "Fee ("];
    const found = look('keep: Result = "passed"', { conditions }).conditions;
    expect(found.map(({ holds, leavesOut, trouble }) => [holds, leavesOut, trouble === undefined])).toEqual([
      [2, 2, true],
      [2, 2, true],
      [0, 0, false],
      [0, 0, false],
      [0, 0, false],
    ]);
    expect(found[0].rows).toEqual([
      { number: 3, cells: ["Quay", 20, "failed"] },
      { number: 4, cells: ["Dock", 5, "failed"] },
    ]);
    expect(found[3].trouble).toMatch(/Fe/);
    expect(look("").conditions).toEqual([]);
  });

  it("says how many messages would go out: to groups with people, or to each of them", () => {
    const people = `${PEOPLE}Dock,Zoe,zoe@dock.example\n`;
    const count = (more: string): number =>
      lookAtDraft(inputOf({ report: `split: Site\n${more}`, rows: ROWS, people })).messageCount;
    expect([count(""), count(FILES + MESSAGE), count(`${FILES}${MESSAGE}  each: person\n`)]).toEqual([0, 2, 3]);
  });

  it("takes totals called as columns are", () => {
    const rows = "Site,Fee (CHF),in\nDock,10,1\nDock,5,2\n";
    const report =
      "split: Site\ntotals: { Fee (CHF): sum(line.`Fee (CHF)`), in: sum(line.`in`), Fee-2: count(line) }\n";
    const found = lookAtDraft(inputOf({ report, rows, people: PEOPLE }));
    expect(found.problems).toEqual([]);
    expect(found.totals.map(({ name, master }) => [name, master])).toEqual([
      ["Fee (CHF)", "15"],
      ["in", "3"],
      ["Fee-2", "2"],
    ]);
  });

  it.each([
    ["a message", `${FILES}message:\n  subject: "{{ sitte }}"\n  body: { text: x }\n`, "sitte", 1],
    ["a file", `files:\n  list:\n    name: "{{ sitte }}"\n    table: {}\n`, "sitte", 0],
    ["a template that is not there", "files:\n  list:\n    name: x\n    template: gone.xlsx\n", "gone.xlsx", 0],
    ["a total", "totals: { Fees: sum(line.fea) }\n", "fea", 0],
    ["the column of addresses", "delivery: { to: { column: Mail } }\n", "Mail", 0],
  ])("with something wrong in %s shows all the rest, and says what", (_, report, what, files) => {
    const found = look(report, { group: "Dock" });
    expect(found.problems).toHaveLength(1);
    expect(`${found.problems[0].message} ${found.problems[0].where}`).toContain(what);
    expect(found.groups).toHaveLength(3);
    expect(found.parcel?.files).toHaveLength(files);
  });

  it("whose rows or groups cannot be made says that alone", () => {
    expect(() => look("keep: Fea > 1")).toThrow(/Fea/);
    const input = inputOf({ report: "split: Site", rows: ROWS });
    expect(() => lookAtDraft({ ...input, report: { ...input.report, split: "Sight" } as Report })).toThrow(/Sight/);
  });
});
