import { parseField } from "@corbix/core/expression";
import { describe, expect, it } from "vitest";
import { mergeFieldMark } from "../../../src/document/template/merge-fields.js";

describe("merge fields of old templates", () => {
  it.each([
    ["MERGEFIELD Site", "`Site`"],
    [" mergefield  Site ", "`Site`"],
    ['MERGEFIELD "Site name"', "`Site name`"],
    ["MERGEFIELD Site \\* Upper", "upper(`Site`)"],
    ["MERGEFIELD Site \\* lower \\* MERGEFORMAT", "lower(`Site`)"],
    ["MERGEFIELD Site \\* Caps", "proper(`Site`)"],
    ["MERGEFIELD Site \\* FirstCap", "upper(left(`Site`, 1)) & mid(`Site`, 2, 9999)"],
    ["MERGEFIELD Site \\* MERGEFORMAT", "`Site`"],
    ['MERGEFIELD Day \\@ "d MMMM yyyy"', '`Day` as "d mmmm yyyy"'],
    ['MERGEFIELD Day \\@ "h:mm am/pm"', '`Day` as "h:mm AM/PM"'],
    ["MERGEFIELD Fee \\# #,##0.00", '`Fee` as "#,##0.00"'],
    ['MERGEFIELD Fee \\b "CHF "', 'if(isblank(`Fee`), "", "CHF " & `Fee` & "")'],
    ['MERGEFIELD Fee \\f " due" \\# 0.00', 'if(isblank(`Fee`), "", "" & text(`Fee`, "0.00") & " due")'],
  ])("%s is the mark %s", (instruction, mark) => {
    expect(mergeFieldMark(instruction)).toBe(mark);
    expect(() => parseField(mark)).not.toThrow();
  });

  it.each(["PAGE", "MERGEFIELD", "", "MERGEREC"])("%j is none", (instruction) => {
    expect(mergeFieldMark(instruction)).toBeUndefined();
  });

  it("a switch without its word changes nothing", () => {
    expect(mergeFieldMark("MERGEFIELD Site \\*")).toBe("`Site`");
  });
});
