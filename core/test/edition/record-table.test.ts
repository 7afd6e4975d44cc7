import { keyOfRecord, recordTable } from "@corbix/core/edition";
import { type ColumnInfo, maybeJsonValue } from "@corbix/core/table";
import { describe, expect, it } from "vitest";

const COLUMNS: readonly ColumnInfo[] = [
  { name: "Training no", type: "text" },
  { name: "Held on", type: "date" },
  { name: "Fee", type: "number" },
  { name: "Paid", type: "boolean" },
  { name: "Name", type: "text" },
];
const rows = (json: string, lines?: string) => {
  const { columns } = recordTable([maybeJsonValue(json) as never], COLUMNS, lines);
  return Object.fromEntries(columns.map(({ name, values }) => [name, values]));
};
const refusal = (json: string, lines?: string): string => {
  try {
    rows(json, lines);
  } catch (error) {
    const { message, where, advice } = error as { message: string; where: string; advice: string };
    return `${where} | ${message} | ${advice}`;
  }
  throw new Error("nothing was refused");
};

describe("a record", () => {
  it("has the dataset's columns and types, whatever its fields look like, and further ones beside them", () => {
    expect(
      rows(
        '{ "training_no": 7, "heldOn": "x", "held_on": "2026-11-12T09:00:00+01:00", "fee": "12.5", "paid": "yes", "room": "Hall 1" }',
      ),
    ).toEqual({
      "Training no": ["7"],
      "Held on": [46338],
      Fee: [12.5],
      Paid: [true],
      Name: [null],
      heldOn: ["x"],
      room: ["Hall 1"],
    });
  });

  it("has a line for each entry of the list inside, with its own fields beside; fields inside of others are fields", () => {
    const json =
      '{ "training_no": "T", "site": { "town": "Aldmoor" }, "tags": ["a", "b"], "people": [{ "name": "Ann" }, { "name": "Ben", "room": 2 }] }';
    expect(rows(json)).toMatchObject({
      "Training no": ["T", "T"],
      Name: ["Ann", "Ben"],
      "site.town": ["Aldmoor", "Aldmoor"],
      tags: ["a, b", "a, b"],
      room: [null, 2],
    });
    expect(rows('{ "training_no": "T", "people": [] }', "people")).toMatchObject({
      "Training no": ["T"],
      Name: [null],
    });
  });

  it("of two lists needs to know which, and is told how to say so", () => {
    const two = '{ "people": [{ "name": "Ann" }], "units": [{ "unit": "L1" }] }';
    expect(refusal(two)).toMatch(/^record 1 \| .*people.*units.* \| Name the one in the report: records, lines\.$/);
    expect(rows(two, "People")).toMatchObject({ Name: ["Ann"] });
  });

  it("keeps long ids whole, and refuses a number that has more digits than can be kept", () => {
    expect(rows('{ "training_no": 12345678901234567890 }')["Training no"]).toEqual(["12345678901234567890"]);
    expect(refusal('{ "fee": 1234567890123456789 }')).toContain("expected a number of up to 15 digits");
    expect(refusal('{ "fee": "12,5" }')).toMatch(/^record 1 \| Cannot read `12,5` in the field Fee, expected a number/);
    expect(refusal('{ "people": [{ "fee": 1 }, { "fee": true }] }')).toMatch(/^record 1, line 2 \| Cannot read `true`/);
  });

  it("is told from others by columns that have one value in it", () => {
    const table = recordTable([{ training_no: "T-1", people: [{ name: "Ann" }, { name: "Ben" }] }], COLUMNS, undefined);
    expect(keyOfRecord(table, ["training_no"], "record 1")).toBe("T-1");
    expect(() => keyOfRecord(table, ["name"], "record 1")).toThrow("its field name has several values");
    expect(() => keyOfRecord(table, ["fee"], "record 1")).toThrow("its field fee is blank");
  });
});
