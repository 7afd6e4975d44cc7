/** The whole examples beside the demo, made as `corbix make` makes them, hold what their rows say. */
import { readdirSync, readFileSync } from "node:fs";
import { join } from "node:path";
import { fileURLToPath } from "node:url";
import { plainPeriods } from "@corbix/core/calendar";
import { parseReport } from "@corbix/core/report";
import { furtherOf, groupEnv, planRun, type RunFacts } from "@corbix/core/run";
import { loadTable } from "@corbix/core/table";
import { openFonts } from "@corbix/fonts";
import { describe, expect, it } from "vitest";
import { readDocumentElsewhere, readElsewhere, readPdf } from "../support/helpers.js";
import { problemsOf } from "../support/validate.js";
import { problemsOfDocument } from "../support/validate-document.js";

const examples = fileURLToPath(new URL("../../../demo/examples", import.meta.url));

function make(name: string, datasets: readonly string[], period?: string) {
  const folder = join(examples, name);
  const report = parseReport(readFileSync(join(folder, `${name}.yaml`), "utf8"), name);
  const tables = new Map(datasets.map((one) => [one, loadTable(readFileSync(join(folder, `${one}.csv`)), one).table]));
  const templates = new Map(
    readdirSync(join(folder, "templates")).map((file) => [file, readFileSync(join(folder, "templates", file))]),
  );
  const facts: RunFacts = {
    id: "x",
    date: 46_328,
    sender: "a@b.example",
    locale: "en-GB",
    ...(period ? { period: plainPeriods("month").parse(period) } : {}),
  };
  const table = tables.get(report.data);
  if (!table) throw new Error("no rows");
  const { plan, maker } = planRun({ report, table, others: tables, recipients: [], templates, facts });
  return new Map(
    plan.parcels.map(({ group, number, files }) => {
      const place = { number, count: plan.parcels.length, further: furtherOf(plan.further, group) };
      const env = groupEnv(plan.table, group, place, [], facts);
      const made = maker.make(env, [...new Set(files.map((one) => one.file))], openFonts(), facts);
      expect(made.findings.filter((one) => one.severity !== "note")).toEqual([]);
      for (const file of made.files)
        if (file.kind !== "pdf")
          expect((file.kind === "docx" ? problemsOfDocument : problemsOf)(file.bytes)).toEqual([]);
      return [group.label, made.files];
    }),
  );
}

describe("the examples", () => {
  it("the selector workbook shows each district its share of all, and carries nobody else's rows", () => {
    const made = make("district-share", ["visits"]);
    expect([...made.keys()]).toEqual(["Am Weißfeld", "Harbour", "St. Anne's", "Upper Mill"]);
    const fees: Record<string, number> = {};
    for (const line of readFileSync(join(examples, "district-share/visits.csv"), "utf8").trim().split("\n").slice(1)) {
      const [district, , , , fee] = line.split(",");
      fees[district] = (fees[district] ?? 0) + Number(fee);
    }
    const all = Object.values(fees).reduce((sum, fee) => sum + fee, 0);
    for (const [district, [workbook, pages]] of made) {
      expect(problemsOf(workbook.bytes)).toEqual([]);
      const line =
        "print(len(book.worksheets), book.active['B3'].value, book.active['C9'].value, book.active['D9'].value)";
      const [sheets, ...rest] = readElsewhere(workbook.bytes, line).split(" ");
      const [share, sum] = [Number(rest.pop()), Number(rest.pop())];
      expect([sheets, rest.join(" ")]).toEqual(["1", district]);
      expect(sum).toBeCloseTo(fees[district], 8);
      expect(share).toBeCloseTo(fees[district] / all, 10);
      const text = readPdf(pages.bytes, "pdftotext");
      for (const other of made.keys()) if (other !== district) expect(text).not.toContain(other);
    }
  });

  it("two datasets stand in one document, each group's own and of the month", () => {
    const made = make("site-costs", ["visits", "costs"], "2026-10");
    const text = (label: string) =>
      readDocumentElsewhere(made.get(label)?.[0].bytes as Uint8Array).filter((line) => line.trim() !== "");
    expect(text("Harbour House").slice(1)).toEqual([
      "3 inspections in October 2026, and costs of 680.40.",
      "Inspections",
      "unit|day|result|fee",
      "L1|05/10/2026|passed|120.00",
      "L2|12/10/2026|repaired|185.50",
      "E1|19/10/2026|failed|120.00",
      "Total|||425.50",
      "Costs",
      "kind|booked|amount",
      "door drive|12/10/2026|642.00",
      "travel|13/10/2026|38.40",
      "Total||680.40",
    ]);
    expect(text("Mill Arcade")).toContain("lamp|21/10/2026|12.80");
  });

  it("bills come from two related tables, each with its own items and payments", () => {
    const made = make("bills", ["items", "payments"]);
    const [bill, pages] = made.get("Harbour House Ltd") ?? [];
    const text = readDocumentElsewhere(bill.bytes).filter((line) => line.trim() !== "");
    expect(text).toEqual([
      "Bill R-101",
      "Harbour House Ltd",
      "Item|Hours|Price",
      "Yearly inspection L1|2.0|240.00",
      "Yearly inspection L2|2.0|240.00",
      "Together|4.0|480.00",
      "Payments",
      "Day|Paid",
      "20/10/2026|300.00",
      "28/10/2026|80.00",
      "Open: 100.00",
      "Bill R-102",
      "Harbour House Ltd",
      "Item|Hours|Price",
      "Door drive repaired|3.5|420.00",
      "Together|3.5|420.00",
      "Payments",
      "Nothing was paid yet.",
      "Open: 420.00",
    ]);
    expect(pages.pages).toBe(2);
  });
});
