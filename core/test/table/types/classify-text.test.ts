import { describe, expect, it } from "vitest";
import { classifyText } from "../../../src/table/types/classify-text.js";

const kind = (text: string) => {
  const { isCode, number, date, time, truth } = classifyText(text);
  return [
    isCode && "code",
    number && "number",
    date && "date",
    time !== undefined && "time",
    truth !== undefined && "truth",
  ].filter(Boolean);
};

describe("what a text could be", () => {
  it.each<[string, string[]]>([
    ["Dock", []],
    ["12", ["number"]],
    ["1", ["number", "truth"]],
    ["0", ["number", "truth"]],
    ["yes", ["truth"]],
    ["Nein", ["truth"]],
    ["x", ["truth"]],
    ["-", ["truth"]],
    ["0041", ["code"]],
    ["1234567890123456", ["code"]],
    ["0.5", ["number"]],
    ["2026-11-02", ["date"]],
    ["12:30", ["time"]],
    ["L1", []],
    ["Dock 12", []],
  ])("%s: %j", (text, kinds) => {
    expect(kind(text)).toEqual(kinds);
  });

  it("is asked of the text without blanks around it", () => {
    expect(classifyText("  12\u00a0").clean).toBe("12");
    expect(kind("  12\u00a0")).toEqual(["number"]);
  });

  it("is nothing of a long text, however many digits are in it", () => {
    expect(kind(`${"1".repeat(10)} ${"2".repeat(60)}`)).toEqual([]);
  });
});
