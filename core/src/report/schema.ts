import { z } from "zod";
import { CHART_KINDS, DECK_PAGES, GROWTH_PLACES } from "../common/index.js";
import { expressionSchema as expression, nameSchema, otherDatasets, shortFormSchema } from "../prepare/index.js";
import { enquirySchema } from "./enquiry-schema.js";
import { text } from "./fields.js";
import { listSchema } from "./list-schema.js";
import { periodSchema, scheduleSchema, startOnDataSchema } from "./time-schema.js";
import { wayOutSchema } from "./way-schema.js";

const tableColumnSchema = z.union([
  text,
  z.strictObject({
    column: text,
    heading: text.optional(),
    format: text.optional().describe("Number format code of ECMA-376, such as #,##0.00."),
    total: z.enum(["sum", "count", "average"]).optional(),
  }),
]);

const colour = z.string().regex(/^[0-9A-Fa-f]{6}$/, "expected six hexadecimal digits, such as 2f6b57");

const tableSchema = z.strictObject({
  lines: z
    .string()
    .optional()
    .describe("Lines it shows, by the name the report gives them; the group's own if left out."),
  sheet: text.default("Rows").describe("Name of the sheet; marks are filled."),
  title: text.optional().describe("A line above the table; marks are filled."),
  columns: z.array(tableColumnSchema).min(1).optional().describe("Columns in order; all, if none are named."),
  colour: colour.default("2f6b57").describe("Colour of the headings."),
  style: text.optional().describe("Name of a table style that workbooks know, such as TableStyleMedium2."),
  bands: colour.optional().describe("Ground of every other row; its own, in place of a style."),
  totalColour: colour.optional().describe("Ground of the totals."),
  lineTotal: text.optional().describe("Heading of a last column with each line's sum."),
});

const slideSchema = z
  .strictObject({
    title: text.describe("Its title; marks are filled, here and in everything else on it."),
    cover: z.boolean().default(false).describe("Whether it is a cover: title and text large on the deck's colour."),
    text: z.string().min(1).max(20_000).optional().describe("Text below the title, a paragraph a line."),
    bullets: z
      .array(text)
      .min(1)
      .optional()
      .describe(
        "Lines with bullets; `>` before one sets it a level deeper, `{{repeat line}}` and `{{end}}` stand in lines of their own.",
      ),
    table: text
      .optional()
      .describe('A table of the lines, its columns as in `{{table line: …}}`: `unit, fee headed "Fee" total`.'),
    chart: z
      .strictObject({
        kind: z.enum(CHART_KINDS).default("upright"),
        of: text.describe("What it shows: the categories, then the values: `unit, hours, fee`."),
      })
      .optional()
      .describe("A chart made from the lines."),
    picture: text
      .optional()
      .describe("File name of a picture among the templates, or a mark that gives one; `{{ qr … }}` draws a code."),
    notes: z.string().min(1).max(20_000).optional().describe("What the speaker sees."),
    each: z
      .strictObject({
        lines: text.default("line").describe("Name of the lines; the group's own if left out."),
        where: expression.optional().describe("Condition over a line."),
        by: expression
          .optional()
          .describe("Column or expression; a slide for each different value in place of each line."),
      })
      .optional()
      .describe("A slide for each line, or each sub-group of them."),
    when: expression.optional().describe("Condition over the group; the slide is there only where it is true."),
  })
  .refine(
    (slide) => !slide.cover || (!slide.table && !slide.chart && !slide.picture && !slide.bullets),
    "a cover has a title and a text",
  );

const slidesSchema = z.strictObject({
  size: z.enum(["wide", "standard"]).default("wide").describe("16 to 9, or 4 to 3."),
  colour: colour.default("2f6b57").describe("Colour of the cover, of titles and charts."),
  font: text.default("Calibri"),
  foot: text.optional().describe("A line at the foot of each slide; marks are filled."),
  list: z.array(slideSchema).min(1).max(200).describe("The slides in order."),
});

const linesName = text
  .optional()
  .describe(
    "Lines it shows: those named in the report, or `all` for the rows of all groups; the group's own if left out.",
  );

const namedTableSchema = z.strictObject({
  lines: linesName,
  fields: z
    .record(z.string(), text)
    .optional()
    .describe("Of a defined table: a text with marks under a heading that is no column's name."),
  columns: z
    .array(tableColumnSchema)
    .min(1)
    .optional()
    .describe("Of a whole table at a named place: its columns in order; all, if none are named."),
  style: text.optional().describe("Of a whole table: name of a table style the workbook knows."),
  banded: z.boolean().default(true).describe("Of a whole table: whether every other row has a ground."),
  lineTotal: text.optional().describe("Of a whole table: heading of a last column with each line's sum."),
});

