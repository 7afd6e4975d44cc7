import ExcelJS from "exceljs";
import { OFFICE, SITES, visits } from "./scenario.mjs";

const HEADER = [
  "Visit no",
  "Visit date",
  "Site",
  "Street",
  "Town",
  "Unit",
  "Kind",
  "Inspector",
  "Hours",
  "Rate",
  "Parts",
  "Result",
  "Next due",
  "Remarks",
];

/** The system's export with the warts real exports have. */
export async function writeMaster(path) {
  const workbook = new ExcelJS.Workbook();
  workbook.creator = OFFICE.name;
  workbook.created = new Date(Date.UTC(2026, 10, 2));
  const sheet = workbook.addWorksheet("Visits");
  sheet.columns = [10, 12, 26, 20, 20, 7, 16, 14, 8, 9, 10, 18, 12, 32].map((width) => ({ width }));
  sheet.addRow(["Inspection visits, all sites"]).font = { bold: true, size: 14 };
  sheet.addRow(["Export of 2 November 2026, January to October 2026"]).font = { italic: true };
  sheet.addRow([]);
  const header = sheet.addRow(HEADER);
  header.font = { bold: true };
  header.fill = { type: "pattern", pattern: "solid", fgColor: { argb: "FFD9E5E5" } };
  const rows = visits();
  const october = rows.findIndex((row) => row.date.getUTCMonth() === 9);
  const misspelt = rows.findLastIndex((row) => row.site === "Sjöstad Quay");
  for (const [index, row] of rows.entries()) {
    const site = blemish(row.site, index, october, misspelt);
    const date = index === october + 40 ? `${row.date.getUTCDate()}.10.2026` : row.date;
    const added = sheet.addRow([
      row.number,
      date,
      site,
      row.street,
      row.town,
      row.unit,
      row.kind,
      row.inspector,
      row.hours,
      row.rate,
      row.parts,
      row.result,
      row.next,
      row.remarks || null,
    ]);
    added.getCell(2).numFmt = "dd/mm/yyyy";
    added.getCell(13).numFmt = "dd/mm/yyyy";
    for (const column of [9, 10, 11]) added.getCell(column).numFmt = "#,##0.00";
  }
  const last = sheet.rowCount;
  const total = sheet.addRow(["Total"]);
  for (const column of ["I", "K"]) {
    total.getCell(column).value = {
      formula: `SUM(${column}5:${column}${last})`,
      result: Math.round(rows.reduce((sum, row) => sum + (column === "I" ? row.hours : row.parts), 0) * 100) / 100,
    };
    total.getCell(column).numFmt = "#,##0.00";
  }
  total.font = { bold: true };
  await workbook.xlsx.writeFile(path);
  return rows.length;
}

/** A trailing blank here, another spelling there, one visit without a site. */
function blemish(site, index, october, misspelt) {
  if (index === october + 17) return null;
  if (site === "Harbour House" && index % 7 === 0) return "Harbour House ";
  if (site === "Granary Tower" && index % 11 === 0) return "GRANARY TOWER";
  if (index === misspelt) return "Sjostad Quay";
  return site;
}

/** The recipient list: several addresses in one cell, copies, and people for a site that had no visits. */
export function recipientsCsv() {
  const quote = (text) => (/[",;\n]/.test(text) ? `"${text.replaceAll('"', '""')}"` : text);
  const lines = ["Site,Name,Addresses,Copies"];
  for (const [site, , , , people, copies = ""] of SITES) {
    if (people.length === 0) continue;
    lines.push([site, people[0][0], people.map(([, address]) => address).join("; "), copies].map(quote).join(","));
  }
  return `${lines.join("\r\n")}\r\n`;
}
