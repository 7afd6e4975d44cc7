import { CorbixError } from "@corbix/core/common";
import { type PrepareSpec, preparedColumns, prepareTable, type Step } from "@corbix/core/prepare";
import { parseReport } from "@corbix/core/report";
import { planRun } from "@corbix/core/run";
import { applyAliases, splitTable } from "@corbix/core/split";
import { loadTable, type Table } from "@corbix/core/table";
import { describe, expect, it } from "vitest";
import { type Draw, forAll } from "../support/for-all.js";

const table = (text: string): Table => loadTable(Buffer.from(text), "t.csv").table;
const context = { others: new Map<string, Table>(), today: 46_000, locale: "en-GB" };
const done = (source: Table, ...steps: PrepareSpec["prepare"] & object) =>
  prepareTable(source, { prepare: steps }, context);
const column = (source: Table, name: string) => {
  const found = source.columns.find((one) => one.name === name);
  if (!found) throw new Error(`no column ${name} among ${source.columns.map((one) => one.name).join(", ")}`);
  return found.values;
};
const failure = (work: () => unknown): CorbixError => {
  try {
    work();
  } catch (error) {
    if (error instanceof CorbixError) return error;
  }
  throw new Error("it went through");
};

const CHECKS = "Site,Jan,Feb,Mar\nDock,yes,no,yes\nQuay,no,no,no\nMill,yes,,yes\n";