/** Names before a dot that mean something else. */
const TAKEN = new Set(["line", "all", "recipient", "period", "run", "group", "groups"]);

const linesSchema = z
  .strictObject({
    data: nameSchema.describe("Dataset of these lines; its newest edition, unless a run names another."),
    match: z
      .record(z.string(), z.string())
      .refine((match) => Object.keys(match).length > 0, "expected at least one column here and its partner there")
      .optional()
      .describe(
        "Column of the report's rows: column of these. A line belongs to the group that has such rows. Without it every group sees all of them.",
      ),
    period: text.optional().describe("A date column; only lines of the run's period are taken."),
    forAll: z
      .boolean()
      .default(false)
      .describe("Of lines without a match: whether their rows may leave with every group's files."),
    ...shortFormSchema,
  })
  .refine(
    (lines) => !lines.forAll || lines.match === undefined,
    "lines that match a group are that group's: no forAll",
  );

const protectSchema = z
  .strictObject({
    password: text
      .optional()
      .describe("What the file opens with, PDF included; with marks, such as {{ recipient.password }}. Never blank."),
    sheets: z.boolean().default(false).describe("Whether locked cells of a workbook cannot be changed."),
    sheetPassword: text.optional().describe("What unlocks the sheets; marks are filled."),
    readOnly: z.boolean().default(false).describe("Whether programs suggest to open a workbook for reading only."),
    allow: z
      .array(z.enum(["print", "copy", "change", "comment"]))
      .optional()
      .describe("What may be done with the PDF; everything, if left out."),
  })
  .refine((lock) => lock.sheets || lock.sheetPassword === undefined, "a sheetPassword needs sheets: true");

const fileSchema = z
  .strictObject({
    template: text
      .optional()
      .describe("File name of a workbook (.xlsx), document (.docx) or slide deck (.pptx) template."),
    table: tableSchema
      .optional()
      .describe("Instead of a template: a workbook with the group's lines as a table to sort and filter."),
    slides: slidesSchema
      .optional()
      .describe(
        "Instead of a template: a slide deck made from a list of slides, with texts, tables, charts and pictures.",
      ),
    list: listSchema
      .optional()
      .describe(
        "Instead of a template: the group's lines in a plain form, such as delimited text or calendar entries.",
      ),
    name: text.describe("Name of the made file without its ending; marks are filled."),
    folder: text.optional().describe("Folder it is put in; marks are filled."),
    pages: z
      .enum(DECK_PAGES)
      .optional()
      .describe("Of a slide deck: what a page of its PDF holds: a slide, a slide with its notes, or several slides."),
    hiddenSlides: z.boolean().default(false).describe("Whether hidden slides of a deck are pages of its PDF too."),
    pdf: z.enum(["no", "too", "only"]).default("no").describe("Whether a PDF is made too, or only the PDF is kept."),
    archive: z.boolean().default(false).describe("Whether the PDF is made for keeping (ISO 19005-2, level B)."),
    protect: protectSchema.optional(),
    when: expression.optional().describe("Condition over the group; the file is made only where it is true."),
    cells: z
      .record(z.string(), text)
      .optional()
      .describe("Texts with marks for cells of a workbook template, by name or as `Summary!B2`."),
    tables: z
      .record(z.string(), namedTableSchema)
      .optional()
      .describe(
        "Tables of a workbook template to be filled by name, and named places (of a document: bookmarks) where a whole table goes.",
      ),
    sheetPer: z
      .strictObject({
        by: expression.describe("Column or expression over a line; each different value gets a sheet."),
        sheet: text.optional().describe("The template's sheet that is cloned; the first if none is named."),
        name: text.optional().describe("Name of each sheet; marks are filled. The value if left out."),
        contents: z
          .strictObject({ sheet: text.default("Contents"), title: text.optional() })
          .optional()
          .describe("A first sheet with links to the others, their rows and the report's totals."),
      })
      .optional()
      .describe("A sheet for each value among the group's lines."),
    followedBy: z
      .array(z.union([text, z.strictObject({ template: text, when: expression.optional() })]))
      .min(1)
      .optional()
      .describe(
        "Documents put behind the template in the same file, each with its own sections, or decks behind a deck; some on a condition.",
      ),
    grows: z
      .union([z.boolean(), z.enum(GROWTH_PLACES)])
      .default(false)
      .describe(
        "Whether a document or deck keeps what was delivered in earlier periods and gets a new section, or slides made from its hidden ones, for each; of a deck also where they stand.",
      ),
    values: z
      .boolean()
      .default(false)
      .describe(
        "Whether a workbook leaves with values only, without formulas, and a deck without the workbooks behind its charts.",
      ),
    sheets: z
      .array(text)
      .min(1)
      .optional()
      .describe("With `values`: the sheets that stay, as they are called when filled; all others are taken out."),
  })
  .refine(
    (file) => [file.template, file.table, file.slides, file.list].filter((one) => one !== undefined).length === 1,
    "expected either a template, a table, slides or a list",
  )
  .refine(
    (file) => file.template !== undefined || (file.cells === undefined && file.tables === undefined),
    "cells and tables are filled in a template only",
  )
  .refine(
    (file) =>
      file.list === undefined ||
      (file.pdf === "no" && !file.archive && !file.protect && !file.sheetPer && !file.values),
    "a list has no PDF, no protection and no sheets",
  )
  .refine(
    (file) => !file.archive || (file.protect?.password === undefined && file.protect?.allow === undefined),
    "a PDF made for keeping takes no password and no limits",
  )
  .refine(
    (file) => (!file.grows && file.followedBy === undefined) || /\.(?:docx|pptx)$/i.test(file.template ?? ""),
    "followedBy and grows belong to a document (.docx) or a slide deck (.pptx)",
  )
  .refine(
    (file) => typeof file.grows === "boolean" || /\.pptx$/i.test(file.template ?? ""),
    "a document grows at its end: grows: true",
  )
  .refine(
    (file) =>
      (file.pages === undefined && !file.hiddenSlides) ||
      file.slides !== undefined ||
      /\.pptx$/i.test(file.template ?? ""),
    "pages and hiddenSlides belong to a slide deck",
  )
  .refine((file) => file.slides === undefined || file.sheetPer === undefined, "sheetPer belongs to a workbook")
  .refine(
    (file) =>
      (file.slides === undefined && !/\.(?:docx|pptx)$/i.test(file.template ?? "")) ||
      (file.sheets === undefined && !file.protect?.sheets),
    "sheets belong to a workbook: neither sheets nor protect, sheets here",
  )
  .refine((file) => !file.grows || file.pdf !== "only", "what grows is kept as it is: pdf: too")
  .refine((file) => !file.grows || file.protect?.password === undefined, "what grows takes no password")
  .refine((file) => file.sheets === undefined || file.values, "sheets are chosen with values: true only");

