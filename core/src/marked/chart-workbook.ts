/** The workbook behind a chart: categories down its first column, a series in each further one, as small as one can be. */
import { escapeXml, OFFICE_RELATIONS, OoxmlPackage } from "../ooxml/index.js";

const HEAD = '<?xml version="1.0" encoding="UTF-8" standalone="yes"?>\n';
const SHEETS = "application/vnd.openxmlformats-officedocument.spreadsheetml";
const MAIN = "http://schemas.openxmlformats.org/spreadsheetml/2006/main";
const PACKAGE = "http://schemas.openxmlformats.org/package/2006";

/** An archive without entries. */
const EMPTY = Uint8Array.of(0x50, 0x4b, 0x05, 0x06, ...Array<number>(18).fill(0));

/** A column's name: A, B, … Z, AA, … */
export function columnLetters(index: number): string {
  let letters = "";
  for (let rest = index + 1; rest > 0; rest = Math.floor((rest - 1) / 26))
    letters = String.fromCharCode(65 + ((rest - 1) % 26)) + letters;
  return letters;
}

export function chartWorkbook(
  series: readonly { readonly heading: string; readonly format: string | undefined }[],
  categories: readonly string[],
  /** For each category the values of its series. */
  values: readonly (readonly number[])[],
): Uint8Array {
  const text = (at: string, words: string): string =>
    `<c r="${at}" t="inlineStr"><is><t xml:space="preserve">${escapeXml(words)}</t></is></c>`;
  const rows = [
    `<row r="1">${series.map(({ heading }, at) => text(`${columnLetters(at + 1)}1`, heading)).join("")}</row>`,
    ...categories.map((category, row) => {
      const cells = series.map(
        (_, at) => `<c r="${columnLetters(at + 1)}${row + 2}" s="${at + 1}"><v>${values[row][at]}</v></c>`,
      );
      return `<row r="${row + 2}">${text(`A${row + 2}`, category)}${cells.join("")}</row>`;
    }),
  ];
  const formats = series.map(
    ({ format }, at) => `<numFmt numFmtId="${164 + at}" formatCode="${escapeXml(format ?? "General")}"/>`,
  );
  const styles = series.map(
    (_, at) => `<xf numFmtId="${164 + at}" fontId="0" fillId="0" borderId="0" xfId="0" applyNumberFormat="1"/>`,
  );
  const plain = '<xf numFmtId="0" fontId="0" fillId="0" borderId="0"';
  const parts: readonly (readonly [string, string])[] = [
    [
      "[Content_Types].xml",
      `<Types xmlns="${PACKAGE}/content-types"><Default Extension="rels" ContentType="application/vnd.openxmlformats-package.relationships+xml"/><Override PartName="/xl/workbook.xml" ContentType="${SHEETS}.sheet.main+xml"/><Override PartName="/xl/worksheets/sheet1.xml" ContentType="${SHEETS}.worksheet+xml"/><Override PartName="/xl/styles.xml" ContentType="${SHEETS}.styles+xml"/></Types>`,
    ],
    [
      "_rels/.rels",
      `<Relationships xmlns="${PACKAGE}/relationships"><Relationship Id="rId1" Type="${OFFICE_RELATIONS}/officeDocument" Target="xl/workbook.xml"/></Relationships>`,
    ],
    [
      "xl/workbook.xml",
      `<workbook xmlns="${MAIN}" xmlns:r="${OFFICE_RELATIONS}"><sheets><sheet name="Sheet1" sheetId="1" r:id="rId1"/></sheets></workbook>`,
    ],
    [
      "xl/_rels/workbook.xml.rels",
      `<Relationships xmlns="${PACKAGE}/relationships"><Relationship Id="rId1" Type="${OFFICE_RELATIONS}/worksheet" Target="worksheets/sheet1.xml"/><Relationship Id="rId2" Type="${OFFICE_RELATIONS}/styles" Target="styles.xml"/></Relationships>`,
    ],
    [
      "xl/styles.xml",
      `<styleSheet xmlns="${MAIN}">${formats.length > 0 ? `<numFmts count="${formats.length}">${formats.join("")}</numFmts>` : ""}<fonts count="1"><font><sz val="11"/><name val="Calibri"/></font></fonts><fills count="2"><fill><patternFill patternType="none"/></fill><fill><patternFill patternType="gray125"/></fill></fills><borders count="1"><border><left/><right/><top/><bottom/><diagonal/></border></borders><cellStyleXfs count="1">${plain}/></cellStyleXfs><cellXfs count="${styles.length + 1}">${plain} xfId="0"/>${styles.join("")}</cellXfs></styleSheet>`,
    ],
    ["xl/worksheets/sheet1.xml", `<worksheet xmlns="${MAIN}"><sheetData>${rows.join("")}</sheetData></worksheet>`],
  ];
  return OoxmlPackage.open(EMPTY)
    .with(new Map(parts.map(([name, content]) => [name, HEAD + content])))
    .toBytes();
}