describe("the steps of a preparation", () => {
  it("folds many columns into one text that names those that match", () => {
    const folded = done(table(CHECKS), {
      fold: { into: "months", columns: ["Jan", "Feb", "Mar"], where: 'value = "yes"', separator: " and ", drop: true },
    });
    expect(folded.table.columns.map((one) => one.name)).toEqual(["Site", "months"]);
    expect(column(folded.table, "months")).toEqual(["Jan and Mar", null, "Jan and Mar"]);
    const shown = done(table("Site,Jan,Feb\nDock,3,0\n"), {
      fold: { into: "hours", columns: ["Jan", "Feb"], where: "value > 0", show: 'name & " " & value' },
    });
    expect(column(shown.table, "hours")).toEqual(["Jan 3"]);
  });

  it("stacks many columns to rows, counts rows made and rows with nothing to stack", () => {
    const stacked = done(table("Site,Jan,Feb,Mar\nDock,1,2,3\nQuay,,,\nMill,,5,\n"), {
      stack: { columns: ["Jan", "Feb", "Mar"], name: "month", value: "hours" },
    });
    expect(column(stacked.table, "Site")).toEqual(["Dock", "Dock", "Dock", "Mill"]);
    expect(column(stacked.table, "month")).toEqual(["Jan", "Feb", "Mar", "Feb"]);
    expect(column(stacked.table, "hours")).toEqual([1, 2, 3, 5]);
    expect(stacked.made).toBe(2);
    expect(stacked.leftOut).toEqual([{ reason: "nothing to stack", count: 1, rowNumbers: [3] }]);
    const mixed = done(table("Site,A,B\nDock,1,x\n"), { stack: { columns: ["A", "B"], name: "n", value: "v" } });
    expect(column(mixed.table, "v")).toEqual(["1", "x"]);
  });

  it("replaces values by a written list and by a dataset, and names what never occurred", () => {
    const source = table("Site,Result\nDock, OK \nQuay,n/a\nMill,bad\n");
    const replaced = done(source, { replace: { column: "result", list: { ok: "pass", "N/A": "", poor: "fail" } } });
    expect(column(replaced.table, "Result")).toEqual(["pass", null, "bad"]);
    expect(replaced.findings[0].what).toContain('"poor"');
    const codes = table("Code,Label\nok,in order\nbad,not in order\n");
    const listed = prepareTable(
      source,
      { prepare: [{ replace: { column: "Result", from: "codes", match: "code", take: "label" } }] },
      { ...context, others: new Map([["codes", codes]]) },
    );
    expect(column(listed.table, "Result")).toEqual(["in order", "n/a", "not in order"]);
  });

  it("keeps the first or last row per key, in an order, and drops doubles", () => {
    const source = table(
      "Site,Day,Fee\nDock,2026-01-05,1\ndock ,2026-03-01,2\nQuay,2026-02-01,3\nDock,2026-02-01,4\nQuay,2026-02-01,3\n",
    );
    const last = done(source, { last: { per: ["site"], by: ["day"] } });
    expect(column(last.table, "Fee")).toEqual([2, 3]);
    expect(last.leftOut[0]).toMatchObject({ count: 3, reason: "not the last per site" });
    expect(column(done(source, { first: { per: ["site"] } }).table, "Fee")).toEqual([1, 3]);
    expect(column(done(source, { first: { per: ["site"], by: ["-fee"] } }).table, "Fee")).toEqual([3, 4]);
    expect(column(done(source, { distinct: [] }).table, "Fee")).toEqual([1, 2, 3, 4]);
    expect(done(source, { distinct: ["Site"] }).leftOut[0]).toMatchObject({ count: 3, rowNumbers: [3, 5, 6] });
  });

  it("brings columns by several keys, and leaves out rows without a partner where one is needed", () => {
    const rates = table("Kind,Year,Rate\ngoods,2026,90\npassenger,2026,80\n");
    const source = table("Kind,Year,Hours\nGoods,2026,1\npassenger,2025,2\n");
    const bring = { from: "rates", match: { kind: "kind", year: "year" }, columns: ["rate"] };
    const others = new Map([["rates", rates]]);
    const kept = prepareTable(source, { bring: [bring] }, { ...context, others });
    expect(column(kept.table, "rate")).toEqual([90, null]);
    const needed = prepareTable(
      source,
      { prepare: [{ bring: { ...bring, partner: "needed" } }] },
      { ...context, others },
    );
    expect(needed.table.rowCount).toBe(1);
    expect(needed.leftOut).toEqual([{ reason: "without a partner in rates", count: 1, rowNumbers: [3] }]);
  });

  it("does steps in the order written, several of a kind, and says of each rows in and out", () => {
    const { table: result, steps } = done(
      table("Site,Hours\nDock,2\nQuay,0\nMill,5\n"),
      { add: { fee: "hours * 10" } },
      { keep: "fee > 0" },
      { add: { tax: "round(fee * 8.1%, 2)" } },
      { sort: ["-tax"] },
    );
    expect(steps.map((step) => [step.kind, step.rowsIn, step.rowsOut])).toEqual([
      ["add", 3, 3],
      ["keep", 3, 2],
      ["add", 2, 2],
      ["sort", 2, 2],
    ]);
    expect(column(result, "Site")).toEqual(["Mill", "Dock"]);
    expect(steps[2].columnsAdded).toEqual(["tax"]);
  });

  it("gives an added column the type its values have", () => {
    const { table: result } = done(table("Site,Hours\nDock,2\nQuay,\n"), {
      add: { a: 'if(hours > 1, hours * 2, "none")', b: "if(hours > 1, hours, 0)" },
    });
    expect(result.columns.slice(2).map((one) => [one.type, one.values])).toEqual([
      ["text", ["4", "none"]],
      ["number", [2, 0]],
    ]);
  });

  it.each<[string, Step, string]>([
    ["an unknown column", { sort: ["hour"] }, 'Did you mean "Hours"?'],
    [
      "an unknown column in a fold",
      { fold: { into: "x", columns: ["hour"], where: "value > 1", separator: ", ", drop: false } },
      'Did you mean "Hours"?',
    ],
    ["a name that is taken", { add: { hours: "1" } }, "Choose another name."],
    ["a misspelt name in an expression", { keep: "hurs > 1" }, 'Did you mean "Hours"?'],
    [
      "an unknown dataset",
      { bring: { from: "rates", match: { site: "site" }, columns: ["rate"], partner: "may-lack" } },
      "The datasets there are: none.",
    ],
    ["a list that is missing", { replace: { column: "site" } }, "Give a list"],
  ])("refuses %s before there is data, with the step and what to do", (_, step, advice) => {
    const source = table("Site,Hours\nDock,2\n");
    const error = failure(() => preparedColumns(source.columns, { prepare: [{ keep: "hours > 0" }, step] }, new Map()));
    expect(error.where ?? error.message).toContain("step 2");
    expect(error.advice).toContain(advice);
  });

  it("refuses a step with two keys or none when the report is read", () => {
    const report = (step: string) => `report: a\ntitle: A\ndata: t\nsplit: site\nprepare:\n  - ${step}\n`;
    expect(failure(() => parseReport(report("{ keep: a = 1, sort: [a] }"), "r")).code).toBe("BAD_DEFINITION");
    expect(failure(() => parseReport(report("{ melt: [a] }"), "r")).code).toBe("BAD_DEFINITION");
  });
});

