/** Very different documents of an inspection office, for tests of pages: each with what its kind needs. */
import { OoxmlPackage } from "@corbix/core/ooxml";
import {
  AlignmentType,
  BorderStyle,
  Document,
  DropCapType,
  ExternalHyperlink,
  Footer,
  FootnoteReferenceRun,
  FrameAnchorType,
  FrameWrap,
  Header,
  HeadingLevel,
  HeightRule,
  HorizontalPositionAlign,
  HorizontalPositionRelativeFrom,
  ImageRun,
  InternalHyperlink,
  LevelFormat,
  LineRuleType,
  Packer,
  PageBorderDisplay,
  PageBorderOffsetFrom,
  PageNumber,
  PageOrientation,
  Paragraph,
  SectionType,
  ShadingType,
  Table,
  TableCell,
  TableLayoutType,
  TableOfContents,
  TableRow,
  TabStopType,
  TextDirection,
  TextRun,
  TextWrappingSide,
  TextWrappingType,
  UnderlineType,
  VerticalAlign,
  VerticalPositionAlign,
  VerticalPositionRelativeFrom,
  WidthType,
} from "docx";
import { demo } from "./helpers.js";

const notice = OoxmlPackage.open(demo("templates/notice.docx"));
const LOGO = Buffer.from(notice.getBytes(notice.names.find((name) => name.endsWith(".png")) as string));

const WORDS =
  "The inspector looked at the doors, the ropes and the brake, ran the car from the lowest to the highest floor and wrote down what was found. Where something has to be repaired the unit stays out of service until it was inspected again. ";

const p = (text: string, options: object = {}) => new Paragraph({ children: [new TextRun(text)], ...options });
const heading = (text: string, level: 1 | 2 | 3, options: object = {}) =>
  new Paragraph({ text, heading: HeadingLevel[`HEADING_${level}`], ...options });

async function pack(options: object, sections: object[]): Promise<Uint8Array> {
  const base = {
    styles: {
      default: { document: { run: { font: "Calibri", size: 22 }, paragraph: { spacing: { after: 120, line: 264 } } } },
    },
  };
  return new Uint8Array(await Packer.toBuffer(new Document({ ...base, ...options, sections } as never)));
}

const HEADINGS = {
  reference: "headings",
  levels: [
    {
      level: 0,
      format: LevelFormat.DECIMAL,
      text: "%1",
      style: { paragraph: { indent: { left: 567, hanging: 567 } } },
    },
    {
      level: 1,
      format: LevelFormat.DECIMAL,
      text: "%1.%2",
      style: { paragraph: { indent: { left: 567, hanging: 567 } } },
    },
  ],
};

/** A manual with contents, numbered headings, foot- and inner links, tables that run on. */
export function manual(): Promise<Uint8Array> {
  const chapter = (number: number) => [
    heading(`Chapter about part ${number} of the lift`, 1, {
      numbering: { reference: "headings", level: 0 },
      pageBreakBefore: number > 1 && number % 3 === 0,
    }),
    new Paragraph({
      children: [
        new TextRun(WORDS),
        new FootnoteReferenceRun(number),
        new TextRun(` ${WORDS}`),
        new InternalHyperlink({ anchor: "end", children: [new TextRun({ text: "See the end.", style: "Hyperlink" })] }),
      ],
    }),
    heading("What to look at", 2, { numbering: { reference: "headings", level: 1 } }),
    p(WORDS.repeat(3), { alignment: AlignmentType.JUSTIFIED }),
    heading("What to write down", 2, { numbering: { reference: "headings", level: 1 } }),
    ...["doors and sills", "ropes and sheaves", "brake and buffer"].map((text) => p(text, { bullet: { level: 0 } })),
    p("above all the governor", { bullet: { level: 1 } }),
    p(WORDS.repeat(2)),
  ];
  return pack(
    {
      title: "Manual of inspection",
      numbering: { config: [HEADINGS] },
      features: { updateFields: false },
      footnotes: Object.fromEntries(
        [1, 2, 3, 4, 5, 6].map((number) => [
          number,
          { children: [p(`Note ${number}: a unit is a lift, an escalator or a moving walk.`)] },
        ]),
      ),
    },
    [
      {
        properties: { titlePage: true },
        headers: {
          default: new Header({ children: [p("Manual of inspection", { alignment: AlignmentType.RIGHT })] }),
          first: new Header({ children: [] }),
        },
        footers: {
          default: new Footer({
            children: [
              new Paragraph({
                tabStops: [{ type: TabStopType.RIGHT, position: 9026 }],
                children: [
                  new TextRun("Lift and escalator inspection\t"),
                  new TextRun({ children: ["Page ", PageNumber.CURRENT, " of ", PageNumber.TOTAL_PAGES] }),
                ],
              }),
            ],
          }),
          first: new Footer({ children: [] }),
        },
        children: [
          p("Manual of inspection", { heading: HeadingLevel.TITLE, spacing: { before: 2400 } }),
          p("For inspectors of the office at Aldmoor"),
          new TableOfContents("Contents", { hyperlink: true, headingStyleRange: "1-2" }),
          ...[1, 2, 3, 4, 5, 6].flatMap(chapter),
          new Paragraph({ children: [new TextRun({ text: "The end", bold: true })] }),
        ],
      },
    ],
  );
}

