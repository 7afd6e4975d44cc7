import { describe, expect, it } from "vitest";
import { planOf } from "../../support/small-run.js";

const ROWS = "Site,Fee\nDock,0.1\nQuay,0.2\nDock,0.3\n,5\n";
const totals = (expressions: Readonly<Record<string, string>>, more = "", rows = ROWS, others = {}) =>
  planOf({
    report: `split: Site\n${more}totals:\n${Object.entries(expressions)
      .map(([name, expression]) => `  ${name}: ${expression}`)
      .join("\n")}`,
    rows,
    others,
  }).totals;

describe("control totals", () => {
  it("are exact, and come from the groups and the rows in none", () => {
    expect(totals({ Fees: "sum(line.fee)", Visits: "count(line)" })).toEqual([
      { name: "Fees", master: "5.6", parcels: "0.6", leftOut: "5", agrees: true },
      { name: "Visits", master: "4", parcels: "3", leftOut: "1", agrees: true },
    ]);
  });

  it("of what cannot be added up are told for all rows alone", () => {
    expect(totals({ Most: "max(line.fee)", Mean: "average(line.fee)", More: "sum(line.fee) + 100" })).toMatchObject([
      { name: "Most", master: "5", parcels: undefined, leftOut: "0", agrees: true },
      { name: "Mean", master: "1.4", parcels: undefined, agrees: true },
      { name: "More", master: "105.6", parcels: undefined, agrees: true },
    ]);
  });

  it("with a factor are sums like others", () => {
    expect(totals({ Gross: "sum(line.fee) * 1.1" })).toMatchObject([
      { master: "6.16", parcels: "0.66", leftOut: "5.5" },
    ]);
  });
});
