import { describe, expect, it } from "vitest";
import {
  entryNames,
  isColumnField,
  type Known,
  meant,
  optionsFor,
  optionText,
  takesMarks,
} from "../../../src/lib/report/choices.js";

const known: Known = {
  columns: ["Site", "Visit date"],
  datasets: ["visits", "site-costs"],
  templates: ["statement.xlsx"],
  identities: ["office"],
  files: ["statement"],
  places: [
    { kind: "table", name: "Visits", where: "Parts", headings: ["Unit", "Fee"] },
    { kind: "cell", name: "Summary!B2", where: "beside “Site”", headings: [] },
    { kind: "sheet", name: "Summary", where: "Summary", headings: [] },
    { kind: "bookmark", name: "list", where: "text", headings: [] },
  ],
};

describe("what a field can be filled with", () => {
  it.each([
    [["data"], known.datasets],
    [["prepare", 0, "bring", "from"], known.datasets],
    [["files", "statement", "template"], known.templates],
    [["delivery", "from"], known.identities],
    [
      ["message", "attach", 0],
      ["statement", "statement.pdf"],
    ],
    [["period", "column"], known.columns],
    [["delivery", "to", "name"], known.columns],
    // Those are the other dataset's.
    [["lines", "costs", "bring", 0, "columns", 1], []],
    [["files", "form", "sheetPer", "sheet"], ["Summary"]],
    [["title"], []],
  ])("at %j is %j", (path, options) => {
    expect(optionsFor(path, known)).toEqual(options);
  });

  it.each([
    [["files", "form", "cells"], ["Summary!B2, beside “Site”"]],
    [
      ["files", "form", "tables"],
      ["Visits, Parts", "Summary!B2, beside “Site”", "list, text"],
    ],
    [
      ["files", "form", "tables", "Visits", "fields"],
      ["Unit", "Fee"],
    ],
    [["files", "form", "tables", "list", "fields"], []],
    [["add"], []],
  ])("has entries named by the template at %j", (path, names) => {
    const options = entryNames(path, known);
    expect(options.map(({ text }) => text).sort()).toEqual([...names].sort());
    expect(options.every(({ value, text }) => text.startsWith(value))).toBe(true);
  });

  it("sorts by columns upwards and downwards, and says which", () => {
    expect(optionsFor(["sort", 0], known)).toEqual(["Site", "-Site", "Visit date", "-Visit date"]);
    expect(optionText(["sort", 0], "-Visit date")).toBe("Visit date, the greatest first");
    expect(optionText(["title"], "-Visit date")).toBe("-Visit date");
  });
});

describe("the column that a text means", () => {
  it.each([
    ["Visit date", "Visit date"],
    ["visit_date", "Visit date"],
    ["-visit_date", "-Visit date"],
    ["site", "Site"],
    ["sight", undefined],
    ["", undefined],
  ])("of %j is %j", (text, name) => {
    expect(meant(text, optionsFor(["sort", 0], known))).toBe(name);
  });

  it("is the one written so, where two are called alike", () => {
    expect(meant("visit_date", ["Visit date", "visit_date"])).toBe("visit_date");
  });

  it("is asked for fields of columns only", () => {
    expect([isColumnField(["split"]), isColumnField(["sort", 1]), isColumnField(["data"])]).toEqual([
      true,
      true,
      false,
    ]);
  });
});

describe("fields that take marks", () => {
  it.each([
    [["files", "list", "name"], true],
    [["files", "list", "cells", "Site!B2"], true],
    [["files", "list", "tables", "Visits", "fields", "Signed"], true],
    [["files", "list", "protect", "password"], true],
    [["files", "list", "table", "columns", 0, "heading"], false],
    [["files", "list", "template"], false],
    [["message", "attach", 0, "found"], true],
    [["delivery", "to", "name"], false],
    [["title"], false],
  ] as const)("%j: %s", (path, isMarked) => {
    expect(takesMarks([...path])).toBe(isMarked);
  });
});