/** A circular in two columns with a large first letter, a picture beside the text and a frame. */
export function circular(): Promise<Uint8Array> {
  const picture = new ImageRun({
    type: "png",
    data: LOGO,
    transformation: { width: 110, height: 110 },
    altText: { name: "seal", title: "Seal", description: "The seal of the office" },
    floating: {
      horizontalPosition: { relative: HorizontalPositionRelativeFrom.COLUMN, align: HorizontalPositionAlign.RIGHT },
      verticalPosition: { relative: VerticalPositionRelativeFrom.PARAGRAPH, offset: 0 },
      wrap: { type: TextWrappingType.SQUARE, side: TextWrappingSide.BOTH_SIDES },
      margins: { left: 114300, right: 114300, top: 0, bottom: 0 },
    },
  });
  return pack({ title: "Circular" }, [
    {
      children: [
        p("Circular of the inspection office", { heading: HeadingLevel.TITLE, alignment: AlignmentType.CENTER }),
      ],
    },
    {
      properties: { type: SectionType.CONTINUOUS, column: { count: 2, space: 500, separate: true } },
      children: [
        new Paragraph({
          dropCap: { type: DropCapType.DROP, lines: 3 },
          frame: {
            type: "absolute",
            dropCap: DropCapType.DROP,
            lines: 3,
            width: 0,
            height: 0,
            position: { x: 0, y: 0 },
            anchor: { horizontal: FrameAnchorType.TEXT, vertical: FrameAnchorType.TEXT },
            wrap: FrameWrap.AROUND,
          },
          spacing: { after: 0, line: 800, lineRule: LineRuleType.EXACT },
          children: [new TextRun({ text: "T", size: 90 })],
        } as never),
        p(WORDS.slice(1).repeat(3), { alignment: AlignmentType.JUSTIFIED }),
        new Paragraph({ children: [picture, new TextRun(WORDS.repeat(4))] }),
        heading("Dates of the autumn", 2),
        p(WORDS.repeat(3)),
      ],
    },
    {
      properties: { type: SectionType.CONTINUOUS },
      children: [p("This stands below both columns."), p(WORDS)],
    },
  ]);
}

