import { parseReport } from "@corbix/core/report";
import { planRun } from "@corbix/core/run";
import { loadTable } from "@corbix/core/table";
import { describe, expect, it } from "vitest";

const { table } = loadTable(Buffer.from("site,fee\nDock,1\nQuay,2\n"), "t.csv");
const plan = (way: string) =>
  planRun({
    report: parseReport(
      `report: a\ntitle: A\ndata: t\nsplit: site\nfiles: { rows: { name: x, list: { form: delimited } } }\nwaysOut: { share: ${way} }\n`,
      "r",
    ),
    table,
    others: new Map(),
    recipients: [],
    templates: new Map(),
    facts: { run: "r", date: 46_328, locale: "en-GB" } as never,
  }).plan.parcels.map(({ ways }) => ways[0]?.files.map(({ to }) => to));

describe("places on a way out", () => {
  it("are told apart by numbers, but not where files are written over: there names have to differ", () => {
    expect(plan("{}")).toEqual([["x.csv"], ["x (2).csv"]]);
    expect(plan('{ folder: "{{ site }}", over: true }')).toEqual([["Dock/x.csv"], ["Quay/x.csv"]]);
    expect(() => plan("{ over: true }")).toThrow(
      'Cannot write over what is there: more than one file of the run would be "x.csv".',
    );
  });
});
