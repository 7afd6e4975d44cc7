import ExcelJS from "exceljs";
import { OFFICE } from "./scenario.mjs";

const TEAL = "FF0F5C5C";
const PALE = "FFE6EFEF";
const HAIR = { style: "hair", color: { argb: "FF9DB5B5" } };
const THIN = { style: "thin", color: { argb: TEAL } };

/** The statement: letterhead, one row that repeats, formulas below it, a print area one page wide. */
export async function writeStatement(path, logo) {
  const workbook = new ExcelJS.Workbook();
  workbook.creator = OFFICE.name;
  workbook.title = "Monthly statement of lift inspections";
  workbook.created = new Date(Date.UTC(2026, 0, 12));
  const sheet = workbook.addWorksheet("Statement", {
    pageSetup: {
      paperSize: 9,
      orientation: "portrait",
      fitToPage: true,
      fitToWidth: 1,
      fitToHeight: 0,
      horizontalCentered: true,
      margins: { left: 0.6, right: 0.6, top: 0.6, bottom: 0.8, header: 0.3, footer: 0.4 },
    },
    headerFooter: { oddFooter: `&L&8${OFFICE.name} · ${OFFICE.mail}&R&8Page &P of &N` },
    views: [{ showGridLines: false }],
  });
  sheet.columns = [12, 7.5, 16, 14, 18, 8, 9.5, 10.5, 12.5].map((width) => ({ width }));
  sheet.addImage(workbook.addImage({ buffer: logo, extension: "png" }), {
    tl: { col: 0.1, row: 0.2 },
    ext: { width: 64, height: 64 },
  });
  letterhead(sheet);
  address(sheet);
  lines(sheet);
  sums(sheet);
  sheet.pageSetup.printArea = "A1:I24";
  sheet.pageSetup.printTitlesRow = "14:14";
  await workbook.xlsx.writeFile(path);
}

function letterhead(sheet) {
  sheet.mergeCells("C1:I1");
  sheet.mergeCells("C2:I2");
  sheet.mergeCells("C3:I3");
  put(sheet, "C1", OFFICE.name, {
    font: { name: "Calibri", size: 16, bold: true, color: { argb: TEAL } },
    alignment: { horizontal: "right" },
  });
  put(sheet, "C2", `${OFFICE.street}, ${OFFICE.town}`, {
    font: { name: "Calibri", size: 9, color: { argb: "FF5A6B6B" } },
    alignment: { horizontal: "right" },
  });
  put(sheet, "C3", `${OFFICE.phone} · ${OFFICE.mail}`, {
    font: { name: "Calibri", size: 9, color: { argb: "FF5A6B6B" } },
    alignment: { horizontal: "right" },
  });
  sheet.getRow(1).height = 24;
  for (let column = 1; column <= 9; column++)
    sheet.getCell(4, column).border = { bottom: { style: "medium", color: { argb: TEAL } } };
  sheet.getRow(4).height = 8;
}

function address(sheet) {
  sheet.mergeCells("A6:E6");
  sheet.mergeCells("A7:E7");
  sheet.mergeCells("A8:E8");
  put(sheet, "A6", "{{ site }}", {
    font: { name: "Calibri", size: 12, bold: true },
    alignment: { wrapText: true, vertical: "top" },
  });
  sheet.getRow(6).height = 34;
  put(sheet, "A7", "{{ street }}");
  put(sheet, "A8", "{{ town }}");
  label(sheet, 6, "Statement", '{{ period.key }}/{{ group.number as "000" }}');
  label(sheet, 7, "Period", "{{ period.label }}");
  label(sheet, 8, "Date", "{{ run.date }}", "d mmm yyyy");
  label(sheet, 9, "Pay by", "{{ run.date + 14 }}", "d mmm yyyy");
  sheet.mergeCells("A11:I11");
  sheet.getCell("A11").value = {
    richText: [
      { font: { name: "Calibri", size: 14, bold: true, color: { argb: TEAL } }, text: "Lift inspections, " },
      { font: { name: "Calibri", size: 14, color: { argb: TEAL } }, text: "{{ period.label }}" },
    ],
  };
  sheet.getRow(11).height = 22;
  sheet.mergeCells("A12:I12");
  put(
    sheet,
    "A12",
    '{{ count(line) }} visits to {{ distinct(line.unit) }} units, {{ count(line where line.result = "fail") }} not passed. Inspectors: {{ list(line.inspector) }}.',
    { font: { name: "Calibri", size: 10 }, alignment: { wrapText: true, vertical: "top" } },
  );
  sheet.getRow(12).height = 30;
}