describe("rows and money, for any table and any preparation", () => {
  const pickFrom =
    (random: Draw) =>
    <T>(list: readonly T[]): T =>
      list[random(list.length)];

  function drawTable(random: Draw): Table {
    const pick = pickFrom(random);
    const lines = Array.from({ length: 1 + random(60) }, () =>
      [
        pick(["Dock", "dock ", "Quay", "", "Mill", "Weir"]),
        pick(["pass", "fail", "", "n/a"]),
        pick(["", String(random(100_000) / 100)]),
        pick(["", String(random(500))]),
        String(random(1_000_000) / 100),
      ].join(","),
    );
    return table(`Site,Result,Jan,Feb,Fee\n${lines.join("\n")}\nLast,pass,1,2,3\n`);
  }

  function drawSteps(random: Draw): Step[] {
    const pick = pickFrom(random);
    const kinds: (() => Step)[] = [
      () => ({ keep: pick(["fee > 100", 'result <> "fail"', 'site <> "" and fee >= 5', "fee < 0"]) }),
      () => ({ replace: { column: "result", list: { fail: "pass", "n/a": "" } } }),
      () => ({ sort: [pick(["site", "-fee", "result"])] }),
      () => ({ first: { per: [pick(["site", "result"])], by: ["fee"] } }),
      () => ({ last: { per: ["site", "result"] } }),
      () => ({ distinct: pick([[], ["site"], ["result", "site"]]) }),
    ];
    const steps = Array.from({ length: random(5) }, () => pick(kinds)());
    // Stacking takes its columns away, so it comes once.
    if (random(2) === 0)
      steps.splice(random(steps.length + 1), 0, {
        stack: { columns: ["Jan", "Feb"], name: "month", value: "hours", blanks: pick(["left-out", "kept"] as const) },
      });
    return steps;
  }

  it("rows in + rows made = rows in groups + rows left out, and totals agree to the cent", () => {
    forAll(250, (random) => {
      const source = drawTable(random);
      const prepare = drawSteps(random);
      const aliases = pickFrom(random)([[], [{ column: "Site", from: "Weir", to: "Quay" }]]);
      const prepared = prepareTable(applyAliases(source, aliases), { prepare }, context);
      for (const step of prepared.steps) {
        const left = step.leftOut.reduce((sum, one) => sum + one.count, 0);
        expect(step.rowsIn + step.made).toBe(step.rowsOut + left);
      }
      const report = parseReport(
        JSON.stringify({
          report: "any",
          title: "Any",
          data: "t",
          prepare,
          split: "site",
          totals: { fees: "sum(line.fee)" },
        }),
        "any",
      );
      const { plan } = planRun({
        report,
        table: source,
        others: new Map(),
        recipients: [],
        templates: new Map(),
        facts: { id: "x", date: 46_000, sender: "a@b.example", locale: "en-GB" },
        aliases,
      });
      const left = plan.rows.leftOut.reduce((sum, one) => sum + one.count, 0);
      expect(plan.rows.master + (plan.rows.made ?? 0)).toBe(plan.rows.inGroups + left);
      expect(plan.findings.filter((one) => one.severity === "stop" && one.code !== "no-groups")).toEqual([]);
      // The oracle counts in whole cents.
      const cents = (values: readonly unknown[]): number =>
        values.reduce<number>((sum, one) => sum + Math.round(Number(one ?? 0) * 100), 0);
      const fees = cents(column(prepared.table, "Fee"));
      expect(Math.round(Number(plan.totals[0].master) * 100)).toBe(fees);
      expect(Number(plan.totals[0].parcels) * 100 + Number(plan.totals[0].leftOut) * 100).toBeCloseTo(fees, 4);
    });
  });

  it("every row of a split is in exactly one group, or has a blank key", () => {
    forAll(100, (random) => {
      const source = drawTable(random);
      const { groups, blankRows } = splitTable(source, pickFrom(random)([["site"], ["site", "result"], ["fee"]]));
      const all = [...groups.flatMap((group) => group.rows), ...blankRows].sort((a, b) => a - b);
      expect(all).toEqual([...source.rowNumbers.keys()]);
    });
  });
});
