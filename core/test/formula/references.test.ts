import { describe, expect, it } from "vitest";
import {
  readReference,
  referenceOf,
  sheetsOf,
  tableReferenceOf,
  writeReference,
} from "../../src/formula/references.js";

describe("references", () => {
  it("keep their sheet and their cells", () => {
    expect(referenceOf("'Visits 26'!$B$2:C9")).toMatchObject({
      sheet: "Visits 26",
      single: false,
      range: { top: 1, left: 1, bottom: 8, right: 2, $top: true, $left: true },
    });
    expect(referenceOf("B2")).toMatchObject({ sheet: undefined, single: true });
    expect(referenceOf("B2:B2")?.single).toBe(false);
  });

  it.each(["[1]Visits!B2", "Fee", "1+1", "Visits[Fee]", ""])("%j is none within the workbook", (text) => {
    expect(referenceOf(text)).toBeUndefined();
  });

  it.each(["B2", "$B$2:C9", "B:C", "2:7", "Visits!B2", "'Visits 26'!$B2", "'O''Brien'!A1:B2"])(
    "%s is written as it was read",
    (text) => {
      const read = readReference(text);
      expect(writeReference(read?.range as NonNullable<typeof read>["range"] & object, read?.sheetName)).toBe(text);
    },
  );

  it("to tables name their headings and parts", () => {
    expect(tableReferenceOf("Visits[[#This Row],[Fee]]")).toEqual({
      table: "Visits",
      columns: ["Fee"],
      sections: ["this row"],
    });
    expect(tableReferenceOf("Visits[[Fee]:[Tax]]")).toMatchObject({ columns: ["Fee", "Tax"], sections: [] });
    expect(tableReferenceOf("[@Fee]")).toMatchObject({ table: undefined, columns: ["Fee"], sections: ["this row"] });
    expect(tableReferenceOf("Visits[#Totals]")).toMatchObject({ columns: [], sections: ["totals"] });
    expect(tableReferenceOf("[1]!Visits[Fee]")).toBeUndefined();
  });

  it("over sheets name the first and the last", () => {
    expect(sheetsOf("Jan:Mar!B2")).toEqual({ from: "Jan", to: "Mar", rest: "B2" });
    expect(sheetsOf("'Jan 26:O''Brien'!B2:C3")).toEqual({ from: "Jan 26", to: "O'Brien", rest: "B2:C3" });
    expect(sheetsOf("Jan!B2:C3")).toBeUndefined();
    expect(sheetsOf("B2:C3")).toBeUndefined();
  });
});
