import { z } from "zod";
import {
  exportList,
  importList,
  listHistory,
  previewList,
  readListFile,
  removeEntry,
  setEntry,
} from "../../library/recipient-list.js";
import { newestRecipients } from "../../records/index.js";
import { matchingOf } from "../../run/matching.js";
import { type Route, route } from "../route.js";
import { anything, finding, named } from "../shapes.js";

const file = z.object({
  file: z.string().min(1).max(255).describe("Name of the file: .csv, .xlsx, .ods or .vcf."),
  sheet: z.string().max(200).optional(),
  mode: z
    .enum(["replace", "merge"])
    .default("replace")
    .describe("replace: the file is the whole list. merge: who is not in the file stays."),
});
const cell = z.string().max(5_000);
const entrySchema = z.strictObject({
  group: cell.min(1).describe("Several are parted by semicolons; * stands for all."),
  name: cell.default(""),
  addresses: cell.min(1),
  copies: cell.optional(),
  blindCopies: cell.optional(),
  role: z.enum(["to", "copy", "blind copy"]).default("to"),
  dataset: cell.optional().describe("Only for reports of this dataset."),
  language: z
    .string()
    .regex(/^(?:[A-Za-z]{2,3}(?:-[A-Za-z0-9]{2,8})*)?$/, "expected a language, such as de or de-CH")
    .optional(),
  activeFrom: cell.optional(),
  activeUntil: cell.optional(),
  neverSend: z.boolean().default(false),
  fields: z.record(z.string().min(1).max(200), cell).default({}),
});
const kept = z.object({ count: z.number(), findings: z.array(finding) });
const inList = z.object({ row: z.coerce.number().int().min(1) });

export function recipientRoutes(): Route[] {
  return [
    route("get", "/api/recipients", {
      summary: "The shared recipient list",
      tag: "Recipients",
      answer: z
        .object({
          origin: z.string(),
          createdAt: z.string(),
          createdBy: z.string(),
          recipients: z.array(anything),
          findings: z.array(finding),
        })
        .nullable(),
      handle: async ({ context }) => {
        const list = await newestRecipients(context.database);
        if (!list) return null;
        const { origin, createdAt, createdBy, recipients, findings } = list;
        return { origin, createdAt, createdBy, recipients, findings };
      },
    }),
    route("put", "/api/recipients", {
      summary: "Import the shared recipient list from a table or from vCards: replace it, or merge",
      tag: "Recipients",
      query: file,
      body: "stream",
      answer: kept,
      handle: async ({ context, query, request, user }) => {
        const { sha256 } = await context.store.putStream(request, context.settings.uploadLimit);
        const list = await readListFile(context, sha256, query.file, query.sheet);
        const made = await importList(context, { name: query.file, sha256 }, list, query.mode, user.name);
        return { count: made.recipients.length, findings: made.findings };
      },
    }),
    route("post", "/api/recipients/preview", {
      summary: "What an import would change; nothing is kept",
      tag: "Recipients",
      query: file,
      body: "stream",
      answer: z.object({
        changes: z.array(anything),
        unchanged: z.number().int(),
        recipients: z.array(anything),
        findings: z.array(finding),
      }),
      handle: async ({ context, query, request }) => {
        const { sha256 } = await context.store.putStream(request, context.settings.uploadLimit);
        return previewList(context, await readListFile(context, sha256, query.file, query.sheet), query.mode);
      },
    }),
    route("post", "/api/recipients/entries", {
      summary: "Add an entry to the list",
      tag: "Recipients",
      body: entrySchema,
      answer: kept,
      handle: async ({ context, body, user }) => {
        const list = await setEntry(context, undefined, body, user.name);
        return { count: list.recipients.length, findings: list.findings };
      },
    }),
    route("put", "/api/recipients/entries/{row}", {
      summary: "Change the entry of a row",
      tag: "Recipients",
      params: inList,
      body: entrySchema,
      answer: kept,
      handle: async ({ context, params, body, user }) => {
        const list = await setEntry(context, params.row, body, user.name);
        return { count: list.recipients.length, findings: list.findings };
      },
    }),
    route("delete", "/api/recipients/entries/{row}", {
      summary: "Take the entry of a row out of the list",
      tag: "Recipients",
      params: inList,
      answer: kept,
      handle: async ({ context, params, user }) => {
        const list = await removeEntry(context, params.row, user.name);
        return { count: list.recipients.length, findings: list.findings };
      },
    }),
    route("get", "/api/recipients/history", {
      summary: "Who changed the list, when and how",
      tag: "Recipients",
      answer: z.array(anything),
      handle: ({ context }) => listHistory(context),
    }),
    route("get", "/api/recipients/export", {
      summary: "The list as a file that can be imported again",
      tag: "Recipients",
      query: z.object({ as: z.enum(["csv", "xlsx", "vcf"]).default("csv") }),
      answer: "application/octet-stream",
      handle: async ({ context, query, response }) => {
        const { bytes, type } = await exportList(context, query.as);
        response.attachment(`recipients.${query.as}`).type(type).send(Buffer.from(bytes));
      },
    }),
    route("get", "/api/reports/{name}/matching", {
      summary: "Who would receive for each group of a report now, by which rule, or why nobody",
      tag: "Recipients",
      params: named,
      query: z.object({ period: z.string().max(60).optional() }),
      answer: z.array(anything),
      handle: ({ context, params, query }) => matchingOf(context, params.name, query.period),
    }),
  ];
}