const long = z.string().min(1).max(100_000);
const wordsSchema = {
  subject: text,
  body: z
    .union([
      z.strictObject({ template: text }),
      z.strictObject({ html: long }),
      z.strictObject({ markdown: long }),
      z.strictObject({ text: long }),
    ])
    .describe("A template by file name (.html, .md or .txt), or HTML, Markdown or plain text written here."),
  text: z
    .union([z.strictObject({ template: text }), long])
    .optional()
    .describe("Plain text for those who do not see HTML; made from the HTML if left out."),
};

const messageSchema = z.strictObject({
  ...wordsSchema,
  languages: z
    .record(z.string().regex(/^[a-z]{2,3}(-[A-Za-z0-9]{2,8})*$/), z.strictObject(wordsSchema))
    .default({})
    .describe("The same in other languages, for people of the list who read those."),
  each: z
    .enum(["group", "person"])
    .default("group")
    .describe("One message for all people of a group, or one for each person."),
  attach: z
    .array(
      z.union([
        z.string(),
        z.strictObject({ fixed: text.describe("A file among the templates that goes to everybody.") }),
        z.strictObject({
          found: text.describe("A file in the folder of attachments; marks are filled, * and ? stand for any letters."),
          needed: z
            .union([z.boolean(), z.literal("group")])
            .default(true)
            .describe(
              "A group without one stops the run (true), is left out with the reason (group), or gets its message without it (false).",
            ),
          forAll: z
            .boolean()
            .default(false)
            .describe("Whether several groups may get the same file; otherwise the name has to be of the group."),
        }),
      ]),
    )
    .default([])
    .describe("Files of the report by name; `name.pdf` for the PDF of a file that is also kept as it is."),
});

const copySchema = z.union([
  z.email(),
  z.strictObject({
    column: text.describe("Column of the rows that holds addresses for copies of their group's message."),
  }),
]);

