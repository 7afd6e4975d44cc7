/** Reports that are asked: what to fill in, what was found, files of it, and who may ask without a sign-in. */
import { z } from "zod";
import {
  byName,
  cell,
  cells,
  column,
  columnType,
  count,
  day,
  digest,
  fileKind,
  instant,
  name,
  page,
  paging,
  runId,
  whole,
} from "./common.js";
import { endpoint } from "./endpoint.js";

const form = z
  .strictObject({
    name,
    of: z.enum(["list", "row"]).describe("Whether it is made of all rows that were found, or of one."),
    kinds: z.array(fileKind),
  })
  .meta({ id: "AnswerForm" });

const enquirySummary = z
  .strictObject({ name, title: z.string(), data: z.string(), fields: z.array(z.string()).describe("What is asked.") })
  .meta({ id: "EnquirySummary" });

const enquiry = z
  .strictObject({
    name,
    title: z.string(),
    data: z.string(),
    edition: z.strictObject({ number: whole, origin: z.string(), rowCount: count, createdAt: instant }),
    fields: z.array(
      z.strictObject({
        name,
        label: z.string(),
        kind: z.enum(["choose", "between", "search"]),
        columns: z.array(z.string()),
        type: columnType,
        needed: z.boolean(),
        choices: z.array(z.strictObject({ value: cell, count })).describe("Of a choice: the values in order."),
        choiceCount: count.describe("How many different values there are; of very many the most frequent are listed."),
      }),
    ),
    columns: z.array(column).describe("Columns of the answer."),
    forms: z.array(form),
  })
  .meta({ id: "Enquiry" });

const fieldValue = z
  .union([
    z.string().max(2_000),
    z.array(z.string().max(2_000)).max(1_000),
    z.strictObject({ from: z.string().max(100).optional(), to: z.string().max(100).optional() }),
  ])
  .describe("A text, several values of which any may stand, or two ends; `a..b` is two ends too.");

const question = z
  .strictObject({
    id: runId,
    report: name,
    edition: whole.describe("Number of the edition that was asked."),
    day: day.describe("What was today."),
    values: z.record(z.string(), fieldValue).describe("As it was asked."),
    filled: z.array(z.strictObject({ name, label: z.string(), value: z.string() })).describe("As people read it."),
    found: count,
    of: count.describe("Rows there were to be found."),
    askedBy: z.string(),
    isColleague: z.boolean().describe("Whether somebody asked who has no sign-in."),
    askedAt: instant,
    files: z
      .array(
        z.strictObject({
          form: name,
          kind: fileKind,
          row: whole.nullable().describe("Number of the one row it shows."),
          size: count,
          sha256: digest,
          madeBy: z.string(),
          madeAt: instant,
        }),
      )
      .describe("What was made of the answer."),
  })
  .meta({ id: "Question" });

const answer = z
  .strictObject({
    question,
    columns: z.array(column),
    rowNumbers: z.array(z.number()).describe("Numbers of the rows in their origin."),
    rows: cells,
    first: count.describe("Place of the first of these rows among those found, from 0."),
    next: z.string().nullable(),
    hints: z.array(z.string()).describe("Where nothing was found: why that may be."),
  })
  .meta({ id: "Answer" });

const colleague = z
  .strictObject({
    name: z.string(),
    reports: z.array(z.string()).nullable().describe("What may be asked; everything that can be, without any."),
    createdBy: z.string(),
    createdAt: instant,
    usedAt: instant.nullable(),
  })
  .meta({ id: "Colleague" });

const byColleague = z.strictObject({ colleague: z.string().trim().min(1).max(100) });
const byQuestion = z.strictObject({ id: runId });

export const enquiryEndpoints = {
  listEnquiries: endpoint("get", "/enquiries", {
    summary: "Reports that are asked",
    tag: "Enquiries",
    query: paging,
    answer: page(enquirySummary),
  }),
  showEnquiry: endpoint("get", "/enquiries/{name}", {
    summary: "What there is to fill in, with the values to choose from, and the forms an answer can have",
    tag: "Enquiries",
    params: byName,
    answer: enquiry,
  }),
  ask: endpoint("post", "/enquiries/{name}/questions", {
    summary: "Ask: the rows that match, the first of them at once; what was asked is kept",
    tag: "Enquiries",
    params: byName,
    body: z.strictObject({
      values: z.record(z.string(), fieldValue).default({}).describe("By field; what is left out asks nothing."),
      limit: z.number().int().min(1).max(1_000).default(100).describe("Rows of this answer."),
    }),
    answer,
    statuses: [201],
  }),
  listQuestions: endpoint("get", "/questions", {
    summary: "What was asked, the newest first",
    tag: "Enquiries",
    query: paging.extend({ report: name.optional() }),
    answer: page(question),
  }),
  showQuestion: endpoint("get", "/questions/{id}", {
    summary: "A question with rows of its answer, as the data were when it was asked",
    tag: "Enquiries",
    params: byQuestion,
    query: paging.extend({
      first: z.coerce.number().int().min(0).optional().describe("Begin at this row of those found, from 0."),
    }),
    answer,
  }),
  showAnswerRow: endpoint("get", "/questions/{id}/rows/{row}", {
    summary: "All columns of one row that was found",
    tag: "Enquiries",
    params: z.strictObject({ id: runId, row: z.coerce.number().int().min(1) }),
    answer: z.strictObject({ columns: z.array(column), rowNumber: whole, cells: z.array(cell) }),
  }),
  downloadAnswer: endpoint("get", "/questions/{id}/files/{form}/{kind}", {
    summary: "The answer as a file: a list, or the page of one row",
    tag: "Enquiries",
    params: z.strictObject({ id: runId, form: name, kind: fileKind }),
    query: z.strictObject({ row: z.coerce.number().int().min(1).optional().describe("Of a page: number of the row.") }),
    answer: "application/octet-stream",
  }),
  listColleagues: endpoint("get", "/colleagues", {
    summary: "Who may ask and nothing else, without a sign-in",
    tag: "Enquiries",
    query: paging,
    answer: page(colleague),
  }),
  saveColleague: endpoint("put", "/colleagues/{colleague}", {
    summary: "Let somebody ask, by an address of their own; it is told once, and an earlier one ends",
    tag: "Enquiries",
    params: byColleague,
    body: z.strictObject({ reports: z.array(name).min(1).nullable().default(null) }),
    answer: colleague.extend({ address: z.string().describe("What they open; it is not shown again.") }),
  }),
  deleteColleague: endpoint("delete", "/colleagues/{colleague}", {
    summary: "Let somebody ask no more, at once",
    tag: "Enquiries",
    params: byColleague,
    answer: z.strictObject({ ok: z.literal(true) }),
  }),
};