/** A contract: clauses numbered on many levels, definitions, signatures side by side. */
export function contract(): Promise<Uint8Array> {
  const level = (at: number, format: (typeof LevelFormat)[keyof typeof LevelFormat], text: string) => ({
    level: at,
    format,
    text,
    alignment: AlignmentType.START,
    style: { paragraph: { indent: { left: 567 * (at + 1), hanging: 567 } } },
  });
  const numbering = {
    config: [
      {
        reference: "clauses",
        levels: [
          level(0, LevelFormat.UPPER_ROMAN, "%1."),
          level(1, LevelFormat.DECIMAL, "%2."),
          level(2, LevelFormat.LOWER_LETTER, "%3)"),
          level(3, LevelFormat.LOWER_ROMAN, "(%4)"),
        ],
      },
    ],
  };
  const clause = (text: string, at: number, options: object = {}) =>
    p(text, { numbering: { reference: "clauses", level: at }, ...options });
  const sign = (text: string) =>
    new TableCell({
      borders: {
        top: { style: BorderStyle.SINGLE, size: 6 },
        left: { style: BorderStyle.NONE },
        right: { style: BorderStyle.NONE },
        bottom: { style: BorderStyle.NONE },
      },
      children: [p(text)],
    });
  return pack({ numbering, title: "Contract" }, [
    {
      properties: {
        page: {
          borders: {
            pageBorders: { display: PageBorderDisplay.ALL_PAGES, offsetFrom: PageBorderOffsetFrom.PAGE },
            pageBorderTop: { style: BorderStyle.DOUBLE, size: 6, space: 24, color: "0F5C5C" },
            pageBorderBottom: { style: BorderStyle.DOUBLE, size: 6, space: 24, color: "0F5C5C" },
            pageBorderLeft: { style: BorderStyle.DOUBLE, size: 6, space: 24, color: "0F5C5C" },
            pageBorderRight: { style: BorderStyle.DOUBLE, size: 6, space: 24, color: "0F5C5C" },
          },
        },
      },
      children: [
        p("Contract of inspection", { heading: HeadingLevel.TITLE, alignment: AlignmentType.CENTER }),
        clause("Subject", 0, { keepNext: true }),
        clause(WORDS, 1),
        clause("the doors of all floors, and", 2),
        clause("the ropes, among them", 2),
        clause("those of the car,", 3),
        clause("those of the governor.", 3),
        clause(WORDS, 1),
        clause("Price", 0, { keepNext: true }),
        clause("The price of an hour is CHF 92.00.", 1),
        new Paragraph({
          indent: { left: 1134 },
          tabStops: [
            { type: TabStopType.DECIMAL, position: 7000 },
            { type: TabStopType.RIGHT, position: 9000, leader: "dot" },
          ],
          children: [new TextRun("hours\t12.5\tCHF 1,150.00")],
        }),
        new Paragraph({
          indent: { left: 1134 },
          tabStops: [
            { type: TabStopType.DECIMAL, position: 7000 },
            { type: TabStopType.RIGHT, position: 9000, leader: "dot" },
          ],
          children: [new TextRun("parts\t7\tCHF 84.30")],
        }),
        clause("Duration", 0, { keepNext: true }),
        clause(WORDS, 1),
        new Paragraph({
          shading: { type: ShadingType.CLEAR, fill: "EEF4F4" },
          border: { left: { style: BorderStyle.SINGLE, size: 24, color: "0F5C5C", space: 8 } },
          indent: { left: 400, right: 400 },
          children: [
            new TextRun({ text: "Mind: ", bold: true, smallCaps: true }),
            new TextRun({ text: "struck out", strike: true }),
            new TextRun(", "),
            new TextRun({ text: "underlined twice", underline: { type: UnderlineType.DOUBLE } }),
            new TextRun(", H"),
            new TextRun({ text: "2", subScript: true }),
            new TextRun("O, m"),
            new TextRun({ text: "2", superScript: true }),
            new TextRun({ text: ", wide", characterSpacing: 60 }),
            new TextRun({ text: ", marked", highlight: "yellow" }),
            new ExternalHyperlink({
              link: "https://lifts.example/terms",
              children: [new TextRun({ text: ", terms", color: "0F5C5C", underline: {} })],
            }),
          ],
        }),
        p("", { spacing: { before: 900 } }),
        new Table({
          width: { size: 100, type: WidthType.PERCENTAGE },
          rows: [new TableRow({ children: [sign("For the office"), sign("For the house")] })],
        }),
      ],
    },
  ]);
}

/** A protocol form: merged cells, turned headings, fixed heights, a table in a cell. */
export function form(): Promise<Uint8Array> {
  const cell = (text: string, options: object = {}) =>
    new TableCell({ children: [p(text, { spacing: { after: 0 } })], ...options });
  const inner = new Table({
    rows: [new TableRow({ children: [cell("yes"), cell("no")] }), new TableRow({ children: [cell("☐"), cell("☑")] })],
  });
  return pack({ title: "Protocol" }, [
    {
      properties: {
        page: {
          size: { orientation: PageOrientation.LANDSCAPE, width: 11906, height: 16838 },
          margin: { top: 900, bottom: 900, left: 900, right: 900 },
        },
      },
      children: [
        heading("Protocol of an inspection", 1),
        new Table({
          layout: TableLayoutType.FIXED,
          columnWidths: [900, 4000, 3000, 3000, 3000],
          rows: [
            new TableRow({
              height: { value: 700, rule: HeightRule.ATLEAST },
              children: [
                cell("Unit", {
                  rowSpan: 3,
                  textDirection: TextDirection.BOTTOM_TO_TOP_LEFT_TO_RIGHT,
                  verticalAlign: VerticalAlign.CENTER,
                  shading: { fill: "DCE8E8" },
                }),
                cell("Name of the house and of everybody who was there when it was inspected", { columnSpan: 2 }),
                cell("Seal", { rowSpan: 2, columnSpan: 2, verticalAlign: VerticalAlign.CENTER }),
              ],
            }),
            new TableRow({
              height: { value: 900, rule: HeightRule.EXACT },
              children: [cell("Street"), cell("exactly high")],
            }),
            new TableRow({
              children: [
                cell("Is it safe?"),
                new TableCell({ children: [inner, p("")] }),
                cell("right", { verticalAlign: VerticalAlign.BOTTOM }),
                cell("Remarks", { shading: { fill: "FFF4D6" } }),
              ],
            }),
          ],
        }),
        p(""),
        p("Widths by their texts:"),
        new Table({
          rows: [
            new TableRow({ children: [cell("Short"), cell("A much longer heading than the others"), cell("Value")] }),
            new TableRow({ children: [cell("1"), cell(WORDS), cell("1,234.50")] }),
          ],
        }),
      ],
    },
  ]);
}

