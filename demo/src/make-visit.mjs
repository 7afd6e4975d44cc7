import { writeFile } from "node:fs/promises";
import { BorderStyle, Document, Packer, Paragraph, Table, TableCell, TableRow, TextRun, WidthType } from "docx";
import { letterhead } from "./make-notice.mjs";
import { OFFICE } from "./scenario.mjs";

const TEAL = "0F5C5C";
const FIELDS = [
  ["Site", "{{ site }}"],
  ["Address", "{{ street }}, {{ town }}"],
  ["Unit", "{{ unit }}, {{ kind }}"],
  ["Visited", '{{ visit_date as "d mmmm yyyy" }}'],
  ["Inspector", "{{ inspector }}"],
  ["Result", "{{ result }}"],
  ["Hours", '{{ hours as "0.00" }}'],
  ["Fee", '{{ fee as "#,##0.00" }}'],
  ["Next due", '{{ next_due as "d mmmm yyyy" }}'],
  ["Remarks", "{{ remarks }}"],
];

/** The sheet of one visit: what somebody gets who asks for it. */
export async function writeVisit(path, logo) {
  const line = { style: BorderStyle.SINGLE, size: 4, color: "9DB5B5" };
  const none = { style: BorderStyle.NONE, size: 0, color: "FFFFFF" };
  const cell = (text, width, bold) =>
    new TableCell({
      width: { size: width, type: WidthType.DXA },
      margins: { top: 80, bottom: 80, left: 80, right: 80 },
      borders: { top: none, left: none, right: none, bottom: line },
      children: [new Paragraph({ spacing: { after: 0 }, children: [new TextRun({ text, bold })] })],
    });
  const document = new Document({
    creator: OFFICE.name,
    title: "Sheet of a visit",
    styles: { default: { document: { run: { font: "Calibri", size: 22 } } } },
    sections: [
      {
        properties: {
          page: {
            size: { width: 11906, height: 16838 },
            margin: { top: 2200, bottom: 1500, left: 1300, right: 1300, header: 600, footer: 600 },
          },
        },
        headers: { default: letterhead(logo) },
        children: [
          new Paragraph({
            spacing: { before: 240, after: 240 },
            children: [new TextRun({ text: "Visit to {{ unit }} at {{ site }}", bold: true, size: 32, color: TEAL })],
          }),
          new Table({
            width: { size: 9306, type: WidthType.DXA },
            columnWidths: [2306, 7000],
            rows: FIELDS.map(
              ([name, mark]) =>
                new TableRow({ cantSplit: true, children: [cell(name, 2306, true), cell(mark, 7000, false)] }),
            ),
          }),
        ],
      },
    ],
  });
  await writeFile(path, await Packer.toBuffer(document));
}
