/** Three whole examples: a selector workbook, a report of two datasets, and bills from two related tables. */
import { mkdirSync, writeFileSync } from "node:fs";
import {
  Bookmark,
  Document,
  HeadingLevel,
  Packer,
  Paragraph,
  Table,
  TableCell,
  TableRow,
  TextRun,
  WidthType,
} from "docx";
import ExcelJS from "exceljs";

const TEAL = "FF0F5C5C";

/** Writes `examples/<name>/<file>` below a folder. */
function writer(folder, name) {
  const base = new URL(`examples/${name}/`, folder);
  mkdirSync(new URL("templates/", base), { recursive: true });
  return (file, content) => writeFileSync(new URL(file, base), content);
}

const csv = (rows) => `${rows.map((row) => row.join(",")).join("\n")}\n`;

export async function makeExamples(folder) {
  await selector(writer(folder, "district-share"));
  await twoDatasets(writer(folder, "site-costs"));
  await bills(writer(folder, "bills"));
}

const DISTRICTS = ["Am Weißfeld", "Harbour", "St. Anne's", "Upper Mill"];

/** A workbook whose first sheet follows one cell, and looks everything up in a sheet with the rows of all. */
async function selector(write) {
  const rows = DISTRICTS.flatMap((district, at) =>
    ["01", "02", "03"].flatMap((month, index) =>
      ["passed", "repaired", "failed"].map((result, kind) => [
        district,
        `2026-${month}-${String(5 + at + kind).padStart(2, "0")}`,
        result,
        (at + 2) * (index + 1) + kind,
        ((at + 1) * 90 + index * 45 + kind * 12.5).toFixed(2),
      ]),
    ),
  );
  write("visits.csv", csv([["District", "Day", "Result", "Visits", "Fee"], ...rows]));
  const book = new ExcelJS.Workbook();
  const sheet = book.addWorksheet("Summary", { views: [{ showGridLines: false }] });
  sheet.getColumn(1).width = 30;
  for (const column of [2, 3, 4]) sheet.getColumn(column).width = 18;
  sheet.getCell("A1").value = "Inspections of a district";
  sheet.getCell("A1").font = { bold: true, size: 16, color: { argb: TEAL } };
  sheet.getCell("A3").value = "District";
  sheet.getCell("B3").value = "choose";
  book.definedNames.add("Summary!$B$3", "District");
  const head = ["Result", "Visits", "Fees", "Share of all fees"];
  head.forEach((text, at) => {
    const cell = sheet.getCell(5, at + 1);
    cell.value = text;
    cell.font = { bold: true, color: { argb: "FFFFFFFF" } };
    cell.alignment = { horizontal: at === 0 ? "left" : "right" };
    cell.fill = { type: "pattern", pattern: "solid", fgColor: { argb: TEAL } };
  });
  ["passed", "repaired", "failed"].forEach((result, at) => {
    const row = 6 + at;
    sheet.getCell(`A${row}`).value = result;
    sheet.getCell(`B${row}`).value = { formula: `SUMIFS(Visits[Visits],Visits[District],$B$3,Visits[Result],A${row})` };
    sheet.getCell(`C${row}`).value = { formula: `SUMIFS(Visits[Fee],Visits[District],$B$3,Visits[Result],A${row})` };
    sheet.getCell(`D${row}`).value = { formula: `C${row}/SUM(Visits[Fee])` };
  });
  sheet.getCell("A9").value = "Together";
  for (const column of ["B", "C", "D"]) sheet.getCell(`${column}9`).value = { formula: `SUM(${column}6:${column}8)` };
  sheet.getRow(9).font = { bold: true };
  for (let row = 6; row <= 9; row++) {
    sheet.getCell(`C${row}`).numFmt = "#,##0.00";
    sheet.getCell(`D${row}`).numFmt = "0.0%";
  }
  const data = book.addWorksheet("Data");
  data.addTable({
    name: "Visits",
    ref: "A1",
    columns: ["District", "Day", "Result", "Visits", "Fee"].map((name) => ({ name })),
    rows: [["a sample", "2026-01-01", "passed", 1, 1]],
  });
  write("templates/share.xlsx", new Uint8Array(await book.xlsx.writeBuffer()));
  write(
    "district-share.yaml",
    `report: district-share
title: Share of each district
data: visits
split: district
totals: { fees: sum(line.fee) }
files:
  share:
    template: share.xlsx
    name: "{{ group.key }}"
    cells: { District: "{{ group.key }}" }      # the one cell that all formulas follow
    tables: { Visits: { lines: all } }          # the rows of all districts, so that shares are of the whole
    values: true                                # what leaves holds figures only,
    sheets: [Summary]                           # and not the sheet with everybody's rows
    pdf: too
`,
  );
}

const cell = (text, bold = false) =>
  new TableCell({
    margins: { left: 80, right: 80, top: 40, bottom: 40 },
    children: [new Paragraph({ children: [new TextRun({ text, bold })] })],
  });
const heading = (text) =>
  new Paragraph({ text, heading: HeadingLevel.HEADING_2, spacing: { before: 320, after: 120 } });
const place = (id) => new Paragraph({ children: [new Bookmark({ id, children: [new TextRun(" ")] })] });