/** A certificate in the middle of its page. */
export function certificate(): Promise<Uint8Array> {
  const center = { alignment: AlignmentType.CENTER };
  return pack({ title: "Certificate" }, [
    {
      properties: {
        verticalAlign: VerticalAlign.CENTER,
        page: { size: { width: 16838, height: 11906, orientation: PageOrientation.PORTRAIT } },
      },
      children: [
        new Paragraph({
          ...center,
          children: [new TextRun({ text: "Certificate", size: 72, font: "Cambria", color: "0F5C5C" })],
        }),
        p("for the lift L-12 in the house", center),
        new Paragraph({ ...center, children: [new TextRun({ text: "Harbour House, Aldmoor", bold: true, size: 32 })] }),
        p("Inspected on 5 October 2026 without a fault.", { ...center, spacing: { before: 400 } }),
        new Paragraph({
          ...center,
          children: [
            new ImageRun({
              type: "png",
              data: LOGO,
              transformation: { width: 90, height: 90 },
              altText: { name: "seal", title: "Seal", description: "Seal" },
              floating: {
                horizontalPosition: {
                  relative: HorizontalPositionRelativeFrom.PAGE,
                  align: HorizontalPositionAlign.CENTER,
                },
                verticalPosition: {
                  relative: VerticalPositionRelativeFrom.MARGIN,
                  align: VerticalPositionAlign.BOTTOM,
                },
                wrap: { type: TextWrappingType.NONE },
              },
            }),
          ],
        }),
      ],
    },
  ]);
}

/** A letter in Hebrew with numbers and Latin words in it. */
export function hebrew(): Promise<Uint8Array> {
  const line = (text: string, options: object = {}) =>
    new Paragraph({
      bidirectional: true,
      ...options,
      children: [new TextRun({ text, rightToLeft: true, font: "Arial" })],
    });
  return pack({ title: "Letter" }, [
    {
      children: [
        line("שלום רב,", { alignment: AlignmentType.START }),
        line(
          "המעלית L-12 בבית Harbour House נבדקה ביום 5.10.2026 (בלי תקלות). הבדיקה הבאה תהיה בעוד חצי שנה, ועד אז אפשר להשתמש בה בלי הגבלה.",
        ),
        p("Left to right again: the Hebrew word מעלית means lift."),
      ],
    },
  ]);
}

/** A ledger: a long table whose rows break, with headings on each page. */
export function ledger(): Promise<Uint8Array> {
  const cell = (text: string, fill?: string) =>
    new TableCell({
      children: [p(text, { spacing: { after: 40 } })],
      ...(fill ? { shading: { fill } } : {}),
      margins: { left: 80, right: 80, top: 40, bottom: 40 },
    });
  return pack({ title: "Ledger" }, [
    {
      children: [
        heading("Ledger of visits", 1),
        new Table({
          width: { size: 100, type: WidthType.PERCENTAGE },
          rows: [
            new TableRow({
              tableHeader: true,
              children: ["Date", "House", "What was found"].map((text) => cell(text, "DCE8E8")),
            }),
            ...Array.from(
              { length: 40 },
              (_, index) =>
                new TableRow({
                  children: [
                    cell(`${1 + (index % 28)}.10.2026`),
                    cell(`House ${index}`),
                    cell(WORDS.repeat(1 + (index % 4))),
                  ],
                }),
            ),
          ],
        }),
      ],
    },
  ]);
}

/** A long report of plain chapters, as many pages as asked for, about. */
export function longReport(pages: number): Promise<Uint8Array> {
  return pack({ title: "Report" }, [
    {
      children: Array.from({ length: pages }, (_, index) => [
        heading(`Chapter ${index + 1}`, 1),
        ...Array.from({ length: 5 }, () => p(WORDS.repeat(3), { alignment: AlignmentType.JUSTIFIED })),
      ]).flat(),
    },
  ]);
}

export const SAMPLES = { manual, circular, contract, form, certificate, hebrew, ledger } as const;
