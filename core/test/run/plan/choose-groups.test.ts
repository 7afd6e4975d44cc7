import { CorbixError } from "@corbix/core/common";
import { parseReport } from "@corbix/core/report";
import type { Group } from "@corbix/core/split";
import { describe, expect, it } from "vitest";
import { chooseGroups, missedBySelectors, rowsFound } from "../../../src/run/plan/choose-groups.js";
import { inputOf } from "../../support/small-run.js";

const table = {
  columns: [{ name: "Site", type: "text" as const, values: ["Dock", "Quay", "Dock", "Pier"] }],
  rowCount: 4,
  rowNumbers: [2, 3, 4, 7],
};
const group = (label: string, rows: number[], spellings = [label]): Group => ({
  key: label.toLowerCase(),
  label,
  spellings,
  rows,
});
const GROUPS = [group("Dock", [0, 2]), group("Quay", [1]), group("Pier", [3])];

describe("the groups of a run", () => {
  it("are all of them where nothing else is said", () => {
    const choice = chooseGroups(table, GROUPS, {});
    expect(choice).toEqual({ due: GROUPS, chosen: GROUPS, notChosen: [], goneRows: [], leftOut: [] });
  });

  it("are those that are named, the others told", () => {
    const { chosen, notChosen } = chooseGroups(table, GROUPS, { only: ["pier", "dock"] });
    expect(chosen.map(({ label }) => label)).toEqual(["Dock", "Pier"]);
    expect(notChosen.map(({ label }) => label)).toEqual(["Quay"]);
  });

  it("that are named but not there are refused, with a near name", () => {
    const choose = () => chooseGroups(table, GROUPS, { only: ["dock", "quai"] });
    expect(choose).toThrow(CorbixError);
    expect(choose).toThrow("Cannot find the group `quai`.");
  });

  it("lose rows that have gone out before, and go where none are left", () => {
    const delivered = (_: unknown, { label }: Group) =>
      new Map<number, string>(
        label === "Dock" ? [[0, "gone in run 1"]] : label === "Quay" ? [[1, "gone in run 2"]] : [],
      );
    const { due, goneRows, leftOut } = chooseGroups(table, GROUPS, { delivered });
    expect(due.map(({ label, rows }) => [label, rows])).toEqual([
      ["Dock", [2]],
      ["Pier", [3]],
    ]);
    expect(goneRows).toEqual([0, 1]);
    expect(leftOut.map(({ reason, count, rowNumbers }) => [reason, count, rowNumbers])).toEqual([
      ["gone in run 1", 1, [2]],
      ["gone in run 2", 1, [3]],
    ]);
  });

  it("named ones that have gone out already are none, and no mistake", () => {
    const delivered = () => new Map([[1, "gone"]]);
    const { chosen } = chooseGroups(table, [GROUPS[1]], { delivered, only: ["quay"] });
    expect(chosen).toEqual([]);
  });
});

describe("rows sent on from a search", () => {
  const input = inputOf({ report: "split: Site", rows: "Site\nDock\n" });

  it("are those of their numbers; the others are told with why", () => {
    const found = rowsFound(table, { ...input, onlyRows: { rowNumbers: new Set([3, 7]), why: "not in the search" } });
    expect(found.table.columns[0].values).toEqual(["Quay", "Pier"]);
    expect(found.leftOut).toMatchObject([{ reason: "not in the search", count: 2, rowNumbers: [2, 4] }]);
  });

  it("are all where nothing was searched", () => {
    expect(rowsFound(table, input)).toEqual({ table, leftOut: [] });
  });
});

describe("formulas that look for a group's name", () => {
  const report = (files: string) =>
    parseReport(`report: small\ntitle: Small\ndata: visits\nsplit: Site\n${files}`, "small.yaml");
  const withCells = report(
    'files:\n  book:\n    template: t.xlsx\n    name: "{{ group.key }}"\n    cells:\n      Sheet1!B1: "{{ group.key }}"',
  );
  const spelled = [group("Dock", [0, 2], ["Dock", "DOCK", "Dock West"]), group("Quay", [1], ["Quay", "QUAY"])];

  it("are told of groups written in several ways, not of those in several cases", () => {
    const found = missedBySelectors(spelled, withCells);
    expect(found.map(({ where, severity }) => [where, severity])).toEqual([["group Dock", "warn"]]);
    expect(found[0].what).toContain('"Dock", "DOCK", "Dock West"');
  });

  it("are none in reports without such cells", () => {
    expect(missedBySelectors(spelled, report(""))).toEqual([]);
  });
});
