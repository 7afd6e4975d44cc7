import { writeFile } from "node:fs/promises";
import {
  AlignmentType,
  BorderStyle,
  Document,
  Footer,
  Header,
  ImageRun,
  Packer,
  PageNumber,
  Paragraph,
  ShadingType,
  Table,
  TableCell,
  TableRow,
  TabStopType,
  TextRun,
  VerticalAlign,
  WidthType,
} from "docx";
import { OFFICE } from "./scenario.mjs";

const TEAL = "0F5C5C";
/** What the letter says depends on whether a visit ended without a pass. */
const FAILED = 'count(line where line.result = "fail")';
const NONE_FAILED = `if(${FAILED} = 0`;
const GREY = "5A6B6B";

/** The notice letter: letterhead, address block, paragraphs with fields, one table of lines, page numbers. */
export async function writeNotice(path, logo) {
  const document = new Document({
    creator: OFFICE.name,
    title: "Notice of inspections",
    styles: {
      default: { document: { run: { font: "Calibri", size: 22 }, paragraph: { spacing: { after: 120, line: 264 } } } },
      paragraphStyles: [
        {
          id: "Subject",
          name: "Subject",
          basedOn: "Normal",
          next: "Normal",
          run: { bold: true, size: 26, color: TEAL },
          paragraph: { spacing: { before: 360, after: 200 }, keepNext: true },
        },
      ],
    },
    sections: [
      {
        properties: {
          page: {
            size: { width: 11906, height: 16838 },
            margin: { top: 2200, bottom: 1500, left: 1300, right: 1300, header: 600, footer: 600 },
          },
        },
        headers: { default: letterhead(logo) },
        footers: { default: footer() },
        children: [...address(), ...opening(), table(), ...closing()],
      },
    ],
  });
  await writeFile(path, await Packer.toBuffer(document));
}

/** The head of the office's letters. */
export function letterhead(logo) {
  return new Header({
    children: [
      new Paragraph({
        tabStops: [{ type: TabStopType.RIGHT, position: 9306 }],
        spacing: { after: 0 },
        border: { bottom: { style: BorderStyle.SINGLE, size: 8, color: TEAL, space: 6 } },
        children: [
          new ImageRun({
            type: "png",
            data: logo,
            transformation: { width: 48, height: 48 },
            altText: { name: "logo", title: "Logo", description: `Logo of ${OFFICE.name}` },
          }),
          new TextRun({ text: "\t" }),
          new TextRun({ text: OFFICE.name, bold: true, size: 28, color: TEAL }),
        ],
      }),
      new Paragraph({
        alignment: AlignmentType.RIGHT,
        spacing: { after: 0 },
        children: [
          new TextRun({
            text: `${OFFICE.street}, ${OFFICE.town} · ${OFFICE.phone} · ${OFFICE.mail}`,
            size: 16,
            color: GREY,
          }),
        ],
      }),
    ],
  });
}

function footer() {
  return new Footer({
    children: [
      new Paragraph({
        tabStops: [{ type: TabStopType.RIGHT, position: 9306 }],
        children: [
          new TextRun({ text: "{{ site }}, {{ period.label }}\tPage ", size: 16, color: GREY }),
          new TextRun({ children: [PageNumber.CURRENT], size: 16, color: GREY }),
          new TextRun({ text: " of ", size: 16, color: GREY }),
          new TextRun({ children: [PageNumber.TOTAL_PAGES], size: 16, color: GREY }),
        ],
      }),
    ],
  });
}

const plain = (text, options = {}) => new Paragraph({ ...options, children: [new TextRun(text)] });

function address() {
  const line = (text) => plain(text, { spacing: { after: 0 } });
  return [
    line("{{ recipient.name }}"),
    line("{{ site }}"),
    line("{{ street }}"),
    line("{{ town }}"),
    plain("Aldmoor, {{ run.date }}", { alignment: AlignmentType.RIGHT, spacing: { before: 240 } }),
  ];
}

function opening() {
  return [
    new Paragraph({
      style: "Subject",
      children: [new TextRun("Inspections that need your attention, {{ period.label }}")],
    }),
    plain("Dear {{ recipient.name }}"),
    new Paragraph({
      alignment: AlignmentType.JUSTIFIED,
      children: [
        new TextRun("In {{ period.label }} our inspectors made "),
        // Broken over runs, as editors do after a change of looks in the middle of a mark.
        new TextRun({ text: "{{ count(", bold: true }),
        new TextRun({ text: "line) }} visits", bold: true }),
        new TextRun(
          ` to your lifts and escalators. {{ ${NONE_FAILED}, "All units may stay in service", ${FAILED} & " of them ended with units that did not pass; these must stay out of service until they are repaired and inspected again") }}. The table below lists all visits of the month with what was found.`,
        ),
      ],
    }),
  ];
}

const border = (color, size = 4) => ({ style: BorderStyle.SINGLE, size, color });
const none = { style: BorderStyle.NONE, size: 0, color: "FFFFFF" };
const COLUMNS = [
  ["Date", '{{ line.visit_date as "dd/mm/yyyy" }}', 1250],
  ["Unit", "{{ line.unit }}", 800],
  ["Kind", "{{ line.kind }}", 1600],
  ["Result", "{{ line.result }}", 1750],
  ["Next due", '{{ line.next_due as "dd/mm/yyyy" }}', 1250],
  ["Remarks", "{{ line.remarks }}", 2656],
];

function table() {
  const cell = (text, width, head) =>
    new TableCell({
      width: { size: width, type: WidthType.DXA },
      verticalAlign: VerticalAlign.TOP,
      margins: { top: 40, bottom: 40, left: 80, right: 80 },
      ...(head ? { shading: { type: ShadingType.CLEAR, fill: TEAL, color: "auto" } } : {}),
      borders: { top: none, left: none, right: none, bottom: border("9DB5B5") },
      children: [
        new Paragraph({
          run: { size: 19 },
          spacing: { after: 0, line: 240 },
          children: [new TextRun({ text, size: 19, ...(head ? { bold: true, color: "FFFFFF" } : {}) })],
        }),
      ],
    });
  return new Table({
    width: { size: 9306, type: WidthType.DXA },
    columnWidths: COLUMNS.map(([, , width]) => width),
    rows: [
      new TableRow({
        tableHeader: true,
        cantSplit: true,
        children: COLUMNS.map(([title, , width]) => cell(title, width, true)),
      }),
      new TableRow({ cantSplit: true, children: COLUMNS.map(([, mark, width]) => cell(mark, width, false)) }),
    ],
  });
}

function closing() {
  return [
    plain(
      `{{ ${NONE_FAILED}, "Nothing has to be repaired this month.", "Please have the repairs done by " & text(run.date + 14, "d mmmm yyyy") & " and tell us, so that we can come again.") }} If you have questions, write to {{ run.sender }} or call us.`,
      { spacing: { before: 240 } },
    ),
    plain("Yours sincerely", { spacing: { before: 240, after: 720 }, keepNext: true }),
    plain(OFFICE.name, { spacing: { after: 0 } }),
  ];
}
