import { isoFromSerial } from "@corbix/core/common";
import { describe, expect, it } from "vitest";
import { readWrittenDate, readWrittenTime } from "../../../src/table/types/read-date.js";

const both = (text: string) => {
  const read = readWrittenDate(text);
  return read && [read.order, isoFromSerial(read.dayFirst), isoFromSerial(read.monthFirst)];
};

describe("days as people write them", () => {
  it.each([
    ["2026-11-02", "sure"],
    ["2026/11/2", "sure"],
    ["2.11.2026", "day-first"],
    ["2 Nov 2026", "sure"],
    ["2nd of November 2026", "sure"],
    ["Mon, 2 Nov 2026", "sure"],
    ["2. November 2026", "sure"],
    ["2 novembre 2026", "sure"],
    ["2 listopada 2026", "sure"],
    ["Nov 2, 2026", "sure"],
    ["November 2nd, 2026", "sure"],
    ["2-Nov-26", "sure"],
    ["2.11.26", "day-first"],
  ])("%s is the second of November", (text, order) => {
    expect(both(text)).toEqual([order, "2026-11-02", "2026-11-02"]);
  });

  it("whose day and month could change places say so", () => {
    expect(both("2/11/2026")).toEqual(["either", "2026-11-02", "2026-02-11"]);
    expect(both("25/11/2026")).toEqual(["day-first", "2026-11-25", "2026-11-25"]);
    expect(both("11/25/2026")).toEqual(["month-first", "2026-11-25", "2026-11-25"]);
    expect(both("11/11/2026")).toEqual(["sure", "2026-11-11", "2026-11-11"]);
  });

  it("have their time, and tell a zone", () => {
    expect(readWrittenDate("2026-11-02T18:00:00Z")).toMatchObject({
      dayFirst: 46_328.75,
      hasTime: true,
      hasZone: true,
    });
    expect(readWrittenDate("2 Nov 2026, 6:00 pm")).toMatchObject({
      dayFirst: 46_328.75,
      hasTime: true,
      hasZone: false,
    });
    expect(readWrittenDate("2026-11-02 18:00+01:00")).toMatchObject({ hasZone: true });
    expect(readWrittenDate("2026-11-02")).toMatchObject({ hasTime: false });
  });

  it("of two digits of a year are of 1970 to 2069", () => {
    expect([both("1.1.69")?.[1], both("1.1.70")?.[1]]).toEqual(["2069-01-01", "1970-01-01"]);
  });

  it.each([
    "31.11.2026",
    "2026-02-29",
    "2026-13-01",
    "0026-11-02",
    "1887-05-01",
    "2 Foo 2026",
    "2/11-2026",
    "2.11.2026 25:00",
    "2026-11",
    "32/1/2026",
    "Dock 2026",
  ])("%s is none", (text) => {
    expect(readWrittenDate(text)).toBeUndefined();
  });
});

describe("times of day", () => {
  it.each([
    ["18:00", 0.75],
    ["18:00:36", 0.75 + 36 / 86_400],
    ["6:00 pm", 0.75],
    ["12:00 a.m.", 0],
    ["12:00 PM", 0.5],
    ["18:00Z", 0.75],
  ])("%s is %d of the day", (text, share) => {
    expect(readWrittenTime(text)).toBeCloseTo(share, 9);
  });

  it.each(["24:00", "12:60", "13:00 pm", "0:30 am", "12", "12:5", "noon"])("%s is none", (text) => {
    expect(readWrittenTime(text)).toBeUndefined();
  });
});
