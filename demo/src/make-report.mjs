import { writeFile } from "node:fs/promises";
import {
  AlignmentType,
  BorderStyle,
  Document,
  Footer,
  FootnoteReferenceRun,
  Header,
  HeadingLevel,
  ImageRun,
  LevelFormat,
  Packer,
  PageNumber,
  Paragraph,
  ShadingType,
  Table,
  TableCell,
  TableOfContents,
  TableRow,
  TabStopType,
  TextRun,
  WidthType,
} from "docx";
import { OFFICE } from "./scenario.mjs";

const TEAL = "0F5C5C";
const GREY = "5A6B6B";
const FAILED = 'count(line where line.result = "fail")';

const text = (words, options = {}) => new Paragraph({ ...options, children: [new TextRun(words)] });
const heading = (words, level, options = {}) =>
  new Paragraph({
    ...options,
    heading: HeadingLevel[`HEADING_${level}`],
    keepNext: true,
    children: [new TextRun(words)],
  });

const STYLES = {
  default: {
    document: { run: { font: "Calibri", size: 21 }, paragraph: { spacing: { after: 120, line: 264 } } },
    title: { run: { font: "Cambria", size: 52, color: TEAL }, paragraph: { spacing: { before: 2400, after: 200 } } },
    heading1: { run: { font: "Cambria", size: 30, color: TEAL }, paragraph: { spacing: { before: 360, after: 120 } } },
    heading2: { run: { size: 23, bold: true, color: GREY }, paragraph: { spacing: { before: 200, after: 80 } } },
  },
};

const NUMBERED = {
  reference: "chapters",
  levels: [
    {
      level: 0,
      format: LevelFormat.DECIMAL,
      text: "%1",
      alignment: AlignmentType.START,
      style: { paragraph: { indent: { left: 480, hanging: 480 } } },
    },
  ],
};
const STEPS = {
  reference: "steps",
  levels: [
    {
      level: 0,
      format: LevelFormat.LOWER_LETTER,
      text: "%1)",
      alignment: AlignmentType.START,
      style: { paragraph: { indent: { left: 480, hanging: 360 } } },
    },
  ],
};

function footer(name, right = 9638) {
  return new Footer({
    children: [
      new Paragraph({
        tabStops: [{ type: TabStopType.RIGHT, position: right }],
        children: [
          new TextRun({ text: `{{ site }} · ${name}\t`, size: 16, color: GREY }),
          new TextRun({
            children: ["Page ", PageNumber.CURRENT, " of ", PageNumber.TOTAL_PAGES],
            size: 16,
            color: GREY,
          }),
        ],
      }),
    ],
  });
}

const page = { size: { width: 11906, height: 16838 }, margin: { top: 1300, bottom: 1200, left: 1134, right: 1134 } };

/** A report with a cover, contents, a chapter for each unit with its own table, and an overview of all visits. */
export async function writeReport(path, logo) {
  const picture = (description, size, alignment) =>
    new Paragraph({
      alignment,
      children: [
        new ImageRun({
          type: "png",
          data: logo,
          transformation: { width: size, height: size },
          altText: { name: "picture", title: "Picture", description },
        }),
      ],
    });
  const document = new Document({
    creator: OFFICE.name,
    title: "Report of inspections",
    styles: STYLES,
    numbering: { config: [NUMBERED, STEPS] },
    footnotes: {
      1: { children: [text("A unit is a lift, an escalator or a moving walk.")] },
    },
    sections: [
      {
        properties: { page, titlePage: true },
        headers: {
          default: new Header({
            children: [
              new Paragraph({
                alignment: AlignmentType.RIGHT,
                border: { bottom: { style: BorderStyle.SINGLE, size: 6, color: TEAL, space: 4 } },
                children: [new TextRun({ text: `${OFFICE.name} · {{ period.label }}`, size: 16, color: GREY })],
              }),
            ],
          }),
          first: new Header({ children: [new Paragraph("")] }),
        },
        footers: { default: footer("Report of inspections"), first: new Footer({ children: [new Paragraph("")] }) },
        children: [
          picture(`Logo of ${OFFICE.name}`, 64, AlignmentType.START),
          new Paragraph({ heading: HeadingLevel.TITLE, children: [new TextRun("Report of inspections")] }),
          text("{{ site }}, {{ street }}, {{ town }}"),
          new Paragraph({
            children: [
              new TextRun("{{ period.label }}: {{ count(line) }} visits to {{ distinct(line.unit) }} units"),
              new FootnoteReferenceRun(1),
              new TextRun(
                `, {{when ${FAILED} = 0}}all of which passed{{otherwise}}of which {{ ${FAILED} }} did not pass{{end}}.`,
              ),
            ],
          }),
          picture('{{ qr site & ", " & period.key }}', 96, AlignmentType.START),
          heading("Contents", 2),
          new TableOfContents("Contents", { hyperlink: true, headingStyleRange: "1-1" }),
          heading("Overview", 1, { numbering: { reference: "chapters", level: 0 }, pageBreakBefore: true }),
          text("All visits in the order of their days; the fee is hours times rate, and parts."),
          overview(),
          text("{{repeat line by unit}}"),
          heading("Unit {{ unit }}, {{ first(line.kind) }}", 1, { numbering: { reference: "chapters", level: 0 } }),
          text(
            '{{ count(line) }} {{ if(count(line) = 1, "visit", "visits") }}, {{ sum(line.hours) }} hours, fees CHF {{ sum(line.fee) as "#,##0.00" }}. Next due {{ max(line.next_due) as "d mmmm yyyy" }}.',
          ),
          text(
            '{{table line: visit_date headed "Date" as "dd/mm/yyyy", inspector, result, hours as "0.00" total, fee headed "Fee CHF" as "#,##0.00" total, remarks}}',
          ),
          text(`{{when ${FAILED} > 0}}`),
          text("Before it goes into service again:"),
          text('{{repeat line where line.result = "fail"}}'),
          text('repair what was found on {{ line.visit_date as "d mmmm" }}: {{ line.remarks }};', {
            numbering: { reference: "steps", level: 0 },
          }),
          text("{{end}}"),
          text("have it inspected again.", { numbering: { reference: "steps", level: 0 } }),
          text("{{end}}"),
          text("{{end}}"),
        ],
      },
    ],
  });
  await writeFile(path, await Packer.toBuffer(document));
}

