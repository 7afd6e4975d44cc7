/** Odd jobs on workbooks that somebody brings along: nothing of them is stored. */
import { dayInZone } from "@corbix/core/calendar";
import { CorbixError, maybeSerialFromIso } from "@corbix/core/common";
import type { WordPair } from "@corbix/core/workbook";
import { z } from "zod";
import { keepFiles, keptFile } from "../../library/temp-files.js";
import { type Route, route } from "../route.js";
import { finding } from "../shapes.js";

const name = z.string().min(1).max(255).default("workbook.xlsx").describe("Name of the file, for messages.");
const flag = z.enum(["true", "false"]).default("false");
const word = z.string().max(1_000);
/** A list of words stands in the address. */
const MAX_LIST_LETTERS = 8_000;
const pairsSchema = z.array(z.strictObject({ from: word.min(1), to: word.default("") })).min(1);

function wordPairs({
  from,
  to,
  pairs,
}: {
  from?: string | undefined;
  to: string;
  pairs?: string | undefined;
}): WordPair[] {
  if (pairs === undefined && from !== undefined) return [{ from, to }];
  let list: unknown;
  try {
    list = JSON.parse(pairs ?? "");
  } catch {
    list = undefined;
  }
  const checked = pairsSchema.safeParse(list);
  if (checked.success) return checked.data;
  throw new CorbixError("BAD_REQUEST", "Cannot read the words: give `from` and `to`, or `pairs` as a list of both.", {
    where: "pairs",
    advice: '[{"from": "Old Mill", "to": "New Mill"}]',
  });
}
/** Changed cells and differences that one answer lists. */
const LISTED = 2_000;

function bytesOf(body: unknown): Uint8Array {
  if (Buffer.isBuffer(body) && body.length > 0) return body;
  throw new CorbixError("BAD_REQUEST", "Cannot work on nothing: the request holds no file.", {
    where: "body",
    advice: "Send a workbook (.xlsx) as the body.",
  });
}

export function toolRoutes(): Route[] {
  return [
    route("post", "/api/tools/sheets", {
      summary: "Each visible sheet of a workbook as a workbook of its own, values only; the body is the file",
      tag: "Tools",
      query: z.object({ name }),
      body: "bytes",
      answer: z.object({ id: z.string(), sheets: z.array(z.string()), findings: z.array(finding) }),
      handle: async ({ context, query, body }) => {
        const today = maybeSerialFromIso(dayInZone(context.now(), context.settings.zone)) ?? 0;
        const made = await context.threads.isolated("takeApart", { bytes: bytesOf(body), where: query.name, today });
        const archive = query.name.replace(/\.[^.]*$/, "");
        return {
          id: keepFiles([{ name: `${archive} sheets.zip`, bytes: made.archive }]),
          sheets: made.sheets,
          findings: made.findings,
        };
      },
    }),
    route("post", "/api/tools/replace", {
      summary: "Replace words in all texts of a workbook's cells; the body is the file",
      tag: "Tools",
      query: z.object({
        name,
        from: word.min(1).optional(),
        to: word.default(""),
        pairs: z
          .string()
          .max(MAX_LIST_LETTERS)
          .optional()
          .describe('Several words in one go, as JSON: [{"from": "Old Mill", "to": "New Mill"}, …].'),
        whole: flag.describe("Only whole words."),
        anyCase: flag.describe("Without regard to capitals."),
      }),
      body: "bytes",
      answer: z.object({
        id: z.string(),
        total: z.number().int(),
        cells: z.array(z.object({ sheet: z.string(), cell: z.string(), before: z.string(), after: z.string() })),
      }),
      handle: async ({ context, query, body }) => {
        const rule = { pairs: wordPairs(query), whole: query.whole === "true", anyCase: query.anyCase === "true" };
        const made = await context.threads.isolated("replaceIn", { bytes: bytesOf(body), where: query.name, rule });
        const id = keepFiles([{ name: query.name.replace(/(\.xls[xm])?$/i, ".xlsx"), bytes: made.bytes }]);
        return { id, total: made.cells.length, cells: made.cells.slice(0, LISTED) };
      },
    }),
    route("post", "/api/tools/hold", {
      summary: "Hold a workbook for a short while, to be compared with another; the body is the file",
      tag: "Tools",
      query: z.object({ name }),
      body: "bytes",
      answer: z.object({ id: z.string() }),
      handle: async ({ query, body }) => ({
        id: keepFiles([{ name: query.name.replace(/(\.xls[xm])?$/i, ".xlsx"), bytes: bytesOf(body) }]),
      }),
    }),
    route("post", "/api/tools/differ", {
      summary: "Compare a workbook that is held with another cell by cell; the body is the other file",
      tag: "Tools",
      query: z.object({ name, with: z.string().describe("Id of the file that is held: it counts as the first.") }),
      body: "bytes",
      answer: z.object({
        cells: z.number().int(),
        total: z.number().int(),
        differences: z.array(
          z.object({ sheet: z.string(), cell: z.string(), what: z.string(), first: z.string(), second: z.string() }),
        ),
      }),
      handle: async ({ context, query, body }) => {
        const held = keptFile(query.with, "xlsx");
        const { cells, differences } = await context.threads.isolated("compareFiles", {
          first: { bytes: held.bytes, where: held.name },
          second: { bytes: bytesOf(body), where: query.name },
        });
        return { cells, total: differences.length, differences: differences.slice(0, LISTED) };
      },
    }),
    route("get", "/api/made/{id}/{kind}", {
      summary: "A file that was made to be looked at, or by an odd job",
      tag: "Tools",
      params: z.object({ id: z.string(), kind: z.enum(["xlsx", "docx", "pdf", "zip"]) }),
      answer: "application/octet-stream",
      handle: async ({ params, response }) => {
        const file = keptFile(params.id, params.kind);
        const bytes = Buffer.from(file.bytes);
        if (params.kind === "pdf") response.type("application/pdf").send(bytes);
        else response.attachment(file.name).send(bytes);
      },
    }),
  ];
}