const deliverySchema = z.strictObject({
  to: z
    .union([
      z.literal("recipients"),
      z.strictObject({
        column: text.describe("Column of the rows that holds addresses."),
        name: text.optional().describe("Column that holds the name."),
        besides: z.boolean().default(false).describe("Whether the people of the list get it as well."),
      }),
      z.strictObject({
        by: text.describe("Column of the rows whose value is looked up in the list, in place of the group's name."),
      }),
      z.strictObject({
        addresses: z.array(z.email()).min(1).describe("The same people for every group."),
        name: text.optional().describe("How a message addresses them."),
      }),
    ])
    .default("recipients")
    .describe(
      "Who receives: the people of the shared list, by the group or by another column; the addresses that the rows carry, and where a group's rows carry none, its people of the list; or the same addresses always.",
    ),
  narrow: z
    .record(z.string(), z.union([text, z.array(text).min(1)]))
    .optional()
    .describe("Of the list only people whose field has one of these values."),
  instead: z
    .array(z.strictObject({ group: text, to: text, name: text.optional(), copies: text.optional() }))
    .optional()
    .describe("Who receives for single groups in place of the list."),
  copies: z
    .array(copySchema)
    .default([])
    .describe("Who gets a copy of every message, or of the message about their rows."),
  blindCopies: z.array(copySchema).default([]).describe("Who gets a copy without being named."),
  from: text.default("office").describe("Name of a sending identity."),
  sender: z.email().optional().describe("Another address to send as; the identity has to allow it."),
  replyTo: z.email().optional(),
  headers: z
    .record(
      z.string().regex(/^X-[A-Za-z0-9-]{1,60}$/, "expected a header's name that begins with X-"),
      z
        .string()
        .max(500)
        .regex(/^[\x20-\x7e]*$/, "expected one line of plain characters"),
    )
    .default({})
    .describe("Further headers of each message."),
  importance: z.enum(["low", "normal", "high"]).default("normal"),
  files: z
    .enum(["attach", "link"])
    .default("attach")
    .describe("Whether files are attached, or each person gets a page of links to them."),
  linkDays: z.number().int().min(1).max(366).default(30).describe("How long links work."),
  hold: z.boolean().default(true).describe("Whether the run waits for somebody's release."),
  approvals: z
    .union([z.literal(1), z.literal(2)])
    .default(1)
    .describe("How many different people have to release it."),
  apart: z
    .boolean()
    .default(false)
    .describe("Whether they have to be others than who started the run and who saved the report last."),
});

/** What only a report has that is run. */
const RUN_ONLY = [
  "split",
  "period",
  "once",
  "message",
  "waysOut",
  "schedule",
  "figures",
  "records",
  "startOnData",
] as const;

function isAskedOnly(report: { readonly [Name in (typeof RUN_ONLY)[number]]?: unknown }): boolean {
  return RUN_ONLY.every((name) => {
    const value = report[name];
    return value === undefined || value === false || (name === "waysOut" && Object.keys(value as object).length === 0);
  });
}