function label(sheet, row, name, mark, format) {
  sheet.mergeCells(row, 8, row, 9);
  put(sheet, `G${row}`, name, {
    font: { name: "Calibri", size: 10, color: { argb: "FF5A6B6B" } },
    alignment: { vertical: "top" },
  });
  put(sheet, `H${row}`, mark, {
    font: { name: "Calibri", size: 10 },
    alignment: { horizontal: "right", vertical: "top" },
    ...(format ? { numFmt: format } : {}),
  });
}

const COLUMNS = [
  ["Date", "{{ line.visit_date }}", { numFmt: "dd/mm/yyyy", alignment: { horizontal: "left", vertical: "top" } }],
  ["Unit", "{{ line.unit }}", {}],
  ["Kind", "{{ line.kind }}", {}],
  ["Inspector", "{{ line.inspector }}", {}],
  ["Result", "{{ line.result }}", { alignment: { wrapText: true, vertical: "top" } }],
  ["Hours", "{{ line.hours }}", { numFmt: "0.00" }],
  ["Rate", "{{ line.rate }}", { numFmt: "#,##0.00" }],
  [
    "Parts",
    "{{ line.parts }}",
    { numFmt: '#,##0.00;-#,##0.00;"–"', alignment: { horizontal: "right", vertical: "top" } },
  ],
  ["Amount", { formula: "ROUND(F15*G15+H15,2)", result: 0 }, { numFmt: "#,##0.00" }],
];

function lines(sheet) {
  COLUMNS.forEach(([title, value, style], index) => {
    const head = sheet.getCell(14, index + 1);
    head.value = title;
    head.font = { name: "Calibri", size: 10, bold: true, color: { argb: "FFFFFFFF" } };
    head.fill = { type: "pattern", pattern: "solid", fgColor: { argb: TEAL } };
    head.alignment = { horizontal: index >= 5 ? "right" : "left", vertical: "middle" };
    const cell = sheet.getCell(15, index + 1);
    cell.value = value;
    cell.font = { name: "Calibri", size: 10 };
    cell.alignment = { vertical: "top" };
    Object.assign(cell, style);
    cell.border = { bottom: HAIR };
  });
  sheet.getRow(14).height = 20;
}

function sums(sheet) {
  const row = (number, name, formula, format, strong) => {
    sheet.mergeCells(number, 6, number, 8);
    put(sheet, `F${number}`, name, { font: { name: "Calibri", size: strong ? 12 : 10, bold: strong } });
    put(sheet, `I${number}`, formula, {
      font: { name: "Calibri", size: strong ? 12 : 10, bold: strong },
      numFmt: format,
    });
    for (const column of [6, 7, 8, 9]) {
      const cell = sheet.getCell(number, column);
      if (strong) cell.fill = { type: "pattern", pattern: "solid", fgColor: { argb: PALE } };
      cell.border = strong ? { top: THIN, bottom: { style: "double", color: { argb: TEAL } } } : { top: HAIR };
    }
  };
  row(17, "Subtotal", { formula: "SUM(I15:I15)", result: 0 }, "#,##0.00", false);
  row(18, "Tax rate", 0.081, "0.0%", false);
  row(19, "Tax", { formula: "ROUND(I17*I18,2)", result: 0 }, "#,##0.00", false);
  row(20, "Total EUR", { formula: "I17+I19", result: 0 }, "#,##0.00", true);
  sheet.getRow(20).height = 21;
  put(sheet, "A22", "Checked by", { font: { name: "Calibri", size: 10, color: { argb: "FF5A6B6B" } } });
  for (const column of [2, 3, 4]) sheet.getCell(22, column).border = { bottom: { style: "thin" } };
  sheet.mergeCells("A24:I24");
  put(sheet, "A24", "Please pay within two weeks and name the statement number. Questions: help@lifts.example.", {
    font: { name: "Calibri", size: 9, italic: true, color: { argb: "FF5A6B6B" } },
  });
}

function put(sheet, at, value, style = { font: { name: "Calibri", size: 11 } }) {
  const cell = sheet.getCell(at);
  cell.value = value;
  Object.assign(cell, style);
}