function overview() {
  const border = { style: BorderStyle.SINGLE, size: 4, color: "9DB5B5" };
  const none = { style: BorderStyle.NONE, size: 0, color: "FFFFFF" };
  const widths = [1500, 1100, 3000, 2238, 1800];
  const cell = (words, width, head, right) =>
    new TableCell({
      width: { size: width, type: WidthType.DXA },
      margins: { top: 40, bottom: 40, left: 80, right: 80 },
      borders: { top: none, left: none, right: none, bottom: border },
      ...(head ? { shading: { type: ShadingType.CLEAR, fill: TEAL, color: "auto" } } : {}),
      children: [
        new Paragraph({
          spacing: { after: 0, line: 240 },
          ...(right ? { alignment: AlignmentType.RIGHT } : {}),
          children: [new TextRun({ text: words, size: 19, ...(head ? { bold: true, color: "FFFFFF" } : {}) })],
        }),
      ],
    });
  const row = (cells, head) =>
    new TableRow({
      tableHeader: head,
      cantSplit: true,
      children: cells.map((words, at) => cell(words, widths[at], head, at === 4)),
    });
  return new Table({
    width: { size: 9638, type: WidthType.DXA },
    columnWidths: widths,
    rows: [
      row(["Date", "Unit", "Inspector", "Result", "Fee CHF"], true),
      row(
        [
          '{{ line.visit_date as "dd/mm/yyyy" }}',
          "{{ line.unit }}",
          "{{ line.inspector }}",
          "{{ line.result }}",
          '{{ line.fee as "#,##0.00" }}',
        ],
        false,
      ),
      row(["All", "", "", "", '{{ sum(line.fee) as "#,##0.00" }}'], false),
    ],
  });
}

/** What goes behind the report where a unit did not pass: a document of another department, with looks of its own. */
export async function writeRepairs(path) {
  const document = new Document({
    creator: OFFICE.name,
    title: "What a repair needs",
    styles: {
      default: {
        document: { run: { font: "Times New Roman", size: 23 }, paragraph: { spacing: { after: 160 } } },
        heading1: { run: { font: "Arial", size: 26, bold: true }, paragraph: { spacing: { after: 160 } } },
      },
    },
    numbering: {
      config: [
        {
          reference: "rules",
          levels: [
            {
              level: 0,
              format: LevelFormat.UPPER_ROMAN,
              text: "%1.",
              alignment: AlignmentType.START,
              style: { paragraph: { indent: { left: 720, hanging: 720 } } },
            },
          ],
        },
      ],
    },
    sections: [
      {
        properties: { page: { size: { width: 11906, height: 16838 } } },
        footers: { default: footer("What a repair needs", 9026) },
        children: [
          heading("What a repair needs", 1),
          text("To the owner of {{ site }}: these rules hold for every unit that did not pass."),
          ...[
            "The unit stays out of service, and says so at every door.",
            "The work is done by a company that is registered for it, and written down.",
            "The office is told when it is done; an inspector comes within five working days.",
            "Until then nobody but those who repair it goes into the shaft.",
          ].map((words) => text(words, { numbering: { reference: "rules", level: 0 } })),
          text('Units concerned: {{ list(line.unit where line.result = "fail", ", ") }}.'),
        ],
      },
    ],
  });
  await writeFile(path, await Packer.toBuffer(document));
}