/** What a report says, as written. The JSON Schema of this is served by the service and told in docs/definition.md. */
export const reportSchema = z
  .strictObject({
    report: nameSchema,
    title: text,
    data: nameSchema.describe("Dataset; its newest edition is used unless a run names another."),
    period: periodSchema.optional(),
    once: z
      .union([z.enum(["period", "edition", "hand"]), z.strictObject({ per: z.array(text).min(1) })])
      .optional()
      .describe(
        "What may happen once: a delivery per period (where there is one), per edition of the data (where there is none), per row told apart by columns, or by hand: whenever a person runs it.",
      ),
    locale: z
      .string()
      .regex(/^[a-z]{2,3}(-[A-Za-z0-9]{2,8})*$/)
      .default("en-GB")
      .describe("Language tag for the names of months and the signs in numbers."),
    ...shortFormSchema,
    lines: z
      .record(
        z
          .string()
          .regex(/^[a-z][a-z0-9_]{0,40}$/, "expected small letters, digits and underscores, such as costs")
          .refine((name) => !TAKEN.has(name), "expected a name that does not mean something else already"),
        linesSchema,
      )
      .default({})
      .describe("Further lines of a group, of other datasets, by the name they have in templates: {{ costs.amount }}."),
    split: z
      .union([
        text,
        z.array(text).min(1),
        z.strictObject({ one: text.describe("What the one group of all rows is called.") }),
        z.strictObject({ row: z.array(text).min(1).describe("Columns whose values name a row; no two rows alike.") }),
      ])
      .describe(
        "Columns whose values make the groups; or one group of all rows, by a name; or a group for each row, named by columns. Without it all rows are one group, called as the report is.",
      )
      .optional(),
    totals: z.record(z.string(), expression).default({}),
    files: z.record(nameSchema, fileSchema).default({}),
    message: messageSchema.optional(),
    delivery: deliverySchema.prefault({}),
    waysOut: z
      .record(nameSchema, wayOutSchema)
      .default({})
      .describe("Where files go by themselves once the run is released, besides mail: each way out by its name."),
    schedule: scheduleSchema.optional(),
    figures: z
      .strictObject({
        dataset: nameSchema.describe("Dataset of their own; each run makes its next edition."),
        when: z
          .enum(["done", "released"])
          .default("done")
          .describe(
            "When nothing is on its way any more, so that what became of each message stands there; or at once.",
          ),
      })
      .optional()
      .describe(
        "Whether a released run's figures become data: a row for each group with its rows, totals, files, people and what became of its message. Other reports go by them.",
      ),
    whenNothing: z
      .union([
        z.enum(["end", "stop"]),
        z.strictObject({
          tell: z.array(z.email()).min(1).describe("Who gets a mail that there is nothing this time."),
        }),
      ])
      .default("end")
      .describe("What becomes of a run whose rows are all left out by conditions: it ends quietly, or it stops."),
    retention: z
      .strictObject({
        files: z.number().int().min(1).max(1200).optional(),
        messages: z.number().int().min(1).max(1200).optional(),
        rows: z.number().int().min(1).max(1200).optional(),
      })
      .optional()
      .describe(
        "Months after a run's end when its files, its messages' texts and its rows are deleted; what is not named stays.",
      ),
    records: z
      .strictObject({
        key: z
          .array(text)
          .min(1)
          .optional()
          .describe("Columns that tell a record from others; or the caller's Idempotency-Key does."),
        lines: text
          .optional()
          .describe("The list inside of a record whose entries are its lines; the only one if left out."),
        callbacks: z
          .array(z.url({ protocol: /^https?$/ }))
          .optional()
          .describe("Addresses that may be told when a record's run is done, or beginnings of them."),
      })
      .optional()
      .describe("Whether single records may come in, each with a run of its own at once, and what tells them apart."),
    enquiry: enquirySchema
      .optional()
      .describe("Whether people ask this report: they fill in fields and get the rows that match, without a run."),
    sealed: z
      .boolean()
      .default(false)
      .describe(
        "Whether every part of each file and message is searched for other groups' names before anything goes out.",
      ),
    startOnData: startOnDataSchema
      .default(false)
      .describe("Whether a new edition of its dataset, or of several, if nothing about it stops, starts a run."),
  })
  .refine((report) => report.once !== "period" || report.period !== undefined, {
    path: ["once"],
    message: "once: period needs a period",
  })
  .refine((report) => report.enquiry === undefined || isAskedOnly(report), {
    path: ["enquiry"],
    message:
      "the answer goes to who asks: an enquiry has no split, period, once, message, waysOut, schedule, figures, records or startOnData",
  })
  .transform(({ split, ...report }) => ({ ...report, split: split ?? { one: report.title } }))
  .readonly();

/** What the user wrote. */
export type ReportSpec = z.input<typeof reportSchema>;
/** The complete thing, with its defaults. */
export type Report = z.output<typeof reportSchema>;
export type FileSpec = z.output<typeof fileSchema>;
/** Further lines of a group. */
export type LinesSpec = Report["lines"][string];

/** Of those who get copies the ones that the report names itself. */
export function fixedCopies(copies: Report["delivery"]["copies"]): string[] {
  return copies.filter((one) => typeof one === "string");
}

/** Columns by which a report's rows are put into groups; none where all of them are one. */
export function splitColumns({ split }: Pick<Report, "split">): readonly string[] {
  if (typeof split === "string") return [split];
  if ("one" in split) return [];
  return "row" in split ? split.row : split;
}

/** Names of the datasets whose new editions a report waits for, or is started by. */
export function datasetsAwaited({ data, schedule, startOnData }: Report): string[] {
  const starting = typeof startOnData === "boolean" ? [] : (startOnData.all ?? [data]);
  return [...new Set([...(schedule?.waitFor ?? []), ...starting])];
}

/** Names of the datasets a report needs beside its own. */
export function datasetsBeside(report: Report): string[] {
  const lines = Object.values(report.lines).flatMap((spec) => [spec.data, ...otherDatasets(spec)]);
  return [...new Set([...otherDatasets(report), ...lines])];
}
