/** Odd jobs on workbooks that somebody brings along: nothing of them is stored. */
import { FILE_KINDS } from "@corbix/core/run";
import { z } from "zod";
import { count, finding, truth } from "./common.js";
import { endpoint } from "./endpoint.js";

const workbook = z.strictObject({
  name: z.string().min(1).max(255).default("workbook.xlsx").describe("Name of the file, for messages."),
});
const word = z.string().max(1_000);
/** A list of words stands in the address. */
const MAX_LIST_LETTERS = 8_000;
export const wordPairs = z.array(z.strictObject({ from: word.min(1), to: word.default("") })).min(1);

const id = z.string().describe("Names what was made at /made, for a short while.");

export const toolEndpoints = {
  takeSheetsApart: endpoint("post", "/tools/sheets", {
    summary: "Each visible sheet of a workbook as a workbook of its own, values only; the body is the file",
    tag: "Tools",
    query: workbook,
    body: "bytes",
    answer: z.strictObject({ id, sheets: z.array(z.string()), findings: z.array(finding) }),
    statuses: [201],
  }),
  replaceWords: endpoint("post", "/tools/replace", {
    summary: "Replace words in all texts of a workbook's cells; the body is the file",
    tag: "Tools",
    query: workbook.extend({
      from: word.min(1).optional(),
      to: word.default(""),
      pairs: z
        .string()
        .max(MAX_LIST_LETTERS)
        .optional()
        .describe('Several words in one go, as JSON: [{"from": "Old Mill", "to": "New Mill"}, …].'),
      whole: truth.optional().describe("Only whole words."),
      anyCase: truth.optional().describe("Without regard to capitals."),
    }),
    body: "bytes",
    answer: z.strictObject({
      id,
      total: count,
      cells: z
        .array(z.strictObject({ sheet: z.string(), cell: z.string(), before: z.string(), after: z.string() }))
        .describe("The first 2,000 changed cells."),
    }),
    statuses: [201],
  }),
  holdWorkbook: endpoint("post", "/tools/hold", {
    summary: "Hold a workbook or slide deck for a short while, to be compared with another; the body is the file",
    tag: "Tools",
    query: workbook,
    body: "bytes",
    answer: z.strictObject({ id }),
    statuses: [201],
  }),
  compareWorkbooks: endpoint("post", "/tools/differ", {
    summary:
      "Compare a file that is held with another: workbooks cell by cell, decks by slide and shape; the body is the other file",
    tag: "Tools",
    query: workbook.extend({ with: z.string().describe("Id of the file that is held: it counts as the first.") }),
    body: "bytes",
    answer: z.strictObject({
      cells: count,
      total: count,
      differences: z
        .array(
          z.strictObject({
            sheet: z.string().describe("A sheet, or the number of a slide."),
            cell: z.string().describe("A cell, or the name of a shape."),
            what: z.string(),
            first: z.string(),
            second: z.string(),
          }),
        )
        .describe("The first 2,000 of them."),
    }),
  }),
  putTogether: endpoint("post", "/tools/archive", {
    summary: "Several files that odd jobs made as one archive",
    tag: "Tools",
    body: z.strictObject({ ids: z.array(id.max(100)).min(1).max(1_000) }),
    answer: z.strictObject({ id, files: count }),
    statuses: [201],
  }),
  downloadMade: endpoint("get", "/made/{id}/{kind}", {
    summary: "A file that was made to be looked at, or by an odd job",
    tag: "Tools",
    params: z.strictObject({ id: z.string().max(100), kind: z.enum([...FILE_KINDS, "zip"]) }),
    answer: "application/octet-stream",
  }),
};