/** A document with the rows of one dataset at one bookmark and those of another at the next. */
async function twoDatasets(write) {
  write(
    "visits.csv",
    csv([
      ["site", "unit", "day", "result", "fee"],
      ["Harbour House", "L1", "2026-10-05", "passed", "120.00"],
      ["Harbour House", "L2", "2026-10-12", "repaired", "185.50"],
      ["Harbour House", "E1", "2026-10-19", "failed", "120.00"],
      ["Mill Arcade", "L7", "2026-10-07", "passed", "95.00"],
      ["Mill Arcade", "L8", "2026-10-21", "passed", "95.00"],
    ]),
  );
  write(
    "costs.csv",
    csv([
      ["place", "booked", "kind", "amount"],
      ["Harbour House", "2026-10-12", "door drive", "642.00"],
      ["Harbour House", "2026-10-13", "travel", "38.40"],
      ["Harbour House", "2026-09-02", "rope", "310.00"],
      ["mill arcade ", "2026-10-21", "lamp", "12.80"],
      ["Quay Offices", "2026-10-08", "travel", "21.00"],
    ]),
  );
  const document = new Document({
    sections: [
      {
        children: [
          new Paragraph({ text: "{{ site }}", heading: HeadingLevel.TITLE }),
          new Paragraph(
            '{{ count(line) }} inspections in {{ period.label }}, and costs of {{ sum(costs.amount) as "#,##0.00" }}.',
          ),
          heading("Inspections"),
          place("Inspections"),
          heading("Costs"),
          place("Costs"),
        ],
      },
    ],
  });
  write("templates/costs.docx", await Packer.toBuffer(document));
  write(
    "site-costs.yaml",
    `report: site-costs
title: Inspections and costs of a site
data: visits
period: { column: day, every: month }
split: site
lines:
  costs:                                        # further lines of each site
    data: costs
    match: { site: place }                      # a cost belongs to the site it names
    period: booked                              # of the same month
    sort: [-amount]
totals: { fees: sum(line.fee), costs: sum(costs.amount) }
files:
  report:
    template: costs.docx
    name: "{{ site }} {{ period.key }}"
    tables:
      Inspections: { columns: [unit, { column: day, format: dd/mm/yyyy }, result, { column: fee, format: "#,##0.00", total: sum }] }
      Costs: { lines: costs, columns: [kind, { column: booked, format: dd/mm/yyyy }, { column: amount, format: "#,##0.00", total: sum }] }
    pdf: too
`,
  );
}

/** One bill for each number in the rows, with what was paid of it in another table. */
async function bills(write) {
  write(
    "items.csv",
    csv([
      ["customer", "bill", "item", "hours", "price"],
      ["Harbour House Ltd", "R-101", "Yearly inspection L1", "2", "240.00"],
      ["Harbour House Ltd", "R-101", "Yearly inspection L2", "2", "240.00"],
      ["Harbour House Ltd", "R-102", "Door drive repaired", "3.5", "420.00"],
      ["Mill Arcade & Co", "R-103", "Yearly inspection E4", "1.5", "180.00"],
    ]),
  );
  write(
    "payments.csv",
    csv([
      ["number", "day", "paid"],
      ["R-101", "2026-10-20", "300.00"],
      ["R-101", "2026-10-28", "80.00"],
      ["R-103", "2026-10-25", "180.00"],
    ]),
  );
  const row = (texts, bold = false) => new TableRow({ children: texts.map((text) => cell(text, bold)) });
  const full = { size: 100, type: WidthType.PERCENTAGE };
  const document = new Document({
    sections: [
      {
        children: [
          new Paragraph("{{repeat line by bill paged}}"),
          new Paragraph({ text: "Bill {{ bill }}", heading: HeadingLevel.HEADING_1 }),
          new Paragraph({ text: "{{ customer }}", spacing: { after: 240 } }),
          new Table({
            width: full,
            rows: [
              row(["Item", "Hours", "Price"], true),
              row(["{{ line.item }}", '{{ line.hours as "0.0" }}', '{{ line.price as "#,##0.00" }}']),
              row(["Together", '{{ sum(line.hours) as "0.0" }}', '{{ sum(line.price) as "#,##0.00" }}'], true),
            ],
          }),
          heading("Payments"),
          new Paragraph("{{when count(payments) = 0}}"),
          new Paragraph("Nothing was paid yet."),
          new Paragraph("{{otherwise}}"),
          new Table({
            width: full,
            rows: [
              row(["Day", "Paid"], true),
              row(['{{ payments.day as "dd/mm/yyyy" }}', '{{ payments.paid as "#,##0.00" }}']),
            ],
          }),
          new Paragraph("{{end}}"),
          new Paragraph({
            spacing: { before: 240 },
            children: [
              new TextRun({ text: 'Open: {{ sum(line.price) - sum(payments.paid) as "#,##0.00" }}', bold: true }),
            ],
          }),
          new Paragraph("{{end}}"),
        ],
      },
    ],
  });
  write("templates/bill.docx", await Packer.toBuffer(document));
  write(
    "bills.yaml",
    `report: bills
title: Bills with what was paid
data: items
split: customer
lines:
  payments: { data: payments, match: { bill: number }, sort: [day] }   # two tables that share a number
totals: { price: sum(line.price), paid: sum(payments.paid) }
files:
  bill: { template: bill.docx, name: "{{ customer }}", pdf: too }
`,
  );
}
