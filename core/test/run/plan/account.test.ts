import { describe, expect, it } from "vitest";
import { accountFindings, mergeReasons } from "../../../src/run/plan/account.js";

const left = (reason: string, count: number, rowNumbers: number[]) => ({ reason, count, rowNumbers });
const total = (name: string, agrees: boolean) => ({ name, master: "10", parcels: "7", leftOut: "2", agrees });
const rows = {
  master: 10,
  inGroups: 7,
  leftOut: [left("without Site", 2, [3, 9]), left("outside of the period", 1, [5])],
};

describe("rows left out", () => {
  it("for one reason are told together, with the first of their numbers", () => {
    const many = Array.from({ length: 150 }, (_, at) => at);
    expect(mergeReasons([left("a", 2, [1, 2]), left("b", 1, [7]), left("a", 3, [4, 5, 6])])).toEqual([
      left("a", 5, [1, 2, 4, 5, 6]),
      left("b", 1, [7]),
    ]);
    expect(mergeReasons([left("a", 150, many), left("a", 150, many)])[0]).toMatchObject({ count: 300 });
    expect(mergeReasons([left("a", 150, many), left("a", 150, many)])[0].rowNumbers).toHaveLength(100);
  });
});

describe("the account of a run", () => {
  it("says nothing where it comes out, also with rows that were made", () => {
    expect(accountFindings(rows, [total("Fees", true)], [1], false)).toEqual([]);
    expect(accountFindings({ ...rows, made: 5, inGroups: 12 }, [], [1], false)).toEqual([]);
  });

  it.each([
    ["a row less in the groups", { ...rows, inGroups: 6 }, "10 rows came in, but 6 are in groups and 3 left out."],
    ["a row more", { ...rows, inGroups: 8 }, "10 rows came in, but 8 are in groups and 3 left out."],
    [
      "rows made and lost",
      { ...rows, made: 4 },
      "10 rows came in and 4 were made, but 7 are in groups and 3 left out.",
    ],
  ])("stops with %s", (_, account, what) => {
    expect(accountFindings(account, [], [1], false)).toMatchObject([
      { code: "rows-do-not-add-up", severity: "stop", what },
    ]);
  });

  it("stops with each total that does not come out, and without any group", () => {
    const found = accountFindings(
      rows,
      [total("Fees", false), total("Visits", true), total("Hours", false)],
      [],
      false,
    );
    expect(found.map(({ code, severity, where }) => [code, severity, where])).toEqual([
      ["total-does-not-add-up", "stop", "total Fees"],
      ["total-does-not-add-up", "stop", "total Hours"],
      ["no-groups", "stop", "rows"],
    ]);
    const quiet = accountFindings({ ...rows, inGroups: 0, master: 3 }, [], [], true);
    expect(quiet.map(({ code, severity }) => `${severity} ${code}`)).toEqual(["note nothing-to-send"]);
    expect(found[0].what).toBe("Fees is 10 in the master, but 7 in the parcels and 2 left out.");
  });
});
